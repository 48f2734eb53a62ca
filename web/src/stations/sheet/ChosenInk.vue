<script setup lang="ts">
import { computed } from 'vue'
import { useChosen } from '@/stores/chosen'
import { useDesk } from '@/stores/desk'

/** Marks on the ink that is chosen, and the frame it is carried, sized and turned by. */
const props = defineProps<{ cssScale: number }>()
const desk = useDesk()
const chosen = useChosen()
const points = (path: number[][]) => path.map((p) => p.join(',')).join(' ')
const mm = (px: number) => px / (props.cssScale || 1)
/** Where the frame is stretched and slanted: left, below, above. */
const sides = computed<[number, number][]>(() => {
  const [left, top, right, bottom] = chosen.box ?? [0, 0, 0, 0]
  const [x, y] = [(left + right) / 2, (top + bottom) / 2]
  return [
    [left, y],
    [x, bottom],
    [x, top],
  ]
})
const grip = (x: number, y: number) => ({ x: x - mm(6), y: y - mm(6), width: mm(12), height: mm(12) })
</script>

<template>
  <svg
    v-if="chosen.box"
    :class="{ dark: desk.sheet?.paper_is_dark }"
    :viewBox="`0 0 ${desk.sheet?.paper.width_mm} ${desk.sheet?.paper.height_mm}`"
    aria-hidden="true"
  >
    <g :transform="`matrix(${chosen.carried.join(' ')})`">
      <polyline v-for="[id, path] in chosen.paths" :key="id" :points="points(path)" data-chosen />
      <rect
        :x="chosen.box[0]"
        :y="chosen.box[1]"
        :width="chosen.box[2] - chosen.box[0]"
        :height="chosen.box[3] - chosen.box[1]"
      />
      <circle :cx="chosen.box[2]" :cy="chosen.box[3]" :r="mm(9)" />
      <circle :cx="chosen.box[2]" :cy="chosen.box[1]" :r="mm(9)" />
      <rect v-for="[x, y] in sides" :key="`${x} ${y}`" class="grip" v-bind="grip(x, y)" />
      <text :x="chosen.box[2] + mm(14)" :y="chosen.box[3] + mm(5)" :font-size="mm(13)">size</text>
      <text :x="chosen.box[2] + mm(14)" :y="chosen.box[1] + mm(5)" :font-size="mm(13)">turn</text>
    </g>
  </svg>
</template>

<style scoped>
svg {
  --mark: #2e5e5a;
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.dark {
  --mark: #a9d6ce;
}
:root[data-surface='e-ink'] svg {
  --mark: #000;
}
:root[data-surface='e-ink'] .dark {
  --mark: #fff;
}
polyline {
  fill: none;
  stroke: var(--mark);
  stroke-opacity: 0.35;
  stroke-width: 1.8;
  stroke-linecap: round;
  stroke-linejoin: round;
  mix-blend-mode: multiply;
}
.dark polyline {
  mix-blend-mode: screen;
}
rect {
  fill: none;
  stroke: var(--mark);
  stroke-width: 1.5px;
  stroke-dasharray: 6px 5px;
  vector-effect: non-scaling-stroke;
}
circle,
.grip {
  fill: #fffdf8;
  stroke-dasharray: none;
  stroke: var(--mark);
  stroke-width: 2px;
  vector-effect: non-scaling-stroke;
}
.dark circle,
.dark .grip {
  fill: #20242b;
}
text {
  font-family: var(--book);
  font-style: italic;
  fill: var(--mark);
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import { applied, gripsOf, isStraight, type Place } from '@/lib/placement'
import { useSelection } from '@/stores/selection'
import { boxOf } from '@/stores/selected-items'
import { useDesk } from '@/stores/desk'

/** Marks on the ink that is chosen, and the frame it is carried, sized and turned by. */
const props = defineProps<{ cssScale: number }>()
const desk = useDesk()
const selection = useSelection()
const points = (path: readonly (readonly number[])[]) => path.map((p) => p.join(',')).join(' ')
const FEW = 400
/** All paths as one shape, so that thousands are carried as lightly as one. */
const shape = computed(() => [...selection.paths.values()].map((path) => `M${points(path)}`).join(''))
/** What a pulled corner makes of them, which no transform of the screen's can show. */
const pulledShape = computed(() => {
  const { carried } = selection
  if (isStraight(carried)) return undefined
  const every = Math.ceil(selection.paths.size / FEW)
  return [...selection.paths.values()]
    .filter((_, k) => k % every === 0)
    .map((path) => `M${points(path.map((p) => applied(carried, p as [number, number])))}`)
    .join('')
})
const frame = computed(() => {
  const [left, top, right, bottom] = selection.box ?? [0, 0, 0, 0]
  const ring: Place[] = [
    [left, top],
    [right, top],
    [right, bottom],
    [left, bottom],
  ]
  return points(isStraight(selection.carried) ? ring : ring.map((p) => applied(selection.carried, p)))
})
const matrix = computed(() =>
  isStraight(selection.carried) ? `matrix(${selection.carried.slice(0, 6).join(' ')})` : undefined,
)
const mm = (px: number) => px / (props.cssScale || 1)
/** Where the frame is stretched, slanted and pulled. */
const sides = computed(() =>
  (selection.box ? gripsOf(selection.box) : []).filter(([grip]) => grip !== 'size' && grip !== 'turn'),
)
const grip = (x: number, y: number) => ({ x: x - mm(6), y: y - mm(6), width: mm(12), height: mm(12) })
</script>

<template>
  <svg
    v-if="selection.box"
    :class="{ dark: desk.sheet?.paper_is_dark }"
    :viewBox="`0 0 ${desk.sheet?.paper.width_mm} ${desk.sheet?.paper.height_mm}`"
    aria-hidden="true"
  >
    <g :transform="matrix">
      <path :d="pulledShape ?? shape" :data-chosen="selection.paths.size" />
      <rect
        v-for="b in selection.items.all.map(boxOf)"
        :key="b.join()"
        data-thing
        :x="b[0]"
        :y="b[1]"
        :width="b[2] - b[0]"
        :height="b[3] - b[1]"
      />
      <polygon class="frame" :points="frame" />
    </g>
    <g v-if="matrix" :transform="matrix">
      <circle :cx="selection.box[2]" :cy="selection.box[3]" :r="mm(9)" />
      <circle :cx="selection.box[2]" :cy="selection.box[1]" :r="mm(9)" />
      <rect v-for="[kind, x, y] in sides" :key="kind" class="grip" :data-grip="kind" v-bind="grip(x, y)" />
      <text :x="selection.box[2] + mm(14)" :y="selection.box[3] + mm(5)" :font-size="mm(13)">size</text>
      <text :x="selection.box[2] + mm(14)" :y="selection.box[1] + mm(5)" :font-size="mm(13)">turn</text>
      <text :x="selection.box[0] - mm(12)" :y="selection.box[3] + mm(5)" :font-size="mm(13)" class="before">pull</text>
    </g>
    <g v-if="selection.corners.length" class="corners">
      <component :is="selection.closed ? 'polygon' : 'polyline'" :points="points(selection.corners)" class="frame" />
      <circle v-for="([x, y], k) in selection.corners" :key="k" :cx="x" :cy="y" :r="mm(7)" data-corner />
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
path,
[data-thing] {
  fill: none;
  stroke: var(--mark);
  stroke-opacity: 0.35;
  stroke-width: 1.8;
  stroke-linecap: round;
  stroke-linejoin: round;
  mix-blend-mode: multiply;
}
.dark path,
.dark [data-thing] {
  mix-blend-mode: screen;
}
.frame {
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
.corners circle {
  fill: var(--mark);
}
.before {
  text-anchor: end;
}
text {
  font-family: var(--book);
  font-style: italic;
  fill: var(--mark);
}
</style>

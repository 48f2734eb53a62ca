<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

/** What is marked on the page and is no ink: prompts, the figure meant, the eraser's rim, refused ink. All in mm. */
const props = defineProps<{
  widthMm: number
  heightMm: number
  dark: boolean
  prompts: Schemas['Prompt'][]
  refused: { left: number; top: number; width: number; height: number }[]
  covers: { id: string; d: string; width: number }[]
  paper: string
  figure: { kind: string; ring: readonly (readonly number[])[] } | undefined
  eraser: { x: number; y: number; radius: number } | undefined
}>()
const box = computed(() => `0 0 ${props.widthMm} ${props.heightMm}`)
const boxes = computed(() =>
  props.prompts.map(({ ask, box_mm: [x, y, right, bottom] }) => ({
    ask,
    x: x!,
    y: y!,
    width: right! - x!,
    height: bottom! - y!,
  })),
)
</script>

<template>
  <svg v-if="covers.length" class="covers" :viewBox="box" :data-covers="covers.length" aria-hidden="true">
    <path v-for="c in covers" :key="c.id" :d="c.d" :stroke="paper" :stroke-width="c.width" />
  </svg>
  <svg v-if="prompts.length" class="prompts" :class="{ dark }" :viewBox="box" aria-hidden="true">
    <g v-for="p in boxes" :key="p.ask">
      <rect :x="p.x" :y="p.y" :width="p.width" :height="p.height" />
      <text :x="p.x + 1.5" :y="p.y + 4">{{ p.ask }}</text>
    </g>
  </svg>
  <svg
    v-if="figure"
    class="rim figure"
    :class="{ dark }"
    :viewBox="box"
    role="img"
    :aria-label="`Lift now for a ${figure.kind}`"
  >
    <polyline :points="figure.ring.map((p) => p.join(',')).join(' ')" :data-figure="figure.kind" />
  </svg>
  <svg v-if="eraser" class="rim" :class="{ dark }" :viewBox="box" aria-hidden="true">
    <circle :cx="eraser.x" :cy="eraser.y" :r="eraser.radius" />
  </svg>
  <svg v-if="refused.length" class="prompts marked" :class="{ dark }" :viewBox="box" aria-hidden="true">
    <rect v-for="(r, k) in refused" :key="k" :x="r.left" :y="r.top" :width="r.width" :height="r.height" />
  </svg>
</template>

<style scoped>
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
/* marks on the paper go by the paper's lightness, whatever surface the desk has */
.prompts {
  --mark: #2e5e5a;
}
.prompts.dark {
  --mark: #a9d6ce;
}
.prompts.marked {
  --mark: #a23b2a;
}
.prompts.marked.dark {
  --mark: #ea9a8b;
}
.prompts rect {
  fill: none;
  stroke: var(--mark);
  stroke-width: 0.15;
  stroke-dasharray: 0.8 1.2;
}
.prompts text {
  font: italic 2.7px var(--book);
  fill: var(--mark);
}
:root[data-surface='e-ink'] .prompts {
  --mark: #000;
}
:root[data-surface='e-ink'] .prompts.dark {
  --mark: #fff;
}
:root[data-surface='e-ink'] .prompts rect,
.prompts.marked rect {
  stroke-width: 0.3;
}
.covers path {
  fill: none;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.rim polyline {
  fill: none;
  stroke: #2e5e5a;
  stroke-width: 3px;
  vector-effect: non-scaling-stroke;
}
.rim.dark polyline {
  stroke: #a9d6ce;
}
.rim circle {
  fill: none;
  stroke: #20242b;
  stroke-width: 1.5px;
  vector-effect: non-scaling-stroke;
}
.rim.dark circle {
  stroke: #fffdf8;
}
</style>

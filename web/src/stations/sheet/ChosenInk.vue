<script setup lang="ts">
import { useChosen } from '@/stores/chosen'
import { useDesk } from '@/stores/desk'

/** Marks on the ink that is chosen. */
const desk = useDesk()
const chosen = useChosen()
const points = (path: number[][]) => path.map((p) => p.join(',')).join(' ')
</script>

<template>
  <svg
    v-if="chosen.ids.length"
    :class="{ dark: desk.sheet?.paper_is_dark }"
    :viewBox="`0 0 ${desk.sheet?.paper.width_mm} ${desk.sheet?.paper.height_mm}`"
    aria-hidden="true"
  >
    <polyline v-for="[id, path] in chosen.paths" :key="id" :points="points(path)" data-chosen />
  </svg>
</template>

<style scoped>
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
  mix-blend-mode: multiply;
}
polyline {
  fill: none;
  stroke: #2e5e5a;
  stroke-opacity: 0.35;
  stroke-width: 1.8;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.dark {
  mix-blend-mode: screen;
}
.dark polyline {
  stroke: #a9d6ce;
}
:root[data-surface='e-ink'] polyline {
  stroke: #000;
}
:root[data-surface='e-ink'] .dark polyline {
  stroke: #fff;
}
</style>

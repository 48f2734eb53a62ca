<script setup lang="ts">
/** Thin lines from notes in the margin to the ink they speak of, in screen pixels of the element they cover. */
defineProps<{ lines: { x0: number; y0: number; x1: number; y1: number }[] }>()
</script>

<template>
  <svg class="leaders" aria-hidden="true">
    <g v-for="(l, i) in lines" :key="i">
      <path class="under" :d="`M${l.x0} ${l.y0}L${l.x0 + (l.x1 > l.x0 ? 10 : -10)} ${l.y0}L${l.x1} ${l.y1}`" />
      <circle class="under" :cx="l.x1" :cy="l.y1" r="3.5" />
      <path :d="`M${l.x0} ${l.y0}L${l.x0 + (l.x1 > l.x0 ? 10 : -10)} ${l.y0}L${l.x1} ${l.y1}`" />
      <circle :cx="l.x1" :cy="l.y1" r="3.5" />
    </g>
  </svg>
</template>

<style scoped>
.leaders {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
  overflow: hidden;
}
/* a light edge under a dark line is seen on any paper and on any surface */
path {
  fill: none;
  stroke: #2e5e5a;
  stroke-width: 1;
  stroke-dasharray: 1.5 3;
}
circle {
  fill: none;
  stroke: #2e5e5a;
  stroke-width: 1.5;
}
.under {
  stroke: #fffdf8;
  stroke-opacity: 0.8;
  stroke-width: 3px;
}
:root[data-surface='e-ink'] path:not(.under) {
  stroke: #000;
  stroke-width: 2;
  stroke-dasharray: 2 5;
}
:root[data-surface='e-ink'] circle:not(.under) {
  stroke: #000;
  stroke-width: 2;
}
</style>

<script setup lang="ts">
/** Thin lines from notes in the margin to the ink they speak of, in screen pixels of the element they cover. */
defineProps<{ lines: { x0: number; y0: number; x1: number; y1: number }[] }>()
</script>

<template>
  <svg class="leaders" aria-hidden="true">
    <g v-for="(l, i) in lines" :key="i">
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
path {
  fill: none;
  stroke: var(--accent);
  stroke-width: 1;
  stroke-dasharray: 1.5 3;
}
circle {
  fill: none;
  stroke: var(--accent);
  stroke-width: 1.5;
}
:root[data-surface='e-ink'] path {
  stroke-width: 2;
  stroke-dasharray: 2 5;
}
:root[data-surface='e-ink'] circle {
  stroke-width: 2;
}
</style>

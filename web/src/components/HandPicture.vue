<script setup lang="ts">
/** A hand on its line, drawn: which side it comes from, and whether it lies below the line or hooks around above it. */
defineProps<{ side: 'left' | 'right'; hooked: boolean }>()
</script>

<template>
  <svg viewBox="0 0 120 84" width="120" height="84" aria-hidden="true">
    <g :transform="side === 'left' ? 'matrix(-1 0 0 1 120 0)' : ''">
      <path class="rule" d="M6 44H114" />
      <template v-if="hooked">
        <path class="ink" d="M62 40c5-9 9-9 9-2s5 5 9-2 9-6 9 0 6 4 12-2" />
        <path class="hand" d="M114 62C104 20 86 4 64 10c-10 3-12 12-5 16l14 2c10 2 22 14 24 38z" />
        <path class="pen" d="M60 41L50 4" />
      </template>
      <template v-else>
        <path class="ink" d="M8 40c5-9 9-9 9-2s5 5 9-2 9-6 9 0 6 4 12-2" />
        <path class="hand" d="M118 80C114 54 96 34 74 32c-9 0-12 8-7 14 6 7 22 14 26 36z" />
        <path class="pen" d="M52 41L88 8" />
      </template>
    </g>
  </svg>
</template>

<style scoped>
path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 2;
  stroke-linecap: round;
  stroke-linejoin: round;
}
.rule {
  stroke: var(--rule);
  stroke-width: 1;
}
.hand {
  fill: var(--card);
}
.pen {
  stroke: var(--accent);
  stroke-width: 4;
}
</style>

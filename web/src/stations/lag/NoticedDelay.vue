<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'

/** Every answer over the delay that was added, and where the thresholds lie. */
const props = defineProps<{ turns: Schemas['Turn'][]; feel: Schemas['Feel'] }>()
const ROWS = ['laggy', 'slight', 'none'] as const
const TICKS = [5, 10, 20, 50, 100, 200, 500]
const NOTHING = 58 // where turns without added delay stand
const [LEFT, RIGHT, TOP, ROW] = [96, 434, 14, 26]
const x = (ms: number) =>
  ms > 0 ? LEFT + ((RIGHT - LEFT) * Math.log(Math.max(ms, 4) / 4)) / Math.log(500 / 4) : NOTHING
/** Answers that fall on each other stand beside each other. */
const marks = computed(() => {
  const stood = new Map<string, number>()
  return props.turns.map((t) => {
    const key = `${t.answer}/${Math.round(x(t.added_ms) / 6)}`
    const before = stood.get(key) ?? 0
    stood.set(key, before + 1)
    return { ...t, x: x(t.added_ms) + 5 * before, y: TOP + ROW * (ROWS.indexOf(t.answer) + 0.5) }
  })
})
const bounds = computed(() =>
  [props.feel.noticed, props.feel.disturbed].filter((b) => b.added_ms !== null && b.low_ms !== null),
)
</script>

<template>
  <figure>
    <svg viewBox="0 0 452 116" role="img" :aria-label="`${turns.length} answers over the delay that was added`">
      <g v-for="b in bounds" :key="b.words" class="bound">
        <rect :x="x(b.low_ms!)" :y="TOP" :width="x(b.high_ms!) - x(b.low_ms!)" :height="ROW * 3" />
        <line :x1="x(b.added_ms!)" :x2="x(b.added_ms!)" :y1="TOP" :y2="TOP + ROW * 3" />
      </g>
      <g v-for="(word, k) in ROWS" :key="word">
        <line class="rule" :x1="NOTHING - 14" :x2="RIGHT" :y1="TOP + ROW * (k + 1)" :y2="TOP + ROW * (k + 1)" />
        <text x="0" :y="TOP + ROW * (k + 0.5) + 5">{{ word }}</text>
      </g>
      <line v-for="(m, k) in marks" :key="k" class="mark" :x1="m.x" :x2="m.x" :y1="m.y - 6" :y2="m.y + 6" />
      <text class="tick" :x="NOTHING" y="110">0</text>
      <text v-for="t in TICKS" :key="t" class="tick" :x="x(t)" y="110">{{ t }}</text>
    </svg>
    <figcaption class="small">
      Added delay in ms, each answer a stroke; in the boxes, with 95 %, lies where half are yes. {{ feel.mistaken }} of
      {{ feel.catches }} turns without any were called slight or laggy.
      <template v-if="feel.set_aside">
        {{ feel.set_aside }} set aside: the browser did not show the delay that was asked.</template
      >
      <template v-if="feel.disturbed.added_ms === null"> When it lags: {{ feel.disturbed.words }}.</template>
    </figcaption>
  </figure>
</template>

<style scoped>
figure {
  margin: 0;
  max-width: 560px;
}
svg {
  width: 100%;
  font: 13px var(--face);
  fill: var(--ink);
}
.rule {
  stroke: var(--rule);
}
.mark {
  stroke: var(--ink);
  stroke-width: 2.5;
}
.bound rect {
  fill: none;
  stroke: var(--ink);
}
.bound line {
  stroke: var(--ink);
  stroke-dasharray: 3 3;
}
.tick {
  text-anchor: middle;
}
</style>

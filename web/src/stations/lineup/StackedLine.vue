<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { roughly } from '@/lib/numbers'
import { useLineup } from '@/stores/lineup'

/** A total as one line in the pen's own ink, as long as its points; each criterion's part lies between two marks. */
const props = defineProps<{ place: Schemas['Place']; pen: string; revision: number; parts: [string, number][] }>()
const lineup = useLineup()
const src = computed(() => `/api/pens/${props.pen}/revisions/${props.revision}/line.png`)
const total = computed(() => props.parts.reduce((sum, [, part]) => sum + part, 0))
/** A mark where each part ends: one path for all, so that a share that is dragged redraws every line in one frame. */
const marks = computed(() => {
  let at = 0
  return props.parts
    .filter(([, part]) => part > 0.3)
    .map(([, part]) => `M${(at += part).toFixed(2)} 0V1`)
    .join('')
})
const words = computed(() => props.parts.map(([key, part]) => `${lineup.labelOf(key)}: ${roughly(part)}`).join('\n'))
const share = (v: number) => `${Math.max(0, Math.min(100, v))}%`
</script>

<template>
  <span class="line" role="img" :aria-label="`${Math.round(total)} of 100 points`" :title="words">
    <span class="ink" :style="{ clipPath: `inset(0 ${share(100 - total)} 0 0)` }"
      ><img :src="src" alt="" draggable="false"
    /></span>
    <svg class="marks" viewBox="0 0 100 1" preserveAspectRatio="none" aria-hidden="true"><path :d="marks" /></svg>
    <i class="sure" :style="{ left: share(place.low), width: share(place.high - place.low) }" />
  </span>
</template>

<style scoped>
.line {
  position: relative;
  display: block;
  overflow: hidden;
  height: 36px;
  contain: strict;
  background: linear-gradient(var(--rule), var(--rule)) 0 50% / 100% 1px no-repeat;
}
.ink {
  position: absolute;
  inset: 3px 0 auto;
  height: 28px;
  background: var(--swatch-ground);
}
:root[data-surface='paper'] .ink {
  background: none;
}
.ink img {
  display: block;
  width: 100%;
  height: 28px;
  object-fit: cover;
}
.marks {
  position: absolute;
  inset: 0 0 2px;
  width: 100%;
  height: 34px;
}
.marks path {
  stroke: var(--accent);
  stroke-width: 2px;
  vector-effect: non-scaling-stroke;
}
.sure {
  position: absolute;
  bottom: 1px;
  height: 5px;
  border: solid var(--ink);
  border-width: 0 2px 2px;
}
</style>

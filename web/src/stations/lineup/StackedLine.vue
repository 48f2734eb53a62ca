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
const ends = computed(() => {
  let at = 0
  return props.parts.map(([key, part]) => {
    const left = at
    at += part
    return { key, left, part }
  })
})
/** The picture is as long as the whole track, of which the total shows its part. */
const share100 = computed(() => `${10000 / Math.max(1, Math.min(100, total.value))}%`)
const share = (v: number) => `${Math.max(0, Math.min(100, v))}%`
</script>

<template>
  <span class="line" role="img" :aria-label="`${Math.round(total)} of 100 points`">
    <span class="ink" :style="{ width: share(total) }"
      ><img :src="src" alt="" draggable="false" :style="{ width: share100 }"
    /></span>
    <i
      v-for="e in ends"
      v-show="e.part > 0.3"
      :key="e.key"
      class="part"
      :style="{ left: share(e.left), width: share(e.part) }"
      :title="`${lineup.labelOf(e.key)}: ${roughly(e.part)} points`"
    />
    <i class="sure" :style="{ left: share(place.low), width: share(place.high - place.low) }" />
  </span>
</template>

<style scoped>
.line {
  position: relative;
  display: block;
  height: 34px;
  background: linear-gradient(var(--rule), var(--rule)) 0 50% / 100% 1px no-repeat;
}
.ink {
  position: absolute;
  inset: 3px auto auto 0;
  overflow: hidden;
  height: 28px;
  background: var(--swatch-ground);
}
:root[data-surface='paper'] .ink {
  background: none;
}
.ink img {
  display: block;
  height: 28px;
  max-width: none;
  object-fit: cover;
}
.part {
  position: absolute;
  top: 0;
  bottom: 0;
  border-right: 2px solid var(--accent);
}
.sure {
  position: absolute;
  bottom: -1px;
  height: 5px;
  border: solid var(--ink);
  border-width: 0 2px 2px;
}
</style>

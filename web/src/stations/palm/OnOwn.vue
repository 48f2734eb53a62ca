<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { say } from '@/lib/numbers'

/** The rules of now and those found, on what the hand did itself; and what would help where no rule does. */
const props = defineProps<{ found: Schemas['OnOwn'] }>()
const palmsOf = (o: Schemas['Outcome']) => o.palms_kept + (o.confusion?.palm_refused ?? 0)
const words = (o: Schemas['Outcome']) =>
  `${o.palms_kept} of your ${palmsOf(o)} palms let through, ${o.refused_gestures} of ${o.gestures} gestures refused, ` +
  `page left ${say(o.page_shift_mm)} mm off`
const SIDE = 96
const bend = computed(() =>
  props.found.bend.map(([refused, kept], k) => `${k ? 'L' : 'M'}${refused * SIDE} ${SIDE - kept * SIDE}`).join(''),
)
const place = (o: Schemas['Outcome']) => ({
  cx: (o.gestures ? o.refused_gestures / o.gestures : 0) * SIDE,
  cy: SIDE - (o.palms_kept / Math.max(1, palmsOf(o))) * SIDE,
})
</script>

<template>
  <div class="own" data-own>
    <div>
      <p><b>Now</b>: {{ words(found.now) }}.</p>
      <p v-if="found.helps"><b>With the rules found</b>: {{ words(found.found) }}.</p>
      <p v-else-if="!found.now.palms_kept && !found.now.refused_gestures">
        Nothing is left to mend in what you did: the rules of now stay.
      </p>
      <p v-else><b>No rules found</b> that do better on what you did: the ones of now stay.</p>
    </div>
    <svg
      :viewBox="`-6 -6 ${SIDE + 12} ${SIDE + 12}`"
      role="img"
      aria-label="Of your drills: palms let through upwards, gestures refused to the right"
    >
      <title>Nearer the lower left corner is better; the dot is now, the ring the rules found</title>
      <rect :width="SIDE" :height="SIDE" class="frame" />
      <path :d="bend" class="bend" />
      <circle v-bind="place(found.now)" r="3.5" class="now" />
      <circle v-bind="place(found.found)" r="5.5" class="found" />
    </svg>
    <ul v-if="found.would_help.length" class="would">
      <li v-for="w in found.would_help" :key="w">{{ w }}</li>
    </ul>
  </div>
</template>

<style scoped>
.own {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 110px;
  gap: 4px 16px;
}
svg {
  width: 110px;
}
.frame,
.bend,
.found {
  fill: none;
  stroke: var(--rule);
}
.bend {
  stroke: var(--ink);
  stroke-width: 1.5;
}
.found {
  stroke: var(--accent);
  stroke-width: 2;
}
.now {
  fill: var(--ink);
}
.would {
  grid-column: 1 / -1;
  margin: 0 0 8px;
  padding-left: 18px;
}
</style>

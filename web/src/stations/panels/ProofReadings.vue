<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { short } from '@/lib/names'
import { percent, roughly } from '@/lib/numbers'
import { callsForAttention, inWords } from '@/lib/readings'
import { useDesk } from '@/stores/desk'
import { LENS_MM } from './proof-pictures'

/** What became of the ink on one panel, in words. apart: from the panel it is laid over. */
const props = defineProps<{ reply: Schemas['ProofReply']; apart?: Schemas['DifferenceReply']; pxPerMm: number }>()
const desk = useDesk()
const known = (key: string) => desk.reading('panel', key)!
const ofPen = (key: string) => desk.reading('pen on panel', key)!
const pairs = computed(() => props.reply.alike.map(([a, b]) => `${short(a!)}, ${short(b!)}`))
const more = computed(() => (pairs.value.length > 2 ? ` and ${pairs.value.length - 2} more` : ''))
const vanishing = computed(() => callsForAttention(known('hairline_share'), props.reply.readings.hairline_share))
const verdict = computed(() => {
  const r = props.reply.readings
  if (vanishing.value) return `${percent(r.hairline_share)} of the ink is fainter than 3:1 and may vanish`
  return callsForAttention(known('best_contrast'), r.best_contrast)
    ? 'no ink here reaches 3:1'
    : 'all lines stay visible'
})
</script>

<template>
  <dl class="small">
    <dt>Lens</dt>
    <dd>{{ LENS_MM }} mm, {{ Math.round(LENS_MM * pxPerMm) }} px</dd>
    <dt>Sheet</dt>
    <dd>{{ reply.width_px }} × {{ reply.height_px }} px</dd>
    <template v-if="reply.layers">
      <dt>Layers</dt>
      <dd>{{ reply.layers }}</dd>
    </template>
    <dt :title="known('thinnest_mm').help">{{ known('thinnest_mm').label }}</dt>
    <dd>
      {{ inWords(known('thinnest_mm'), reply.readings.thinnest_mm) }},
      <b>{{ inWords(known('thinnest_px'), reply.readings.thinnest_px) }}</b>
    </dd>
    <dt :title="ofPen('needed_mm').help">{{ ofPen('needed_mm').label }}</dt>
    <dd data-needed>
      {{ reply.pen.needed_mm === null ? 'no width reaches 3:1' : inWords(ofPen('needed_mm'), reply.pen.needed_mm) }}
    </dd>
    <dt :title="ofPen('edge_px').help">{{ ofPen('edge_px').label }}</dt>
    <dd>{{ inWords(ofPen('edge_px'), reply.pen.edge_px) }}</dd>
    <template v-if="reply.white_cd_m2 !== null">
      <dt title="How light the panel's white is in this light; paper on a desk in an office is some 120 cd/m²">
        white
      </dt>
      <dd>{{ roughly(reply.white_cd_m2) }} cd/m²</dd>
    </template>
    <template v-if="reply.alike.length">
      <dt :title="ofPen('alike').help">{{ ofPen('alike').label }}</dt>
      <dd :title="pairs.join('; ')">{{ pairs.slice(0, 2).join('; ') }}{{ more }}</dd>
    </template>
    <dt :title="known('best_contrast').help">{{ known('best_contrast').label }}</dt>
    <dd>{{ inWords(known('best_contrast'), reply.readings.best_contrast) }}</dd>
    <dt :title="known('greys_used').help">{{ known('greys_used').label }}</dt>
    <dd>{{ reply.readings.greys_used }} of {{ reply.greys }}</dd>
    <dt :title="known('grey_error').help">{{ known('grey_error').label }}</dt>
    <dd>{{ inWords(known('grey_error'), reply.readings.grey_error) }}</dd>
    <template v-if="apart">
      <dt title="How far apart in lightness (L*) small squares of the page are from the first panel's">apart</dt>
      <dd data-apart>{{ apart.mean_l.toFixed(2) }} L* on the mean, {{ apart.most_l.toFixed(0) }} at most</dd>
    </template>
    <dt class="visually-hidden">verdict</dt>
    <dd class="verdict" :class="{ bad: vanishing }">{{ verdict }}</dd>
  </dl>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 3px 12px;
  align-content: start;
  color: var(--ink);
}
dt {
  color: var(--graphite);
}
.verdict {
  grid-column: 1 / -1;
  margin-top: 6px;
  font: italic 15px/1.35 var(--book);
  color: var(--accent);
}
.verdict.bad {
  color: var(--attention);
}
</style>

<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import PenSwatch from '@/components/PenSwatch.vue'
import { useBringIn } from '@/composables/use-files'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useLineup } from '@/stores/lineup'

/** What a judge's answers say: the pens in order with how sure that is, other judges, and the criteria gone by. */
const props = defineProps<{ judging: Schemas['JudgingItem'] }>()
const emit = defineEmits<{ joined: [] }>()
const desk = useDesk()
const lineup = useLineup()
const told = shallowRef<Schemas['PairsTold']>()
const tells = useLatest(
  (asked: { id: string; body: Schemas['PairsAsked'] }) =>
    take(api.POST('/api/pairs/{judging_id}/told', { params: { path: { judging_id: asked.id } }, body: asked.body })),
  (answer) => (told.value = answer),
  (error) => void desk.attempt(() => Promise.reject(error)),
)
const body = computed((): Schemas['PairsAsked'] => ({
  run_id: lineup.runId || null,
  weights: lineup.weights,
  musts: [],
  own: lineup.scored.map((o) => ({ ...o })),
  by_kind: false,
}))
const ask = () => tells.want({ id: props.judging.id, body: body.value })
watch([() => props.judging.id, () => props.judging.asked], ask, { immediate: true })

const ends = computed((): [number, number] => {
  const all = told.value?.pens.flatMap((p) => [p.low, p.high]).filter((v) => Math.abs(v) < 12) ?? []
  return [Math.min(-1, ...all), Math.max(1, ...all)]
})
const at = (theta: number) => {
  const [low, high] = ends.value
  return `${100 * Math.min(1, Math.max(0, (theta - low) / (high - low)))}%`
}
const width = (p: Schemas['JudgedPen']) => `calc(${at(p.high)} - ${at(p.low)})`
const penOf = (id: string) => desk.desk?.pens.find((p) => p.id === id)
const bring = useBringIn('A judge’s file', '.json', async (file) => {
  await take(
    api.POST('/api/pairs/{judging_id}/others', {
      params: { path: { judging_id: props.judging.id } },
      body: '' as never,
      bodySerializer: () => file,
      headers: { 'Content-Type': 'application/octet-stream' },
    }),
  )
  emit('joined')
  await ask()
})
const tau = (value: number) => value.toFixed(2)
</script>

<template>
  <div v-if="told" class="told" :class="{ stale: tells.busy.value }">
    <p v-for="words in told.words" :key="words" class="book first">{{ words }}</p>
    <ol :aria-label="`Pens as ${told.judge} likes them`">
      <li v-for="p in told.pens" :key="`${p.pen_id} ${p.revision}`">
        <PenSwatch v-if="penOf(p.pen_id)" :pen="penOf(p.pen_id)!" />
        <span class="name">{{ p.name }}</span>
        <span class="scale" :title="`${p.theta.toFixed(2)}, ${p.low.toFixed(2)} to ${p.high.toFixed(2)}`">
          <i :style="{ left: at(p.low), width: width(p) }" /><u :style="{ left: at(p.theta) }" />
        </span>
        <span class="small">{{ p.tied ? 'not told from the one before' : '' }}</span>
      </li>
    </ol>
    <p class="small">Less liked at the left, more at the right; the bar is how far it may be off, 95 % sure.</p>
    <p v-if="told.agreement !== null" class="small">
      With {{ told.others.join(', ') }}: {{ tau(told.agreement) }} of Kendall's tau (1 the same order, −1 the reverse).
    </p>
    <p v-if="told.rho !== null" class="small">
      Beside the measured ranking, by the shares as they stand there: Spearman's rho {{ tau(told.rho) }}, Kendall's tau
      {{ tau(told.tau!) }}.
    </p>
    <p v-else class="small">Measure the same pens in the line-up, and it is said which criteria these answers go by.</p>
    <table v-if="told.weights.length" class="small">
      <caption class="small">
        What the whole scale of a criterion does to the odds of being chosen, as ln, the surest first
      </caption>
      <tbody>
        <tr v-for="w in told.weights.slice(0, 6)" :key="w.criterion">
          <th scope="row">{{ lineup.labelOf(w.criterion) }}</th>
          <td>{{ w.weight.toFixed(1) }}</td>
          <td>{{ w.low.toFixed(1) }} to {{ w.high.toFixed(1) }}</td>
        </tr>
      </tbody>
    </table>
    <button type="button" class="word-button" @click="bring">Bring in another judge's file</button>
  </div>
</template>

<style scoped src="./lineup.css" />

<style scoped>
ol {
  margin: 6px 0;
  padding: 0;
  list-style: none;
}
li {
  display: grid;
  grid-template-columns: 84px minmax(90px, 160px) minmax(120px, 1fr) minmax(0, 190px);
  gap: 12px;
  align-items: center;
  min-height: var(--target);
  border-top: var(--line) solid var(--rule);
}
li :deep(img) {
  width: 72px;
  height: 27px;
}
.scale {
  position: relative;
  height: 14px;
}
.scale i {
  position: absolute;
  top: 5px;
  height: 4px;
  background: var(--rule);
}
:root[data-surface='e-ink'] .scale i {
  border: 1px solid #000;
  background: none;
}
.scale u {
  position: absolute;
  top: 0;
  width: 3px;
  height: 14px;
  margin-left: -1px;
  background: var(--accent);
}
@media (max-width: 700px) {
  li {
    grid-template-columns: 84px 1fr;
    padding-bottom: 6px;
  }
  .scale {
    grid-column: 1 / -1;
  }
}
</style>

<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { ElOption, ElSelect } from 'element-plus'
import { computed, onMounted, ref } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { when } from '@/lib/numbers'
import { inWords, madeBy } from '@/lib/readings'
import { useDesk } from '@/stores/desk'
import { usePalmTrial, type Rules } from '@/stores/palm-trial'

/** Two runs side by side: what came of them, and which rules differ. */
const NOW = 'now'
const trial = usePalmTrial()
const desk = useDesk()
const runs = ref<Schemas['PalmRun'][]>([])
const one = ref(NOW)
const other = ref(NOW)
onMounted(() =>
  desk.attempt(async () => {
    runs.value = (await take(api.GET('/api/palm/runs'))).runs
    other.value = runs.value[0]?.id ?? NOW
  }),
)
const keep = () =>
  desk.attempt(async () => {
    const kept = await take(api.POST('/api/palm/runs', { body: trial.body! }))
    runs.value = [kept, ...runs.value]
    other.value = kept.id
  })
const drop = () =>
  desk.attempt(async () => {
    const gone = await take(
      api.PUT('/api/palm/runs/{run_id}/bin', { params: { path: { run_id: other.value } }, body: { binned: true } }),
    )
    runs.value = runs.value.filter((r) => r.id !== gone.id)
    other.value = runs.value[0]?.id ?? NOW
  })
interface Side {
  total: Schemas['Outcome']
  grade: string
  rules: Rules
  made_by?: string
}
const side = (id: string): Side | undefined =>
  id === NOW
    ? trial.reply && { total: trial.reply.total, grade: trial.reply.grade.word, rules: trial.rules! }
    : runs.value.find((r) => r.id === id)
const pair = computed(() => [side(one.value), side(other.value)])
const label = (r: Schemas['PalmRun']) =>
  `${r.grade}: ${r.hand}, ${r.device}, ${r.own ? 'by hand' : r.hard ? 'hard set' : 'simulated'}, ${when(r.created_at)}`
const KEYS = ['stray_marks', 'page_shift_mm', 'zoomed', 'taps', 'lost_ink_mm', 'added_delay_ms'] as const
const known = (key: (typeof KEYS)[number]) => desk.reading('palm', key)!
const ROWS: [string, (s: Side) => string][] = [
  ['called', (s) => s.grade],
  ['palms let through', ({ total: t }) => `${t.palms_kept} of ${t.palms_kept + (t.confusion?.palm_refused ?? 0)}`],
  ['gestures refused', (s) => `${s.total.refused_gestures} of ${s.total.gestures}`],
  ...KEYS.map((key): [string, (s: Side) => string] => [known(key).label, (s) => inWords(known(key), s.total[key])]),
]
const differing = computed(() =>
  (trial.info?.controls ?? []).filter((f) => {
    const [a, b] = pair.value.map((s) => (s?.rules as Record<string, unknown> | undefined)?.[f.name])
    return a !== undefined && b !== undefined && a !== b
  }),
)
const value = (s: Side | undefined, f: Schemas['Control']) => {
  const v = (s?.rules as Record<string, unknown> | undefined)?.[f.name]
  return typeof v === 'boolean' ? (v ? 'on' : 'off') : `${String(v)} ${f.unit}`
}
</script>

<template>
  <div class="beside" data-beside>
    <div class="pick">
      <ElSelect v-model="one" aria-label="One run"
        ><ElOption :value="NOW" label="as it is set now" /><ElOption
          v-for="r in runs"
          :key="r.id"
          :value="r.id"
          :label="label(r)"
      /></ElSelect>
      <ElSelect v-model="other" aria-label="The other run"
        ><ElOption :value="NOW" label="as it is set now" /><ElOption
          v-for="r in runs"
          :key="r.id"
          :value="r.id"
          :label="label(r)"
      /></ElSelect>
      <DoWord :disabled="!trial.body" :does="keep">Keep this run</DoWord>
      <button v-if="other !== NOW" type="button" class="plain-button" @click="drop">Into the bin</button>
    </div>
    <p v-if="!runs.length" class="small">
      Keep a run, change the rules or do the drills again, and lay the two side by side.
    </p>
    <table v-else>
      <tbody>
        <tr data-row="figures by">
          <th scope="row">figures by</th>
          <td v-for="(s, k) in pair" :key="k">{{ madeBy(s) }}</td>
        </tr>
        <tr v-for="[name, words] in ROWS" :key="name" :data-row="name">
          <th scope="row">{{ name }}</th>
          <td v-for="(s, k) in pair" :key="k">
            <b>{{ s ? words(s) : '–' }}</b>
          </td>
        </tr>
        <tr v-for="f in differing" :key="f.name" class="rule">
          <th scope="row">{{ f.label }}</th>
          <td v-for="(s, k) in pair" :key="k">{{ value(s, f) }}</td>
        </tr>
      </tbody>
    </table>
  </div>
</template>

<style scoped>
.pick {
  display: grid;
  grid-template-columns: 1fr 1fr auto auto;
  gap: 8px;
  margin-bottom: 10px;
}
table {
  border-collapse: collapse;
}
th {
  text-align: left;
  font-weight: 400;
  padding: 2px 24px 2px 0;
}
td {
  padding: 2px 32px 2px 0;
}
b {
  font-weight: 650;
}
.rule {
  color: var(--graphite);
  font-size: var(--small);
}
</style>

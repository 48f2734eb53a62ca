<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { ElOption, ElSelect } from 'element-plus'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { roughly, say, when } from '@/lib/numbers'
import { inWords, madeBy, type Reading } from '@/lib/readings'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { useLag } from '@/stores/lag'

/** Two runs side by side, and the way from one to the other with one factor swapped at a time. */
type Run = Pick<Schemas['LagRun'], 'now' | 'live' | 'filmed' | 'figures'> & { made_by?: string }
const NOW = 'now'
const props = defineProps<{ now: Schemas['Lag']; figures: Schemas['Figure'][] }>()
const desk = useDesk()
const draft = useDraft()
const lag = useLag()
const runs = ref<Schemas['LagRun'][]>([])
const one = ref(NOW)
const other = ref(NOW)
const swaps = shallowRef<Schemas['Swap'][]>([])
const ms = (label: string): Reading => ({ ...desk.reading('lag', 'p50_ms')!, label })
const MEASURED = {
  frame_p50_ms: ms('live to the frame'),
  control_ms: ms('a pressed control'),
  filmed: ms('filmed'),
}

onMounted(() =>
  desk.attempt(async () => {
    runs.value = (await take(api.GET('/api/lag/runs'))).runs
    other.value = runs.value[0]?.id ?? NOW
  }),
)

const keep = () =>
  desk.attempt(async () => {
    const body = {
      pen_id: desk.pen!.id,
      draft: draft.unkept,
      revision: desk.pen!.revision,
      hand_id: desk.sheet!.hand_id,
      device_id: desk.device!.id,
      speed_mm_s: lag.speed,
      live: lag.live ?? null,
      filmed: lag.filmed ?? null,
    }
    const kept = await take(api.POST('/api/lag/runs', { body }))
    runs.value = [kept, ...runs.value]
    other.value = kept.id
  })
const drop = () =>
  desk.attempt(async () => {
    const gone = await take(
      api.PUT('/api/lag/runs/{run_id}/bin', { params: { path: { run_id: other.value } }, body: { binned: true } }),
    )
    runs.value = runs.value.filter((r) => r.id !== gone.id)
    other.value = runs.value[0]?.id ?? NOW
  })

const of = (id: string): Run | undefined =>
  id === NOW
    ? {
        now: props.now,
        live: lag.live ?? null,
        filmed: lag.filmed ?? null,
        figures: props.figures,
      }
    : runs.value.find((r) => r.id === id)
const pair = computed(() => [of(one.value), of(other.value)])
const label = (r: Schemas['LagRun']) =>
  `${r.recipe.name}, ${r.device.name}, ${say(r.now.speed_mm_s)} mm/s, ${when(r.created_at)}`
const LIVE = ['frame_p50_ms', 'control_ms'] as const
const KEYS = ['p50_ms', 'p95_ms', 'gap_mm_p50', 'first_ink_ms'] as const
/** Readings of the model, then what was measured and filmed. */
const rows = computed(() =>
  [
    ...KEYS.map((key) => ({ known: desk.reading('lag', key)!, of: (r: Run) => r.now[key] as number | null })),
    ...LIVE.map((key) => ({ known: MEASURED[key], of: (r: Run) => r.live?.[key] })),
    { known: MEASURED.filmed, of: (r: Run) => r.filmed?.delay_ms },
  ]
    .map(({ known, of }) => ({ known, values: pair.value.map((r) => (r ? of(r) : undefined)) }))
    .filter((r) => r.values.some((v) => typeof v === 'number')),
)

const setting = (id: string): Schemas['LagSetting'] =>
  id === NOW
    ? { run_id: null, recipe: draft.recipe!, device_id: desk.device!.id }
    : { run_id: id, recipe: null, device_id: null }
const asked = useLatest(
  (body: Schemas['SwapBody']) => take(api.POST('/api/lag/swaps', { body })),
  (answer) => (swaps.value = answer.swaps),
)
watch(
  [one, other, () => desk.pen?.id, () => desk.device?.id, () => lag.speed],
  () => {
    swaps.value = []
    asked.forget()
    if (one.value === other.value || !desk.pen || !desk.device) return
    void asked.want({ one: setting(one.value), other: setting(other.value), speed_mm_s: lag.speed })
  },
  { immediate: true },
)
const gain = (s: Schemas['Swap']) => s.p95_ms - swaps.value[0]!.p95_ms
const most = computed(() => Math.max(1, ...swaps.value.map((s) => Math.abs(gain(s)))))
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
      <DoWord :does="keep">Keep this run</DoWord>
      <button v-if="other !== NOW" type="button" class="plain-button" @click="drop">Into the bin</button>
    </div>
    <p v-if="!runs.length" class="small">
      Keep a run, change the pen, the device or the speed, and lay the two side by side.
    </p>
    <div v-else class="two">
      <table>
        <tbody>
          <tr data-row="figures by">
            <th scope="row">figures by</th>
            <td v-for="(r, k) in pair" :key="k">{{ madeBy(r) }}</td>
          </tr>
          <tr v-for="r in rows" :key="r.known.label" :data-row="r.known.label">
            <th scope="row" :title="r.known.help">{{ r.known.label }}</th>
            <td v-for="(v, k) in r.values" :key="k">
              <b>{{ inWords(r.known, v) }}</b>
            </td>
          </tr>
        </tbody>
      </table>
      <table v-if="swaps.length" aria-label="One factor swapped at a time">
        <tbody>
          <tr v-for="s in swaps.slice(1)" :key="s.factor" :data-swap="s.factor">
            <th scope="row">{{ s.factor === 'all of it' ? s.factor : `only ${s.factor}` }}</th>
            <td class="gain">
              <i :class="{ worse: gain(s) > 0 }" :style="{ width: `${(Math.abs(gain(s)) / most) * 100}%` }" />
            </td>
            <td class="ms">{{ gain(s) > 0 ? '+' : gain(s) < 0 ? '−' : '' }}{{ roughly(Math.abs(gain(s))) }} ms</td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>

<style scoped>
.pick {
  display: grid;
  grid-template-columns: 1fr 1fr auto auto;
  gap: 8px;
}
.two {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 20px;
  margin-top: 6px;
  align-items: start;
}
.gain {
  width: 34%;
}
.ms {
  white-space: nowrap;
}
td:last-child {
  padding-right: 0;
}
.gain i {
  display: block;
  height: 10px;
  background: var(--paper);
  border: var(--line) solid var(--ink);
}
.gain .worse {
  background: var(--ink);
}
</style>

<script setup lang="ts">
import WaitSign from '@/components/WaitSign.vue'
import { useDebounceFn } from '@vueuse/core'
import { ElRadioButton, ElRadioGroup } from 'element-plus'
import { storeToRefs } from 'pinia'
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import ReadingNote from '@/components/ReadingNote.vue'
import { percent, roughly, say } from '@/lib/numbers'
import { useLatest } from '@/composables/use-latest'
import ValueSlider from '@/components/ValueSlider.vue'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { useLag } from '@/stores/lag'
import DevicesTable from './DevicesTable.vue'
import FeelTrial from './FeelTrial.vue'
import FiguresTable from './FiguresTable.vue'
import FilmCard from './FilmCard.vue'
import FilmStepper from './FilmStepper.vue'
import InspectCard from './InspectCard.vue'
import LiveDrill from './LiveDrill.vue'
import LookAheadNote from './LookAheadNote.vue'
import NibTrail from './NibTrail.vue'
import SideBySide from './SideBySide.vue'
import SpeedsTable from './SpeedsTable.vue'
import { useControls } from './use-controls'

/** How far the ink trails the nib, where the time goes, and what to change. */
const desk = useDesk()
const draft = useDraft()
const { speed, live, filmed } = storeToRefs(useLag())
const aheadMs = computed(() => draft.recipe?.steady?.ahead_ms ?? 0)
const aheadField = desk.desk!.recipe_fields.steady!.find((f) => f.name === 'ahead_ms')!
const VIEWS = {
  figures: 'figures',
  devices: 'devices',
  speeds: 'speeds',
  beside: 'side by side',
  film: 'by hand',
  feel: 'what you feel',
}
const view = ref<keyof typeof VIEWS>('figures')
const root = useTemplateRef<HTMLElement>('root')
const controls = useControls(root)
const others = ref<string[]>(
  desk.roll
    .filter((p) => p.id !== desk.pen?.id)
    .slice(0, 3)
    .map((p) => p.id),
)
const reply = shallowRef<Schemas['LagReply']>()
const asked = useLatest(
  (body: Schemas['LagBody']) => take(api.POST('/api/lag', { body })),
  (a) => (reply.value = a),
  undefined,
  { follow: true },
)
const beside = computed(() =>
  others.value
    .map((id) => desk.desk!.pens.find((p) => p.id === id))
    .filter((p) => !!p && p.id !== desk.pen?.id)
    .map((p) => p!.recipe),
)
const askSoon = useDebounceFn(() => {
  if (!desk.pen || !desk.device) return
  void asked.want({
    recipe: draft.recipe!,
    device_id: desk.device.id,
    beside: beside.value,
    speed_mm_s: speed.value,
    hand_id: desk.sheet?.hand_id ?? null,
    source: desk.sheet ? { sheet_id: desk.sheet.id, part: 'line', stroke_ids: null } : null,
    live: live.value ?? null,
    filmed: filmed.value ?? null,
  })
}, 60)
watch(
  [() => draft.recipe, () => desk.device, () => desk.sheet?.id, speed, beside, live, filmed],
  () => void askSoon(),
  {
    immediate: true,
  },
)

watch([() => desk.pen?.id, () => desk.device?.id], asked.forget)

const now = computed(() => reply.value?.now)
type Buy = Schemas['Buy']
/** What a press can take over: it changes the pen. */
const ours = computed(() => now.value?.buys.filter((b) => b.path) ?? [])
function takeOver(b: Buy) {
  draft.set(b.path, b.value)
  draft.done()
}
const feltMs = computed(() => reply.value?.thresholds.find((t) => t.word === 'felt')?.from_ms ?? Infinity)
const passed = computed(() => reply.value?.thresholds.filter((t) => now.value && t.from_ms <= now.value.p50_ms).at(-1))
const most = computed(() => now.value?.stages.reduce((a, b) => (b.share > a.share ? b : a)))
const known = (key: string) => desk.reading('lag', key)!
const titled = (key: string) => known(key).label.replace(/^./, (c) => c.toUpperCase())
const control = (name: string) => desk.desk!.lag_fields.find((f) => f.name === name)!
const PATTERNS = ['plain', 'lines', 'dots']
</script>

<template>
  <section v-if="now && reply" ref="root" class="station framed" :class="desk.stationSide">
    <aside class="margin" aria-label="What it means">
      <ReadingNote
        :title="`${now.word}`"
        :tone="now.p50_ms > feltMs ? 'attention' : 'plain'"
        :help="`From ${passed?.from_ms} ms on: ${passed?.source}. Other thresholds are from memory.`"
      >
        <p>
          <span class="number">{{ roughly(now.p50_ms) }}</span> ms; 95 % under {{ roughly(now.p95_ms) }} ms
        </p>
        <p class="small">
          Of {{ roughly(now.mean_ms) }} ± {{ roughly(now.sd_ms) }} ms on the mean, {{ roughly(now.pen_ms) }} are the
          pen's; the rest is {{ desk.device?.device.name }}, whatever pen writes. Modelled.
        </p>
        <p v-if="now.behind_p50_ms < now.p50_ms" class="small">
          On even strokes look-ahead makes up for a part: <b>{{ roughly(now.behind_p50_ms) }}</b> ms are seen, 95 %
          under {{ roughly(now.behind_p95_ms) }}.
        </p>
      </ReadingNote>
      <ReadingNote :title="titled('gap_mm_p50')" :help="known('gap_mm_p50').help">
        <p>
          <span class="number">{{ say(now.gap_mm_p50) }}</span> mm at {{ speed }} mm/s, 95 % under
          {{ say(now.gap_mm_p95) }}
        </p>
      </ReadingNote>
      <ReadingNote :title="titled('first_ink_ms')" :help="known('first_ink_ms').help">
        <p>
          after <span class="number">{{ roughly(now.first_ink_ms) }}</span> ms
        </p>
        <p v-if="now.catch_up_ms" class="small">
          everything but pen strokes follows {{ say(now.catch_up_ms / 1000) }} s after the pen pauses
        </p>
      </ReadingNote>
      <ReadingNote
        title="What buys most"
        :help="`Each change alone, computed. Most of the time goes to ${most?.name} now.`"
      >
        <ol class="buys">
          <li v-for="b in now.buys" :key="b.change">
            {{ b.change }}: <span class="small">{{ `${roughly(now.behind_p95_ms)} → ` }}</span><b>{{
              roughly(b.p95_ms)
            }}</b>
            ms
          </li>
        </ol>
        <template #more>
          <div class="takes">
            <button v-for="b in ours" :key="b.change" type="button" class="word-button" @click="takeOver(b)">
              Take {{ b.change }}
            </button>
          </div>
        </template>
      </ReadingNote>
      <LookAheadNote :ahead="reply.ahead" />
      <FilmCard @step="view = 'film'" />
      <InspectCard />
    </aside>

    <div class="bench">
      <div class="ask">
        <ValueSlider :field="control('speed_mm_s')" :value="speed" @change="(v) => (speed = v)" />
        <ValueSlider
          :field="aheadField"
          :value="aheadMs"
          :kept="draft.kept?.steady?.ahead_ms"
          @change="(v) => draft.set('steady.ahead_ms', v)"
          @done="draft.done"
        />
      </div>
      <NibTrail
        :delay-ms="Math.max(0, now.p50_ms - aheadMs)"
        :update-ms="reply.update_ms"
        :speed="speed"
        :colour="draft.recipe!.body!.colour!"
      />
      <section class="stages" aria-label="Stages from nib to light">
        <h2>From nib to light <em class="book">mean of each stage, end to end</em></h2>
        <div class="bar">
          <span
            v-for="(s, k) in now.stages"
            :key="s.name"
            :style="{ flexGrow: s.mean_ms }"
            :class="PATTERNS[k % 3]"
            :data-stage="s.name"
            :data-ms="s.mean_ms"
            :title="`${s.name}: ${roughly(s.mean_ms)} ± ${roughly(s.sd_ms)} ms`"
          >
            <i
              ><b>{{ k + 1 }}</b
              ><span v-if="s.share > 0.11" class="named">{{ ' ' }}{{ s.name }}<br />{{ roughly(s.mean_ms) }}</span></i
            >
          </span>
        </div>
        <ol class="small names">
          <li v-for="(s, k) in now.stages" :key="s.name">
            <b>{{ k + 1 }}</b> {{ s.name }} {{ roughly(s.mean_ms) }} ms, {{ percent(s.share) }}
          </li>
        </ol>
      </section>
      <div class="lower" :class="{ whole: view === 'feel' }">
        <section>
          <ElRadioGroup v-model="view" aria-label="View"
            ><ElRadioButton v-for="(words, v) in VIEWS" :key="v" :value="v">{{ words }}</ElRadioButton></ElRadioGroup
          >
          <div class="view">
            <FiguresTable v-if="view === 'figures'" :figures="reply.figures" />
            <DevicesTable v-else-if="view === 'devices'" v-model="others" :table="reply.table" />
            <SpeedsTable v-else-if="view === 'speeds'" :speeds="reply.speeds" />
            <SideBySide v-else-if="view === 'beside'" :now="now" :figures="reply.figures" />
            <FilmStepper v-else-if="view === 'film'" />
            <FeelTrial v-else :kept="reply.felt" @changed="askSoon" />
          </div>
        </section>
        <LiveDrill v-if="view !== 'feel'" :controls="controls" />
      </div>
    </div>
  </section>
  <section v-else class="station"><WaitSign words="The delay of this pen is being worked out" /></section>
</template>

<style scoped>
.station {
  --margin: 240px;
}
.margin :deep(.note h2)::first-letter {
  text-transform: uppercase;
}
.bench {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  grid-template-rows: auto 140px auto minmax(230px, 1fr);
  gap: 8px;
  min-height: 0;
  overflow-y: auto;
  scrollbar-width: thin;
}
.ask {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(260px, 100%), 1fr));
  gap: 24px;
}
h2 {
  font-size: var(--size);
  font-weight: 650;
  margin-bottom: 4px;
}
h2 em {
  font-weight: 400;
  font-size: 14px;
  margin-left: 8px;
}
/* names of small stages are in the line below */
.bar {
  display: flex;
  height: 48px;
  border: var(--line) solid var(--ink);
  background: var(--card);
}
.bar > span {
  flex-basis: 0;
  min-width: 21px;
  border-right: var(--line) solid var(--ink);
  overflow: hidden;
  padding: 3px 5px;
}
.bar > span:last-child {
  border-right: 0;
}
.bar i {
  font: 13px/1.3 var(--face);
  white-space: nowrap;
  background: var(--card);
}
.bar .lines {
  background: repeating-linear-gradient(90deg, transparent 0 6px, var(--rule) 6px 7px);
}
.bar .dots {
  background: repeating-linear-gradient(45deg, transparent 0 6px, var(--rule) 6px 7px);
}
.names {
  list-style: none;
  margin: 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
}
.names b,
.bar b {
  font-weight: 650;
}
.takes {
  display: grid;
  gap: 6px;
  margin-top: 6px;
}
.lower {
  display: grid;
  grid-template-columns: minmax(0, 1fr) clamp(200px, 38%, 720px);
  gap: 16px;
}
.lower.whole {
  grid-template-columns: minmax(0, 1fr);
}
.view {
  margin-top: 8px;
}
.view :deep(table) {
  border-collapse: collapse;
  width: 100%;
}
.view :deep(thead th) {
  text-align: left;
  font-weight: 400;
  padding: 0 8px 2px 0;
  vertical-align: bottom;
}
.view :deep(tbody th) {
  text-align: left;
  font-weight: 400;
  padding: 3px 12px 3px 0;
  vertical-align: top;
}
.view :deep(td) {
  padding: 3px 8px 3px 0;
  line-height: 1.25;
  vertical-align: top;
}
.view :deep(b) {
  font-weight: 650;
}
.buys {
  margin: 0;
  padding-left: 18px;
  line-height: 1.35;
}

@media (max-width: 560px) {
  .bar .named {
    display: none;
  }
}
@media (max-width: 900px) {
  .station .margin {
    display: grid;
    grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
  }
  .lower {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

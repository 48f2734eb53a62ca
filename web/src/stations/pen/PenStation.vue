<script setup lang="ts">
import WaitSign from '@/components/WaitSign.vue'
import { computed, defineAsyncComponent, ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import ReadingNote from '@/components/ReadingNote.vue'
import { inWords } from '@/lib/readings'
import { useLatest } from '@/composables/use-latest'
import { walkTabs } from '@/composables/use-tabs'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { useInk } from '@/stores/ink'
import HandWriter from '@/components/HandWriter.vue'
import AdviceNotes from './AdviceNotes.vue'
import FitTools from './FitTools.vue'
import GroupControls from './GroupControls.vue'
import InkPalette from './InkPalette.vue'
import InkStrips from './InkStrips.vue'
import KeepRow from './KeepRow.vue'
import PenIdentity from './PenIdentity.vue'
import PlainDials from './PlainDials.vue'
import PressChart from './PressChart.vue'
import SpotCard from './SpotCard.vue'
import ToothCard from './ToothCard.vue'
import { useDifferences } from './use-differences'
import { useGroup } from './use-group'
import { useReadings } from './use-readings'
import { useSpot } from './use-spot'

const SteadyChart = defineAsyncComponent(() => import('./SteadyChart.vue'))
const desk = useDesk()
const draft = useDraft()
const ink = useInk()
const { group, groups } = useGroup()
const force = shallowRef<Schemas['ForceReply']>()
const fromSheet = ref<string>()
const part = ref<'line' | 'sheet'>('line')
const source = computed<Schemas['Source']>(() => ({
  sheet_id: fromSheet.value ?? desk.sheet!.id,
  part: part.value,
  stroke_ids: null,
}))
/** Whether there is ink to tune against, here or on the way. */
const inked = computed(
  () =>
    !!desk.desk?.sheets.find((s) => s.id === source.value.sheet_id)?.strokes ||
    [...ink.waiting.values()].some((w) => w.sheetId === source.value.sheet_id && !w.refused),
)
const kept = useReadings(
  computed(() => draft.kept),
  source,
  inked,
)
const now = useReadings(
  computed(() => draft.recipe),
  source,
  inked,
)
const { against, differing, named } = useDifferences(source)
const { spot, place, shown: showSpot, press: pressSpot } = useSpot(source, group, inked)
/** What the margin of this station speaks of, in this order. */
const NOTES = [
  'range',
  'widths',
  'lost force',
  'steps',
  'tapers',
  'tips',
  'drag',
  'wobble',
  'corners',
  'open letters',
  'inside',
]
const notes = computed(() =>
  NOTES.flatMap((key) => {
    const note = now.notes.value.find((n) => n.key === key)
    const old = kept.notes.value.find((n) => n.key === key)
    return note ? [{ ...note, was: old && old.words !== note.words ? old.words : '' }] : []
  }),
)
const press = computed(() => draft.recipe?.press)
const forces = useLatest(
  (of: Schemas['Source']) => take(api.POST('/api/pen/force', { body: of })),
  (answer) => (force.value = answer),
  () => (force.value = undefined),
)
watch(
  [source, inked, () => ink.changed],
  () => {
    if (inked.value) return void forces.want(source.value)
    forces.forget()
    force.value = undefined
  },
  { immediate: true },
)
watch(
  () => desk.sheet?.id,
  () => (fromSheet.value = undefined),
)
</script>

<template>
  <section v-if="draft.recipe && press" class="station framed" :class="desk.stationSide">
    <aside class="margin" aria-label="Readings, kept and now">
      <template v-if="differing">
        <h2>Differences <em class="book">now, then the other</em></h2>
        <p v-for="d in differing.slice(0, 10)" :key="d.reading">
          <span class="small">{{ named(d).label }}</span><br /><span class="number">{{
            inWords(named(d), d.one)
          }}</span>
          against {{ inWords(named(d), d.other) }}
        </p>
        <p v-if="!differing.length">None that a reading shows.</p>
      </template>
      <template v-else>
        <AdviceNotes :source="source" :inked="inked" :absent="now.absent.value" />
        <ReadingNote
          v-for="n in notes"
          :key="n.key"
          :class="{ stale: now.busy.value || kept.busy.value }"
          :title="n.title"
          :help="n.help"
          :tone="n.attention ? 'attention' : 'plain'"
        >
          <p v-if="n.was">
            <span class="small">{{ n.was }} →</span> <span class="number">{{ n.words }}</span>
          </p>
          <p v-else>{{ n.words }}</p>
        </ReadingNote>
      </template>
    </aside>

    <div class="bench">
      <InkStrips
        :source="source"
        :inked="inked"
        :spot-at="place"
        :group="group"
        :corners="now.corners.value"
        @spot="pressSpot"
        @against="(r) => (against = r)"
      >
        <div v-if="now.empty.value" class="none">
          <p class="book">
            There is no line on {{ desk.sheet!.name }} to tune this pen against. Write one on the sheet, or:
          </p>
          <HandWriter />
        </div>
      </InkStrips>

      <div class="tools">
        <section class="card evidence">
          <template v-if="showSpot && spot">
            <SpotCard :spot="spot" />
            <button type="button" class="plain-button" @click="showSpot = false">back to {{ group }}</button>
          </template>
          <template v-else-if="group === 'press'">
            <h2>Press <em class="book">over your own force</em></h2>
            <PressChart
              :points="press.points"
              :floor="press.floor"
              :ceiling="press.ceiling"
              :counts="force?.counts ?? []"
              :samples="force?.samples ?? 0"
              :plan="now.plan.value"
              :kept="kept.plan.value"
              @points="(p) => draft.set('press.points', p)"
              @floor="(v) => draft.set('press.floor', v)"
              @ceiling="(v) => draft.set('press.ceiling', v)"
              @done="draft.done"
            />
          </template>
          <template v-else-if="group === 'steady'">
            <h2>Steady <em class="book">shake left against drag, at your speed</em></h2>
            <SteadyChart :source="source" />
          </template>
          <InkPalette v-else-if="['body', 'pen', 'plain'].includes(group)" />
          <ToothCard v-else-if="group === 'tooth'" />
          <SpotCard v-else :spot="spot" />
        </section>
        <section class="card group" :aria-label="group">
          <div class="tabs" role="tablist" aria-label="Pen groups" @keydown="walkTabs">
            <button
              v-for="g in groups"
              :key="g"
              type="button"
              role="tab"
              :aria-selected="g === group"
              @click="group = g"
            >
              {{ g }}
            </button>
          </div>
          <PlainDials v-if="group === 'plain'" />
          <PenIdentity v-else-if="group === 'pen'" />
          <GroupControls v-else :group="group" :source="source" :inked="inked"
            ><FitTools v-if="group === 'press'" :source="source" class="wide"
          /></GroupControls>
        </section>
      </div>

      <KeepRow v-model:sheet-id="fromSheet" v-model:part="part" :source="source" />
    </div>
  </section>
  <section v-else class="station"><WaitSign words="The pen is being laid out" /></section>
</template>

<style scoped>
.station {
  --margin: 228px;
}
.bench {
  display: grid;
  grid-template: minmax(150px, 1fr) auto auto / minmax(0, 1fr);
  gap: 10px;
  min-height: 0;
}
/* pictures in rows take the room they need */
@media (min-width: 1241px) {
  .bench:has([data-view='shading'], [data-view='ladder']) {
    grid-template-rows: minmax(300px, 1fr) auto auto;
  }
  .bench:has([data-view='shading'], [data-view='ladder']) .tools {
    height: 220px;
  }
}
.none {
  position: absolute;
  inset: 0;
  display: grid;
  place-content: center;
  gap: 12px;
  background: var(--card);
  padding: 24px;
}
.tools {
  display: grid;
  grid-template-columns: minmax(0, 400px) minmax(270px, 1fr);
  gap: 12px;
  height: 368px;
}
.tools .card {
  padding: 8px 16px;
  min-height: 0;
  overflow-y: auto;
  scroll-padding-top: 60px;
  scrollbar-width: thin;
}
.tools :deep(h2),
.margin h2 {
  font-size: var(--size);
  font-weight: 650;
  margin-bottom: 4px;
}
.tools :deep(h2 em),
.margin h2 em {
  font-weight: 400;
  font-size: 14px;
  margin-left: 8px;
}
.tabs {
  position: sticky;
  z-index: 4;
  top: -8px;
  margin-top: -8px;
  background: var(--card);
  display: flex;
  flex-wrap: wrap;
  margin-bottom: 4px;
  border-bottom: var(--line) solid var(--rule);
}
.tabs button {
  min-height: var(--target);
  padding: 0 4px;
  font-size: var(--small);
  border-bottom: 4px solid transparent;
  text-transform: capitalize;
  color: var(--graphite);
}
.tabs button[aria-selected='true'] {
  color: var(--ink);
  font-weight: 650;
  border-bottom-color: var(--accent);
}
.wide {
  grid-column: 1 / -1;
}

@media (max-width: 1240px) {
  .tools {
    grid-template-columns: minmax(0, 1fr);
    height: auto;
  }
  .tools .group {
    order: -1;
  }
  .evidence {
    max-height: 330px;
  }
  .bench {
    grid-template-rows: minmax(220px, 1fr) auto auto;
    overflow-y: auto;
  }
}
@media (max-width: 900px) {
  .station .margin {
    display: grid;
    grid-template-columns: 1fr 1fr 1fr;
    align-content: start;
  }
}
</style>

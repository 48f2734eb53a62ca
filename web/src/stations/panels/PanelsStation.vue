<script setup lang="ts">
import WaitSign from '@/components/WaitSign.vue'
import { ElOption, ElRadioButton, ElRadioGroup, ElSelect, ElSwitch } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { usePanels } from '@/stores/panels'
import { PLAIN, type Below, type Figures } from './figures'
import type { Film, Shown } from './film'
import FilmBar from './FilmBar.vue'
import FilmWays from './FilmWays.vue'
import PanelFit from './PanelFit.vue'
import ProofCard from './ProofCard.vue'
import TimeCard from './TimeCard.vue'

/** The same sheet on up to four panels, in the light of one room, and a pen that holds on all of them. */
const COUNTS = [1, 2, 3, 4]
const FRAMES_HZ = 30
const desk = useDesk()
const devices = computed(() => desk.desk?.devices ?? [])
const panels = usePanels()
void panels.need()
const light = ref('no glare')
const shown = ref(firstTwo())
/** Whether the others show where they differ from the first, and what each was asked for. */
const compared = ref(false)
const bodies = shallowRef<Schemas['ProofBody'][]>([])
const marked = ref(false)
const inTime = ref(false)
/** What of each panel is being changed, and whether it is open for that. */
const figures = ref<Figures[]>(COUNTS.map(() => ({})))
const below = ref<Below[]>(COUNTS.map(() => 'lens'))
const tMs = ref(0)
const view = ref<Shown | 'waits'>('seen')
const then = ref('nothing more')
const widthMm = ref(60)
const films = shallowRef<(Film | undefined)[]>([])
const filmed = computed(() => films.value.slice(0, shown.value.length).filter((f) => f !== undefined))
const lastsMs = computed(() => Math.max(0, ...filmed.value.map((f) => f.lastsMs)))
const doneMs = computed(() => {
  const done = filmed.value[0]?.reply.done_s
  return done == null ? null : 1000 * done
})
const asked = computed(() => ({
  x_mm: at.value.x,
  y_mm: at.value.y,
  width_mm: widthMm.value,
  then: then.value,
  frames_hz: FRAMES_HZ,
}))
function made(film: Film | undefined, k: number) {
  const all = [...films.value]
  all[k] = film
  films.value = all
  tMs.value = Math.min(tMs.value, lastsMs.value)
}
/** How each of the panels shown tones. */
const tonings = computed(() => shown.value.map((_, k) => bodies.value[k]?.toning ?? PLAIN))
const at = ref({ x: 40, y: 40 })
/** The writer's own device, and e-paper beside it. */
function firstTwo(): string[] {
  const own = desk.device?.id ?? devices.value[0]!.id
  const papers = devices.value.filter((d) => d.device.kind === 'e-paper' && d.id !== own)
  const paper = papers.find((d) => !d.device.panel!.colour) ?? papers[0]
  return [own, (paper ?? devices.value[0]!).id]
}
/** More of them are those not shown yet. */
function show(count: number) {
  const others = devices.value.map((d) => d.id).filter((id) => !shown.value.includes(id))
  shown.value = [...shown.value, ...others].slice(0, count)
}

const turnTo = (k: number, id: string) => (shown.value = shown.value.map((was, n) => (n === k ? id : was)))

function look(place: { x: number; y: number }) {
  const paper = desk.sheet!.paper
  at.value = { x: Math.min(Math.max(place.x, 0), paper.width_mm), y: Math.min(Math.max(place.y, 0), paper.height_mm) }
}

/** Start with the lens where the ink is thickest. */
const readings = useLatest(
  (id: string) => take(api.GET('/api/sheets/{sheet_id}/readings', { params: { path: { sheet_id: id } } })),
  (answer) => {
    const place = answer.anchors.width?.[0]
    if (place) look({ x: place[0]!, y: place[1]! })
  },
  () => undefined, // without ink the lens stays where it is
)
watch(
  () => desk.sheet?.id,
  (id) => id && void readings.want(id),
  { immediate: true },
)
</script>

<template>
  <section v-if="panels.ways" class="station">
    <div class="ask">
      <label class="small"
        >panels<ElSelect :model-value="shown.length" aria-label="How many panels" class="few" @change="show"
          ><ElOption v-for="n in COUNTS" :key="n" :value="n" :label="String(n)" /></ElSelect
      ></label>
      <ElRadioGroup v-model="inTime" aria-label="Standing or in time"
        ><ElRadioButton :value="false">standing</ElRadioButton
        ><ElRadioButton :value="true">in time</ElRadioButton></ElRadioGroup
      >
      <label v-if="!inTime" class="small"
        >light<ElSelect v-model="light" aria-label="Light of the room" class="room"
          ><ElOption v-for="r in panels.ways.rooms" :key="r" :value="r" :label="r" /></ElSelect
      ></label>
      <label v-if="shown.length > 1 && !inTime" class="small"
        >difference<ElSwitch v-model="compared" aria-label="Difference from the first panel"
      /></label>
      <label v-if="!inTime" class="small"
        >what vanishes<ElSwitch v-model="marked" aria-label="Mark what vanishes"
      /></label>
      <FilmWays v-if="inTime" v-model:shown="view" v-model:then="then" v-model:width-mm="widthMm" />
      <PanelFit v-else :device-ids="shown" :light="light" :tonings="tonings" />
    </div>
    <div v-if="inTime" class="films">
      <FilmBar v-model="tMs" :lasts-ms="lastsMs" :done-ms="doneMs" :frame-ms="1000 / FRAMES_HZ" />
      <div class="cards" :data-count="shown.length">
        <TimeCard
          v-for="(id, k) in shown"
          :key="k"
          v-model:figures="figures[k]!"
          v-model:below="below[k]!"
          :model-value="id"
          :devices="devices"
          :asked="asked"
          :t-ms="tMs"
          :shown="view"
          @made="(film: Film | undefined) => made(film, k)"
          @update:model-value="(to: string) => turnTo(k, to)"
        />
      </div>
    </div>
    <div v-else class="proofs" :data-count="shown.length">
      <ProofCard
        v-for="(id, k) in shown"
        :key="k"
        v-model:figures="figures[k]!"
        v-model:below="below[k]!"
        :model-value="id"
        :devices="devices"
        :at="at"
        :light="light"
        :marked="marked"
        :beside="compared && k > 0 ? bodies[0] : undefined"
        @asked="(body: Schemas['ProofBody']) => (bodies = Object.assign([...bodies], { [k]: body }))"
        @look="look"
        @update:model-value="(to: string) => turnTo(k, to)"
      />
    </div>
  </section>
  <section v-else class="station"><WaitSign words="The panels are being set up" /></section>
</template>

<style scoped>
.station {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  gap: 8px;
  height: 100%;
  padding: 8px 32px 12px;
}
.ask {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 20px;
  min-height: 48px;
}
label {
  display: flex;
  align-items: center;
  gap: 8px;
}
.few {
  width: 68px;
}
.room {
  width: 140px;
}
.proofs {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 250px), 1fr));
  grid-template-rows: auto minmax(180px, 1fr) auto;
  grid-auto-rows: auto;
  gap: 10px 32px;
  padding: 0 2px;
  min-height: 0;
  overflow-y: auto;
  scrollbar-width: thin;
}
.films {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  gap: 10px;
  min-height: 0;
}
.cards {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 250px), 1fr));
  gap: 10px 32px;
  min-height: 0;
  overflow-y: auto;
  scrollbar-width: thin;
}
.cards[data-count='3'],
.cards[data-count='4'],
.proofs[data-count='3'],
.proofs[data-count='4'] {
  column-gap: 20px;
}
@media (max-width: 900px) {
  .station {
    overflow-y: auto;
    padding: 12px 16px;
    grid-template-rows: auto auto;
  }
  .films {
    grid-template-rows: auto auto;
  }
  .cards {
    overflow: visible;
  }
  .proofs {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: none;
    grid-auto-rows: auto;
    overflow: visible;
  }
}
</style>

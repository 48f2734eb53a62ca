<script setup lang="ts">
import { ElOption, ElSelect, ElSwitch } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import PanelFit from './PanelFit.vue'
import ProofCard from './ProofCard.vue'

/** The same sheet on up to four panels, in the light of one room, and a pen that holds on all of them. */
const COUNTS = [1, 2, 3, 4]
const desk = useDesk()
const devices = computed(() => desk.desk?.devices ?? [])
const light = ref(desk.desk!.rooms[0]!)
const shown = ref(firstTwo())
/** Whether the others show where they differ from the first, and what the first was asked for. */
const compared = ref(false)
const first = shallowRef<Schemas['ProofBody']>()
const at = ref({ x: 40, y: 40 })
/** The writer's own device, and e-paper beside it. */
function firstTwo(): string[] {
  const own = desk.device?.id ?? devices.value[0]!.id
  const paper = devices.value.find((d) => d.device.kind === 'e-paper' && d.id !== own)
  return [own, (paper ?? devices.value[0]!).id]
}
/** More of them are those not shown yet. */
function show(count: number) {
  const others = devices.value.map((d) => d.id).filter((id) => !shown.value.includes(id))
  shown.value = [...shown.value, ...others].slice(0, count)
}

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
  <section class="station">
    <div class="ask">
      <label class="small"
        >panels<ElSelect :model-value="shown.length" aria-label="How many panels" class="few" @change="show"
          ><ElOption v-for="n in COUNTS" :key="n" :value="n" :label="String(n)" /></ElSelect
      ></label>
      <label class="small"
        >light<ElSelect v-model="light" aria-label="Light of the room" class="room"
          ><ElOption v-for="r in desk.desk!.rooms" :key="r" :value="r" :label="r" /></ElSelect
      ></label>
      <label v-if="shown.length > 1" class="small"
        >difference<ElSwitch v-model="compared" aria-label="Difference from the first panel"
      /></label>
      <PanelFit :device-ids="shown" :light="light" />
    </div>
    <div class="proofs" :data-count="shown.length">
      <ProofCard
        v-for="(id, k) in shown"
        :key="k"
        :model-value="id"
        :devices="devices"
        :at="at"
        :light="light"
        :beside="compared && k > 0 ? first : undefined"
        @asked="(body: Schemas['ProofBody']) => k === 0 && (first = body)"
        @look="look"
        @update:model-value="(to: string) => (shown = shown.map((was, n) => (n === k ? to : was)))"
      />
    </div>
  </section>
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
  width: 150px;
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
  .proofs {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: none;
    grid-auto-rows: auto;
    overflow: visible;
  }
}
</style>

<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, take } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import ProofCard from './ProofCard.vue'

const desk = useDesk()
const devices = computed(() => desk.desk?.devices ?? [])
const first = ref(desk.device?.id ?? devices.value[0]!.id)
const second = ref(
  (devices.value.find((d) => d.device.kind === 'e-paper' && d.id !== first.value) ?? devices.value[0]!).id,
)
const at = ref({ x: 40, y: 40 })

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
    <ProofCard v-model="first" :devices="devices" :at="at" @look="look" />
    <ProofCard v-model="second" :devices="devices" :at="at" @look="look" />
  </section>
</template>

<style scoped>
.station {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 32px;
  height: 100%;
  padding: 16px 32px 12px;
}
@media (max-width: 900px) {
  .station {
    grid-template-columns: minmax(0, 1fr);
    grid-auto-rows: minmax(560px, auto);
    overflow-y: auto;
    padding: 12px 16px;
  }
}
</style>

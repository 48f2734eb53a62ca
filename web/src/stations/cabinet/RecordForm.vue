<script setup lang="ts">
import { computed, reactive } from 'vue'
import { api, take, type DeviceItem, type HandItem } from '@/api/client'
import DeclaredField from '@/components/DeclaredField.vue'
import { useCabinet } from '@/stores/cabinet'
import { useDesk } from '@/stores/desk'

/** Every number of a hand or of a device and its panel, as the core declares them. */
type Record_ = Record<string, unknown>
const cabinet = useCabinet()
const desk = useDesk()
const detail = cabinet.detail!
const record: HandItem['hand'] | DeviceItem['device'] = reactive(structuredClone(detail.hand ?? detail.device!))
const fields = computed(() => {
  const all = detail.hand ? cabinet.info!.hand_fields : cabinet.info!.device_fields
  return all.filter((f) => f.name !== 'name' && f.kind !== 'text' && !f.name.startsWith('by_eye'))
})
const groups = computed(() => {
  const found = new Map<string, typeof fields.value>()
  for (const f of fields.value) {
    const group = f.name.includes('.') ? f.name.split('.')[0]! : ''
    found.set(group, [...(found.get(group) ?? []), f])
  }
  return [...found]
})
const parts = (name: string) => name.split('.')
const value = (name: string) => parts(name).reduce<unknown>((of, part) => (of as Record_)[part], record)
function set(name: string, to: unknown) {
  const way = parts(name)
  const inside = way.slice(0, -1).reduce<unknown>((of, part) => (of as Record_)[part], record) as Record_
  inside[way.at(-1)!] = to
}
const keep = () =>
  desk.attempt(async () => {
    const id = detail.thing.id
    if (detail.hand) {
      const body = { hand: record as HandItem['hand'], saw: detail.hand }
      await take(api.PUT('/api/hands/{hand_id}', { params: { path: { hand_id: id } }, body }))
    } else {
      const body = { device: record as DeviceItem['device'], saw: detail.device }
      await take(api.PUT('/api/devices/{device_id}', { params: { path: { device_id: id } }, body }))
    }
    await cabinet.changed(detail.thing)
  })
</script>

<template>
  <form class="form" aria-label="In numbers" @submit.prevent="keep">
    <template v-for="[group, rows] in groups" :key="group">
      <h3 v-if="group" class="book">{{ group }}</h3>
      <div v-for="f in rows" :key="f.name" class="row" :title="f.help">
        <span class="small">{{ f.label }}</span>
        <DeclaredField :field="f" :model-value="value(f.name)" @update:model-value="(v) => set(f.name, v)" />
      </div>
    </template>
    <button type="submit" class="word-button strong">Keep these numbers</button>
  </form>
</template>

<style scoped>
.form {
  display: grid;
  gap: 6px;
  padding-bottom: 10px;
}
h3 {
  margin: 8px 0 0;
  font-size: 17px;
  font-style: italic;
  font-weight: 500;
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 150px;
  gap: 10px;
  align-items: center;
}
.word-button {
  justify-self: start;
}
</style>

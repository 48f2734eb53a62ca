<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { ElInput } from 'element-plus'
import { computed, ref } from 'vue'
import { api, take, type DeviceItem } from '@/api/client'
import DeclaredField from '@/components/DeclaredField.vue'
import { BY_EYE, eyed, EYES } from '@/lib/by-eye'
import { useDesk } from '@/stores/desk'
import { usePanels } from '@/stores/panels'
import type { Figures } from './figures'

/** A panel's figures, each changed on the proof at once; kept as a device of one's own. */
type Part = keyof Figures
const props = defineProps<{ device: DeviceItem }>()
const figures = defineModel<Figures>({ required: true })
const emit = defineEmits<{ made: [id: string] }>()
const desk = useDesk()
const panels = usePanels()
const now = computed(() => ({ ...props.device.device, ...figures.value }))
const ofPaper = computed(() => now.value.panel!.technology === 'e-paper')
const fields = computed(() => [
  ...panels.ways!.panel_fields.map((f) => ({ ...f, part: 'panel' as Part })),
  ...(ofPaper.value ? panels.ways!.updates_fields.map((f) => ({ ...f, part: 'updates' as Part })) : []),
])
const changed = computed(() =>
  (['panel', 'updates'] as const).some(
    (part) => JSON.stringify(now.value[part]) !== JSON.stringify(props.device.device[part]),
  ),
)
const own = computed(() => !panels.ways!.shipped_devices.includes(props.device.id))
/** What its user saw on it, each with its interval. */
const byEye = computed(() => {
  const all = props.device.device.by_eye
  return EYES.map((key) => ({ key, found: all?.[key] }))
    .filter(({ found }) => found && (found.value ?? found.low ?? found.high) != null)
    .map(({ key, found }) => `${BY_EYE[key].words} ${eyed(key, found!)}`)
    .join('; ')
})
const name = ref('My panel')
type Field = { name: string; part: Part }
const value = ({ name, part }: Field) => (now.value[part] as Record<string, unknown>)[name]
const set = ({ name, part }: Field, to: unknown) =>
  (figures.value = { ...figures.value, [part]: { ...now.value[part], [name]: to } })

function keptAs(made: DeviceItem) {
  const list = desk.desk!.devices
  const at = list.findIndex((d) => d.id === made.id)
  if (at < 0) list.push(made)
  else list[at] = made
  figures.value = {}
  emit('made', made.id)
}
const parts = () => ({ panel: now.value.panel!, updates: now.value.updates! })
const make = () =>
  desk.attempt(async () => {
    const body = { name: name.value.trim(), like: props.device.id, ...parts() }
    keptAs(await take(api.POST('/api/panels/own', { body })))
  })
const change = () =>
  desk.attempt(async () => {
    const path = { device_id: props.device.id }
    const body = { ...parts(), saw: props.device.device.panel! }
    keptAs(await take(api.PUT('/api/panels/own/{device_id}', { params: { path }, body })))
  })
</script>

<template>
  <div class="form" data-panel-form>
    <div v-for="f in fields" :key="f.part + f.name" class="row" :title="f.help">
      <span class="small">{{ f.label }}</span>
      <DeclaredField :field="f" :model-value="value(f)" @update:model-value="(v) => set(f, v)" />
    </div>
    <p v-if="byEye" class="small eyed">Found by eye on it: {{ byEye }}.</p>
    <div class="keep">
      <DoWord v-if="own" :disabled="!changed" :does="change"> Change {{ device.device.name }} </DoWord>
      <ElInput v-model="name" maxlength="60" aria-label="Name of the panel" />
      <DoWord :disabled="!changed || !name.trim()" :does="make"> Keep as a device of my own </DoWord>
      <button v-if="changed" type="button" class="plain-button" @click="figures = {}">As it was</button>
    </div>
  </div>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 230px), 1fr));
  gap: 4px 20px;
  align-content: start;
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 120px;
  align-items: center;
  gap: 8px;
}
.eyed {
  grid-column: 1 / -1;
  margin: 4px 0 0;
}
.keep {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 12px;
}
.keep .el-input {
  width: 160px;
}
</style>

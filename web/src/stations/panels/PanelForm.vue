<script setup lang="ts">
import { ElInput, ElOption, ElSelect, ElSwitch } from 'element-plus'
import { computed, ref } from 'vue'
import { api, take, type DeviceItem, type Schemas } from '@/api/client'
import NumberField from '@/components/NumberField.vue'
import { useDesk } from '@/stores/desk'

/** A panel's figures, each changed on the proof at once; kept as a device of one's own. */
type Panel = Schemas['Panel']
const props = defineProps<{ device: DeviceItem }>()
const panel = defineModel<Panel | undefined>({ required: true })
const emit = defineEmits<{ made: [id: string] }>()
const desk = useDesk()
const fields = computed(() => desk.desk!.panel_fields)
const now = computed(() => panel.value ?? props.device.device.panel!)
const changed = computed(
  () => !!panel.value && JSON.stringify(panel.value) !== JSON.stringify(props.device.device.panel),
)
const own = computed(() => !desk.desk!.shipped_devices.includes(props.device.id))
const name = ref('My panel')
const value = (field: string) => (now.value as Record<string, unknown>)[field]
const set = (field: string, to: unknown) => (panel.value = { ...now.value, [field]: to } as Panel)

function keptAs(made: DeviceItem) {
  const list = desk.desk!.devices
  const at = list.findIndex((d) => d.id === made.id)
  if (at < 0) list.push(made)
  else list[at] = made
  panel.value = undefined
  emit('made', made.id)
}
const make = () =>
  desk.attempt(async () => {
    const body = { name: name.value.trim(), like: props.device.id, panel: now.value }
    keptAs(await take(api.POST('/api/panels/own', { body })))
  })
const change = () =>
  desk.attempt(async () => {
    const path = { device_id: props.device.id }
    keptAs(await take(api.PUT('/api/panels/own/{device_id}', { params: { path }, body: { panel: now.value } })))
  })
</script>

<template>
  <div class="form" data-panel-form>
    <div v-for="f in fields" :key="f.name" class="row" :title="f.help">
      <span class="small">{{ f.label }}</span>
      <ElSwitch
        v-if="f.kind === 'flag'"
        :model-value="value(f.name) as boolean"
        :aria-label="f.label"
        @change="(v) => set(f.name, v)"
      />
      <ElSelect
        v-else-if="f.kind === 'choice'"
        :model-value="value(f.name) as string"
        :aria-label="f.label"
        @change="(v: string) => set(f.name, v)"
        ><ElOption v-for="o in f.options" :key="o" :value="o"
      /></ElSelect>
      <NumberField
        v-else
        :model-value="value(f.name) as number"
        :label="f.label"
        :unit="f.unit"
        :min="f.low ?? undefined"
        :max="f.high ?? undefined"
        :decimals="f.kind === 'integer' ? 0 : 3"
        @update:model-value="(v: number) => set(f.name, v)"
      />
    </div>
    <div class="keep">
      <button v-if="own" type="button" class="word-button" :disabled="!changed" @click="change">
        Change {{ device.device.name }}
      </button>
      <ElInput v-model="name" maxlength="60" aria-label="Name of the panel" />
      <button type="button" class="word-button" :disabled="!changed || !name.trim()" @click="make">
        Keep as a device of my own
      </button>
      <button v-if="changed" type="button" class="plain-button" @click="panel = undefined">As it was</button>
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

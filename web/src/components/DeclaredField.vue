<script setup lang="ts">
import { ElOption, ElSelect, ElSwitch } from 'element-plus'
import type { Schemas } from '@/api/client'
import NumberField from './NumberField.vue'

/** One field of a record, as the core declares it. */
defineProps<{ field: Schemas['Control'] }>()
const value = defineModel<unknown>({ required: true })
</script>

<template>
  <ElSwitch
    v-if="field.kind === 'flag'"
    :model-value="value as boolean"
    :aria-label="field.label"
    @change="(v) => (value = v)"
  />
  <ElSelect
    v-else-if="field.kind === 'choice'"
    :model-value="value as string"
    :aria-label="field.label"
    @change="(v: string) => (value = v)"
    ><ElOption v-for="o in field.options" :key="o" :value="o"
  /></ElSelect>
  <NumberField
    v-else
    :model-value="value as number"
    :label="field.label"
    :unit="field.unit"
    :min="field.low ?? undefined"
    :max="field.high ?? undefined"
    :decimals="field.kind === 'integer' ? 0 : 3"
    @update:model-value="(v: number) => (value = v)"
  />
</template>

<script setup lang="ts">
import { ElInput } from 'element-plus'
import { ref, watch } from 'vue'
import { trimmed } from '@/lib/numbers'
import { readTyped } from '@/lib/typed'

/** A typed number: a comma or a point before decimals; what lies beyond the limits is said, and the limit taken. */
const props = withDefaults(
  defineProps<{
    modelValue: number | undefined
    label: string
    unit?: string
    min?: number
    max?: number
    decimals?: number
  }>(),
  { unit: '', min: -1e9, max: 1e9, decimals: 3 },
)
const emit = defineEmits<{ 'update:modelValue': [value: number] }>()
const shown = () => (props.modelValue === undefined ? '' : trimmed(props.modelValue, props.decimals))
const text = ref(shown())
const words = ref('')
watch(
  () => props.modelValue,
  () => (text.value = shown()),
)

function take() {
  const typed = readTyped(text.value, props.min, props.max)
  words.value = typed.words
  if (typed.value !== undefined && typed.value !== props.modelValue) emit('update:modelValue', typed.value)
  text.value = typed.value === undefined ? shown() : trimmed(typed.value, props.decimals)
}
</script>

<template>
  <span class="field">
    <ElInput
      v-model="text"
      inputmode="decimal"
      autocomplete="off"
      :aria-label="unit ? `${label}, ${unit}` : label"
      :aria-invalid="!!words"
      @change="take"
      @input="words = ''"
      ><template v-if="unit && unit.length <= 5" #suffix>{{ unit }}</template></ElInput
    >
    <span v-if="words" class="said small" role="alert">{{ words }}</span>
  </span>
</template>

<style scoped>
.field {
  position: relative;
  display: inline-block;
  width: 96px;
}
.field :deep(.el-input__wrapper) {
  padding: 0 8px;
}
.field :deep(.el-input__suffix),
.field :deep(.el-input__suffix-inner) {
  transition: none;
  font-size: var(--small);
  color: var(--graphite);
}
.said {
  position: absolute;
  z-index: 5;
  right: 0;
  top: calc(100% - 2px);
  padding: 2px 8px;
  white-space: nowrap;
  color: var(--harm);
  background: var(--card);
  border: var(--line) solid var(--harm);
}
</style>

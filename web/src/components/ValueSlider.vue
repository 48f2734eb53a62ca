<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { ElInputNumber, ElSlider } from 'element-plus'
import { computed } from 'vue'

/** A declared number: slider, typed value, unit, and a way back to what is kept. */
const props = defineProps<{ field: Schemas['Control']; value: number; kept?: number }>()
const emit = defineEmits<{ change: [value: number]; done: [] }>()
const decimals = computed(() => Math.max(0, -Math.floor(Math.log10(props.field.step ?? 1) + 1e-9)))
const differs = computed(() => props.kept !== undefined && Math.abs(props.kept - props.value) > 1e-9)
const give = (v: unknown) => {
  if (typeof v === 'number' && Number.isFinite(v)) emit('change', v)
}
const giveOnce = (v: unknown) => {
  give(v)
  emit('done')
}
</script>

<template>
  <div class="value">
    <div class="words">
      <span :title="field.help"
        >{{ field.label }}<span v-if="field.unit" class="small">, {{ field.unit }}</span></span
      >
      <button
        v-if="differs"
        type="button"
        class="back small"
        :aria-label="`${field.label}: back to ${kept}`"
        @click="giveOnce(kept)"
      >
        back to {{ Number(kept!.toFixed(3)) }}
      </button>
    </div>
    <div class="tools">
      <ElSlider
        :model-value="value"
        :min="field.low ?? 0"
        :max="field.high ?? 1"
        :step="field.step ?? 0.01"
        :show-tooltip="false"
        :aria-label="field.label"
        @input="give"
        @change="emit('done')"
      />
      <ElInputNumber
        :model-value="value"
        :min="field.low ?? undefined"
        :max="field.high ?? undefined"
        :step="field.step ?? 0.01"
        :precision="decimals"
        :controls="false"
        :aria-label="`${field.label}, ${field.unit}`"
        @change="giveOnce"
      />
    </div>
  </div>
</template>

<style scoped>
.words {
  display: flex;
  justify-content: space-between;
  align-items: baseline;
  font-size: var(--small);
  min-height: 20px;
}
.back {
  color: var(--accent);
  text-decoration: underline;
  padding: 0 4px;
}
.tools {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 72px;
  gap: 18px;
  align-items: center;
  padding-left: 11px;
}
.tools :deep(.el-input-number) {
  width: 72px;
}
.tools :deep(.el-input-number .el-input__wrapper) {
  padding: 0 8px;
}
</style>

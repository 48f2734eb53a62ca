<script setup lang="ts">
import { computed } from 'vue'
import type { SheetItem } from '@/api/client'

const props = defineProps<{ paper: SheetItem['paper']; width: number; height: number }>()
/** A corner of the sheet at a third of true size, ruling to scale. */
const K = 1.6
const marks = computed(() => {
  const step = Math.max(props.paper.spacing_mm * K, 2)
  const rows = Array.from({ length: Math.floor(props.height / step) }, (_, i) => (i + 1) * step - step / 3)
  const columns = Array.from({ length: Math.floor(props.width / step) }, (_, i) => (i + 1) * step - step / 3)
  return { rows, columns }
})
const weight = computed(() => Math.max(props.paper.weight_mm * K, 0.7))
</script>

<template>
  <svg :width="width" :height="height" aria-hidden="true">
    <rect :width="width" :height="height" :fill="paper.colour" class="edge" />
    <g :stroke="paper.rule_colour" :fill="paper.rule_colour">
      <template v-if="paper.ruling === 'dotted'">
        <template v-for="y in marks.rows" :key="y">
          <circle v-for="x in marks.columns" :key="x" :cx="x" :cy="y" :r="Math.max(weight, 1.2) / 2" stroke="none" />
        </template>
      </template>
      <template v-else-if="paper.ruling !== 'blank'">
        <template v-for="(y, i) in marks.rows" :key="y">
          <path v-if="paper.ruling !== 'staves' || i % 9 < 5" :d="`M0 ${y}H${width}`" :stroke-width="weight" />
        </template>
        <template v-if="paper.ruling === 'squared'">
          <path v-for="x in marks.columns" :key="x" :d="`M${x} 0V${height}`" :stroke-width="weight" />
        </template>
      </template>
    </g>
  </svg>
</template>

<style scoped>
.edge {
  stroke: var(--edge);
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import type { SheetItem } from '@/api/client'

const props = defineProps<{ paper: SheetItem['paper']; width: number; height: number }>()
/** A corner of the sheet at a third of true size, ruling to scale. */
const K = 1.6
const LEVEL = ['ruled', 'squared', 'staves', 'columns']
const frames = computed(() =>
  props.paper.ruling === 'frames'
    ? [0, 1, 2].flatMap((row) => [0, 1].map((k) => [(0.1 + 0.44 * k) * props.width, 6 + row * 0.32 * props.height]))
    : [],
)
const marks = computed(() => {
  const step = Math.max(props.paper.spacing_mm * K, 2)
  const rows = Array.from({ length: Math.floor(props.height / step) }, (_, i) => (i + 1) * step - step / 3)
  const columns = Array.from({ length: Math.floor(props.width / step) }, (_, i) => (i + 1) * step - step / 3)
  /** Upright rules of columns, and the corners of frames, as their sheet has them. */
  const parts = props.paper.columns ?? 1
  const first = props.paper.first_mm ? Math.min((props.paper.first_mm * props.width) / props.paper.width_mm, 20) : 0
  const others = parts - (first ? 1 : 0)
  const edges = Array.from({ length: others }, (_, i) => first + (i * (props.width - first)) / others).filter((x) => x)
  return { rows, columns, edges }
})
const slants = computed(() => {
  const step = Math.max(props.paper.spacing_mm * K, 2)
  return Array.from(
    { length: Math.ceil((props.height + props.width) / step) },
    (_, i) => i * step - props.width * 0.577,
  )
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
        <rect
          v-for="[x, y] in frames"
          :key="`${x} ${y}`"
          :x="x"
          :y="y"
          :width="width * 0.36"
          :height="width * 0.21"
          fill="none"
          :stroke-width="weight"
        />
        <template v-for="(y, i) in LEVEL.includes(paper.ruling) ? marks.rows : []" :key="y">
          <path v-if="paper.ruling !== 'staves' || i % 9 < 5" :d="`M0 ${y}H${width}`" :stroke-width="weight" />
        </template>
        <template v-if="paper.ruling === 'isometric'">
          <path
            v-for="y in slants"
            :key="y"
            :d="`M0 ${y}L${width} ${y + width * 0.577}M0 ${y + width * 0.577}L${width} ${y}`"
            :stroke-width="weight"
          />
        </template>
        <template v-if="paper.ruling === 'columns'">
          <path v-for="x in marks.edges" :key="x" :d="`M${x} 0V${height}`" :stroke-width="weight" />
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

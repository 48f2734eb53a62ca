<script setup lang="ts">
import { computed, ref, shallowRef, useTemplateRef } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { say } from '@/lib/numbers'
import { columnsOf } from '@/ink'
import type { Checked } from './checked'
import { useField } from './use-field'

/** Slow slanting lines along a ruler: the digitiser's own waves, told apart from the hand. */
const checked = defineModel<Checked>({ required: true })
const [LINES, LEAST] = [6, 4]
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const lines = ref<Schemas['StrokeColumns'][]>([])
const found = shallowRef<Schemas['Straightness']>()
const refusal = ref('')
const asked = useLatest(
  (all: Schemas['StrokeColumns'][]) => take(api.POST('/api/screen/straightness', { body: { lines: all } })),
  (answer) => {
    found.value = answer
    refusal.value = ''
    checked.value = { ...checked.value, straight: answer }
  },
  (error) => {
    refusal.value = error.message
    lines.value = lines.value.slice(0, -1)
  },
)
const field = useField(canvas, (stroke) => {
  if (stroke.cancelled) return
  lines.value = [...lines.value, { begun_ms: null, ...columnsOf(stroke.samples, stroke.pointerType) }]
  if (lines.value.length >= LEAST) void asked.want(lines.value)
})
/** Where lines may be ruled, from corner to corner. */
const guides = computed(() => {
  const { width: w, height: h } = field.size.value
  const side = Math.min(w, h) * 0.86
  const [x, y] = [(w - side) / 2, (h - side) / 2]
  return [0, 0.07, -0.07].flatMap((by) => [
    `M${x + by * w} ${y + side}L${x + side + by * w} ${y}`,
    `M${x + by * w} ${y}L${x + side + by * w} ${y + side}`,
  ])
})
function anew() {
  lines.value = []
  found.value = undefined
  refusal.value = ''
  field.clear()
}
</script>

<template>
  <div class="check">
    <div class="stack card">
      <svg :viewBox="`0 0 ${field.size.value.width || 1} ${field.size.value.height || 1}`" aria-hidden="true">
        <path v-for="g in guides" :key="g" :d="g" />
      </svg>
      <canvas ref="canvas" :width="field.size.value.width" :height="field.size.value.height" data-check />
    </div>
    <div class="told">
      <p class="book">
        Lay a ruler aslant, near the dashes, and rule {{ LINES }} lines slowly, some each way. {{ lines.length }} so
        far.
      </p>
      <p v-if="refusal" class="small loud">{{ refusal }}</p>
      <template v-if="found">
        <p v-for="w in found.words" :key="w" data-straight>{{ w }}</p>
        <p v-if="found.wave_mm === null" class="small">
          Chance alone makes a wave of {{ say(found.chance_mm) }} mm of these lines once in a hundred.
        </p>
      </template>
      <button v-if="lines.length" type="button" class="word-button" @click="anew">Begin anew</button>
    </div>
  </div>
</template>

<style scoped>
path {
  fill: none;
  stroke: var(--on-swatch);
  stroke-width: 1.5;
  stroke-dasharray: 2 8;
}
</style>

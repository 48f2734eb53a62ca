<script setup lang="ts">
import { computed, ref, shallowRef, useTemplateRef } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { say } from '@/lib/numbers'
import { useScreenSettings } from '@/stores/screen-settings'
import { useScreen } from '@/stores/screen'
import { useField, type OnGlass } from './use-field'

/** Nine crosses at three leans: how far the ink lies from the nib, drawn as a map, and corrected. */
const LEANS = ['as you write', 'upright', 'leaning to the other side']
const ARM = 7
const MAP_TIMES = 8 // an offset is drawn so many times as long
const settings = useScreenSettings()
const screen = useScreen()
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const taps = ref<Schemas['Tap'][]>([])
const found = shallowRef<Schemas['Aim']>()
const refusal = ref('')
const asked = useLatest(
  (all: Schemas['Tap'][]) => take(api.POST('/api/screen/aim', { body: { taps: all } })),
  (answer) => {
    found.value = answer
    refusal.value = ''
  },
  (error) => {
    // the last tap is done again
    refusal.value = error.message
    taps.value = taps.value.slice(0, -1)
  },
)
const field = useField(canvas, tapped)
const crosses = computed(() => {
  const { width, height } = field.size.value
  return [0.12, 0.5, 0.88].flatMap((v) => [0.12, 0.5, 0.88].map((u) => ({ x: u * width, y: v * height })))
})
const next = computed(() => taps.value.length % crosses.value.length)
const round = computed(() => Math.floor(taps.value.length / crosses.value.length))
const done = computed(() => round.value >= LEANS.length)
const middle = (values: number[]) => [...values].sort((a, b) => a - b)[values.length >> 1]!

function tapped({ samples, pointerType, cancelled }: OnGlass) {
  field.clear()
  const cross = crosses.value[next.value]
  if (!cross || cancelled || done.value) return
  const [cross_x_mm, cross_y_mm] = field.onGlass(cross.x, cross.y)
  const of = (k: 'x' | 'y' | 'altitude' | 'azimuth') => middle(samples.map((s) => s[k]))
  const leans = pointerType === 'pen' && samples.some((s) => s.altitude < Math.PI / 2 - 1e-6)
  const lean = leans ? { altitude: of('altitude'), azimuth: of('azimuth') } : { altitude: null, azimuth: null }
  taps.value = [...taps.value, { cross_x_mm, cross_y_mm, x_mm: of('x'), y_mm: of('y'), ...lean }]
  if (taps.value.length >= crosses.value.length) void asked.want(taps.value)
}
function anew() {
  taps.value = []
  found.value = undefined
  refusal.value = ''
}
/** Offsets where they were measured, many times as long. */
const arrows = computed(() =>
  (found.value?.offsets ?? []).map(([dx, dy], k) => {
    const times = MAP_TIMES * screen.pxPerMm
    const at = crosses.value[k % crosses.value.length]!
    return { x0: at.x, y0: at.y, x1: at.x + dx! * times, y1: at.y + dy! * times }
  }),
)
</script>

<template>
  <div class="check">
    <div class="stack card">
      <svg :viewBox="`0 0 ${field.size.value.width || 1} ${field.size.value.height || 1}`" aria-hidden="true">
        <line v-for="(a, k) in arrows" :key="`a${k}`" :x1="a.x0" :y1="a.y0" :x2="a.x1" :y2="a.y1" class="off" />
        <g v-for="(c, k) in crosses" :key="k" :class="{ next: k === next && !done }">
          <path :d="`M${c.x - ARM} ${c.y}H${c.x + ARM}M${c.x} ${c.y - ARM}V${c.y + ARM}`" />
          <circle v-if="k === next && !done" :cx="c.x" :cy="c.y" r="16" />
        </g>
      </svg>
      <canvas ref="canvas" :width="field.size.value.width" :height="field.size.value.height" data-check />
    </div>
    <div class="told">
      <p v-if="!done" class="book">
        Put the nib down on the ringed cross, {{ LEANS[round] }}. {{ taps.length }} of
        {{ LEANS.length * crosses.length }}.
      </p>
      <p v-if="refusal" class="small loud">{{ refusal }}</p>
      <template v-if="found">
        <p v-for="w in found.words" :key="w" data-aim>{{ w }}</p>
        <p class="small">
          Offsets are drawn {{ MAP_TIMES }} times as long. Your hand aims to {{ say(found.scatter_mm) }} mm.
        </p>
        <button
          v-if="found.correction"
          type="button"
          class="word-button strong"
          @click="settings.aim = found.correction"
        >
          Correct it on this screen
        </button>
      </template>
      <button v-if="taps.length" type="button" class="word-button" @click="anew">Begin anew</button>
      <button v-if="settings.aim" type="button" class="word-button" @click="settings.aim = null">
        Take the pen as it is reported
      </button>
      <p v-if="settings.aim" class="small" data-corrected>What you write in this browser is corrected.</p>
    </div>
  </div>
</template>

<style scoped>
path,
circle {
  fill: none;
  stroke: var(--on-swatch);
  stroke-width: 1.2;
}
.next path,
.next circle {
  stroke-width: 2;
}
.off {
  stroke: var(--on-swatch);
  stroke-width: 1.5;
}
</style>

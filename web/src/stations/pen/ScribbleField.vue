<script setup lang="ts">
import { useDevicePixelRatio, useElementSize, useEventListener } from '@vueuse/core'
import { nextTick, ref, shallowRef, useTemplateRef, watch } from 'vue'
import type { Recipe, SheetItem } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { drawStroke, LivePen, readEvent, type Capture, type PenPlan, type Sample } from '@/ink'
import { usePlans } from '@/stores/plans'
import { useScreen } from '@/stores/screen'

/**
 * A field to scribble in with the pen as it is set now, kept apart from sheets. What was scribbled is inked again with
 * every change, at true size, until it is wiped.
 */
const props = defineProps<{ recipe: Recipe; paper: SheetItem['paper'] }>()
const plans = usePlans()
const screen = useScreen()
const box = useTemplateRef<HTMLElement>('box')
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const { width, height } = useElementSize(box)
const { pixelRatio } = useDevicePixelRatio()
const plan = shallowRef<PenPlan>()
const count = ref(0)
const strokes: Sample[][] = []
let down: { live: LivePen; capture: Capture; samples: Sample[]; drawn: number; by: string } | undefined

const compiled = useLatest(
  (of: { recipe: Recipe; paper: SheetItem['paper'] }) => plans.compile(of.recipe, of.paper.colour, of.paper),
  (made) => {
    plan.value = made
    drawAll()
  },
  undefined,
  { follow: true },
)
watch([() => props.recipe, () => props.paper], () => void compiled.want({ recipe: props.recipe, paper: props.paper }), {
  immediate: true,
})
watch([width, height], () => void nextTick(drawAll))

function lay(live: LivePen, from = 0) {
  const context = canvas.value?.getContext('2d')
  if (context) drawStroke({ context, scale: screen.pxPerMm * pixelRatio.value }, live.plan, live.shown(), from)
}

function drawAll() {
  const context = canvas.value?.getContext('2d')
  if (!context || !plan.value) return
  context.clearRect(0, 0, context.canvas.width, context.canvas.height)
  for (const samples of strokes) {
    const live = new LivePen(plan.value)
    for (const s of samples) live.add(s)
    live.lift()
    lay(live)
  }
}

function start(event: PointerEvent) {
  if (!plan.value || !canvas.value || (event.pointerType === 'mouse' && event.button)) return
  if (down && (event.pointerType === 'touch' || down.by !== event.pointerType)) return
  end() // a nib that lands again has lifted, though nobody told of it
  canvas.value.setPointerCapture(event.pointerId)
  const { left, top } = canvas.value.getBoundingClientRect()
  const capture = { left, top, pxPerMm: screen.pxPerMm, startMs: event.timeStamp }
  down = { live: new LivePen(plan.value), capture, samples: [], drawn: 0, by: event.pointerType }
  move(event)
}

function move(event: PointerEvent) {
  if (!down) return
  const samples = readEvent(event, down.capture, down.samples.at(-1)?.tS ?? -1)
  for (const s of samples) down.live.add(s)
  down.samples.push(...samples)
  if (!samples.length) return
  lay(down.live, down.drawn)
  down.drawn = Math.max(1, down.live.points.length)
}

function end() {
  const ended = down
  down = undefined
  if (!ended?.samples.length) return
  ended.live.lift()
  lay(ended.live, ended.drawn)
  strokes.push(ended.samples)
  count.value = strokes.length
}

function wipe() {
  strokes.length = count.value = 0
  drawAll()
}

useEventListener(canvas, 'pointerdown', start)
useEventListener(canvas, 'pointermove', move)
useEventListener(canvas, ['pointerup', 'pointercancel'], end)
</script>

<template>
  <div ref="box" class="scribble">
    <canvas
      ref="canvas"
      :width="Math.round(width * pixelRatio)"
      :height="Math.round(height * pixelRatio)"
      data-layer="scribble"
      aria-label="Scribble here with this pen; it is kept on no sheet"
    />
    <p v-if="!count" class="book small">Scribble here with this pen: it is kept on no sheet.</p>
    <button v-else type="button" class="word-button" @click="wipe">Wipe</button>
  </div>
</template>

<style scoped>
.scribble {
  position: absolute;
  inset: 0;
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  touch-action: none;
  cursor: crosshair;
}
p {
  position: absolute;
  left: 14px;
  bottom: 8px;
  font-style: italic;
  pointer-events: none;
}
button {
  position: absolute;
  right: 8px;
  bottom: 8px;
}
</style>

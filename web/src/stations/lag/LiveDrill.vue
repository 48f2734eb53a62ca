<script setup lang="ts">
import { useElementSize, useEventListener } from '@vueuse/core'
import { ref, shallowRef, useTemplateRef, watch } from 'vue'
import { roughly } from '@/components/numbers'
import { drawStroke, LivePen, readEvent, type Capture, type PenPlan } from '@/ink'
import { useDesk } from '@/stores/desk'
import { usePlans } from '@/stores/plans'
import { summary, type Timing } from './timings'

/** Measured in this browser: from the event's own time to its handler, and to the frame after the one that draws it. */
defineProps<{ modelledMs: number }>()
const desk = useDesk()
const plans = usePlans()
const box = useTemplateRef<HTMLElement>('box')
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const { width, height } = useElementSize(box)
const plan = shallowRef<PenPlan>()
const timings: Timing[] = []
const frames: number[] = []
const found = shallowRef(summary([], []))
const strokes = ref(0)
const SCALE = 96 / 25.4

watch([() => desk.pen, () => desk.sheet?.paper], async () => {
  if (desk.pen && desk.sheet) plan.value = await plans.planOf(desk.pen, desk.sheet.paper)
  clear()
}, { immediate: true })

let down: { live: LivePen; capture: Capture; lastS: number; drawn: number; waiting: { event: number; handled: number }[] } | undefined

function start(event: PointerEvent) {
  if (!plan.value || !canvas.value) return
  canvas.value.setPointerCapture(event.pointerId)
  const place = canvas.value.getBoundingClientRect()
  down = { live: new LivePen(plan.value), capture: { left: place.left, top: place.top, pxPerMm: SCALE, startMs: event.timeStamp }, lastS: -1, drawn: 0, waiting: [] }
  move(event)
  frames.push(-1)
  requestAnimationFrame(draw)
}

function move(event: PointerEvent) {
  if (!down) return
  const samples = readEvent(event, down.capture, down.lastS)
  for (const s of samples) down.live.add(s)
  down.lastS = samples.at(-1)?.tS ?? down.lastS
  if (samples.length) down.waiting.push({ event: event.timeStamp, handled: performance.now() })
}

function draw(now: number) {
  const context = canvas.value?.getContext('2d')
  if (!down || !context) return
  frames.push(now)
  drawStroke({ context, scale: SCALE }, plan.value!, down.live.shown(), down.drawn)
  down.drawn = Math.max(1, down.live.points.length)
  const waiting = down.waiting.splice(0)
  // the next frame's start is the first moment at which this one has certainly been handed on
  requestAnimationFrame((after) => waiting.forEach((w) => timings.push({ handlerMs: w.handled - w.event, frameMs: after - w.event })))
  requestAnimationFrame(draw)
}

function end() {
  if (!down) return
  down = undefined
  strokes.value += 1
  requestAnimationFrame(() => (found.value = summary(timings, frames)))
}

function clear() {
  timings.length = frames.length = 0
  strokes.value = 0
  found.value = summary([], [])
  canvas.value?.getContext('2d')?.clearRect(0, 0, canvas.value.width, canvas.value.height)
}

useEventListener(canvas, 'pointerdown', start)
useEventListener(canvas, 'pointermove', move)
useEventListener(canvas, ['pointerup', 'pointercancel'], end)
</script>

<template>
  <section class="drill">
    <h2>Live <em class="book">here, with this pen</em></h2>
    <div ref="box" class="box card">
      <canvas ref="canvas" :width="Math.round(width)" :height="Math.round(height)" data-layer="drill" aria-label="Write here: straight strokes, circles, small quick writing, dots" />
      <span v-if="!strokes" class="small book">Strokes, circles, small quick writing, dots</span>
    </div>
    <p v-if="found.count" class="small" data-live>
      <b>{{ roughly(found.frameP50) }}</b> ms to the frame (95 % under {{ roughly(found.frameP95) }}), <b>{{ roughly(found.handlerP50) }}</b> to the handler (95 % under {{ roughly(found.handlerP95) }}); {{ found.count }} events, {{ found.dropped }} frames dropped.
      The model says {{ roughly(modelledMs) }} ms for these stages of the {{ desk.device?.device.name }}.
      <button type="button" class="plain-button" @click="clear">Start over</button>
    </p>
  </section>
</template>

<style scoped>
.drill { display: flex; flex-direction: column; min-height: 0; }
h2 { font-size: var(--size); font-weight: 650; margin-bottom: 4px; }
h2 em { font-weight: 400; font-size: 14px; margin-left: 8px; }
.box { position: relative; flex: 1; min-height: 110px; }
canvas { position: absolute; inset: 0; touch-action: none; cursor: crosshair; }
.box span { position: absolute; left: 10px; bottom: 6px; font-style: italic; pointer-events: none; }
b { font-weight: 650; color: var(--ink); }
.plain-button { min-height: 0; padding: 6px 0; text-decoration: underline; }
</style>

<script setup lang="ts">
import { useElementSize, useEventListener } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef, useTemplateRef, watch } from 'vue'
import type { Recipe, SheetItem } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { roughly } from '@/lib/numbers'
import { drawStroke, LivePen, readEvent, type Capture, type PenPlan, type Sample } from '@/ink'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { useLag } from '@/stores/lag'
import { usePlans } from '@/stores/plans'
import { useScreen } from '@/stores/screen'
import { frameGaps, percentile, summary, type Timing } from './timings'
import { useDeviceSeen } from './use-device-seen'

/** Measured in this browser: from the event's own time to its handler, and to the frame after the one that draws it. */
const props = defineProps<{ controls: readonly number[] }>()
const desk = useDesk()
const draft = useDraft()
const lag = useLag()
const plans = usePlans()
const screen = useScreen()
const box = useTemplateRef<HTMLElement>('box')
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const { width, height } = useElementSize(box)
const plan = shallowRef<PenPlan>()
const device = useDeviceSeen(canvas)
const timings: Timing[] = []
const frames: number[] = []
const strokes = ref(0)
let longTasks = 0
const found = computed(() => lag.live)

const compiled = useLatest(
  (of: { recipe: Recipe; paper: SheetItem['paper'] }) => plans.planOf(of.recipe, of.paper),
  (made) => (plan.value = made),
)
watch(
  [() => draft.recipe, () => desk.sheet?.paper, () => desk.device?.id],
  () => {
    startOver()
    if (draft.recipe && desk.sheet) void compiled.want({ recipe: draft.recipe, paper: desk.sheet.paper })
  },
  { immediate: true },
)
watch(
  () => props.controls.length,
  () => strokes.value && tell(),
)

const tasks = PerformanceObserver.supportedEntryTypes?.includes('longtask')
  ? new PerformanceObserver((list) => {
      if (down) longTasks += list.getEntries().length
    })
  : undefined
tasks?.observe({ type: 'longtask' })
onScopeDispose(() => tasks?.disconnect())

let down:
  | { live: LivePen; capture: Capture; samples: Sample[]; drawn: number; waiting: { event: number; handled: number }[] }
  | undefined

function start(event: PointerEvent) {
  if (!plan.value || !canvas.value) return
  canvas.value.setPointerCapture(event.pointerId)
  const place = canvas.value.getBoundingClientRect()
  down = {
    live: new LivePen(plan.value),
    capture: { left: place.left, top: place.top, pxPerMm: screen.pxPerMm, startMs: event.timeStamp },
    samples: [],
    drawn: 0,
    waiting: [],
  }
  move(event)
  frames.push(-1)
  requestAnimationFrame(draw)
}

function move(event: PointerEvent) {
  if (!down) return
  const handled = performance.now()
  const samples = readEvent(event, down.capture, down.samples.at(-1)?.tS ?? -1)
  for (const s of samples) down.live.add(s)
  down.samples.push(...samples)
  if (samples.length) down.waiting.push({ event: event.timeStamp, handled })
}

function draw(now: number) {
  const context = canvas.value?.getContext('2d')
  if (!down || !context) return
  frames.push(now)
  drawStroke({ context, scale: screen.pxPerMm }, plan.value!, down.live.shown(), down.drawn)
  down.drawn = Math.max(1, down.live.points.length)
  const waiting = down.waiting.splice(0)
  // the next frame's start is the first moment at which this one has certainly been handed on
  requestAnimationFrame((after) =>
    waiting.forEach((w) => timings.push({ handlerMs: w.handled - w.event, frameMs: after - w.event })),
  )
  requestAnimationFrame(draw)
}

function end(event: PointerEvent) {
  if (!down) return
  device.add(down.samples, event.pointerType)
  down = undefined
  strokes.value += 1
  requestAnimationFrame(() => requestAnimationFrame(tell))
}

function tell() {
  if (!timings.length) return
  lag.live = {
    ...summary(timings, frames, longTasks, props.controls),
    raw_p50_ms: device.raw.delays.length ? Math.max(0, percentile(device.raw.delays, 0.5)) : null,
  }
  const frameMs = percentile(frameGaps(frames), 0.5)
  lag.seen = {
    strokes: [...device.strokes],
    hover: device.hover.value,
    contact_size: device.contactSize.value,
    frame_hz: frameMs > 1 ? Math.min(1000, 1000 / frameMs) : 60,
  }
  lag.seenWords = device.words()
}

/** Another pen or paper is timed from nothing; what was measured with the one before stays with it. */
function startOver() {
  timings.length = frames.length = longTasks = 0
  device.clear()
  strokes.value = 0
  canvas.value?.getContext('2d')?.clearRect(0, 0, canvas.value.width, canvas.value.height)
}

function clear() {
  startOver()
  lag.live = lag.seen = undefined
}

useEventListener(canvas, 'pointerdown', start)
useEventListener(canvas, 'pointermove', move)
useEventListener(canvas, ['pointerup', 'pointercancel'], end)
</script>

<template>
  <section class="drill">
    <h2>Live <em class="book">here, with this pen</em></h2>
    <div ref="box" class="box card">
      <canvas
        ref="canvas"
        :width="Math.round(width)"
        :height="Math.round(height)"
        data-layer="drill"
        aria-label="Write here: straight strokes, circles, small quick writing, dots"
      />
      <span v-if="!strokes" class="small book">Strokes, circles, small quick writing, dots</span>
    </div>
    <p v-if="found" class="small" data-live>
      <b>{{ roughly(found.frame_p50_ms) }}</b> ms to the frame (95 % under {{ roughly(found.frame_p95_ms) }}),
      <b>{{ roughly(found.handler_p50_ms) }}</b> to the handler (95 % under {{ roughly(found.handler_p95_ms) }});
      {{ found.events }} events, {{ found.dropped }} frames dropped, {{ found.long_tasks }} long tasks.
      <template v-if="found.control_ms !== null && found.control_ms !== undefined"
        >A pressed control shows after {{ roughly(found.control_ms) }} ms.</template
      >
      <button type="button" class="plain-button" @click="clear">Start over</button>
    </p>
  </section>
</template>

<style scoped>
.drill {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
h2 {
  font-size: var(--size);
  font-weight: 650;
  margin-bottom: 4px;
}
h2 em {
  font-weight: 400;
  font-size: 14px;
  margin-left: 8px;
}
.box {
  background: var(--swatch-ground);
  position: relative;
  flex: 1;
  min-height: 160px;
}
canvas {
  position: absolute;
  inset: 0;
  touch-action: none;
  cursor: crosshair;
}
.box span {
  position: absolute;
  left: 10px;
  bottom: 6px;
  font-style: italic;
  pointer-events: none;
  color: var(--on-swatch);
}
b {
  font-weight: 650;
  color: var(--ink);
}
.plain-button {
  min-height: 0;
  padding: 6px 0;
  text-decoration: underline;
}
</style>

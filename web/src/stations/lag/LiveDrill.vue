<script setup lang="ts">
import { useElementSize, useEventListener } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { api, take, type Recipe, type Schemas, type SheetItem } from '@/api/client'
import { useDeviceSeen } from '@/composables/use-device-seen'
import { useLatest } from '@/composables/use-latest'
import { roughly } from '@/lib/numbers'
import { percentile } from '@/lib/percentile'
import { AheadDrawing, LiveDrawing, readEvent, type Capture, type PenPlan, type Sample } from '@/ink'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { useHere } from '@/stores/here'
import { useLag } from '@/stores/lag'
import { usePlans } from '@/stores/plans'
import { useScreen } from '@/stores/screen'
import { frameGaps, summary, type Timing } from './timings'

/** Measured in this browser: from the event's own time to its handler, and to the frame after the one that draws it. */
const props = defineProps<{ controls: readonly number[] }>()
const desk = useDesk()
const draft = useDraft()
const lag = useLag()
const here = useHere()
const plans = usePlans()
const screen = useScreen()
const box = useTemplateRef<HTMLElement>('box')
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const above = useTemplateRef<HTMLCanvasElement>('above')
const { width, height } = useElementSize(box)
const plan = shallowRef<PenPlan>()
const layer = (of: HTMLCanvasElement | null) => of?.getContext('2d', { desynchronized: true })
const device = useDeviceSeen(canvas)
const timings: Timing[] = []
const frames: number[] = []
const strokes = ref(0)
const found = computed(() => lag.live)

let longTasks = 0
const MOST_SHOWN = 20 // strokes whose frames are read
type Shown = Schemas['ShownStroke']
const shown: Shown[] = []
const ahead = new AheadDrawing()
const framesRead = useLatest(
  (body: Schemas['ShownBody']) => take(api.POST('/api/lag/shown', { body })),
  (answer, { recipe }) => (lag.shown = { ...answer, aheadMs: recipe.steady?.ahead_ms ?? 0 }),
  () => (lag.shown = undefined), // too few frames
)

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

const NO_FRAMES = () => ({
  t_ms: [],
  tip_x_mm: [],
  tip_y_mm: [],
  front_x_mm: [],
  front_y_mm: [],
  guess_made_ms: [],
  guess_t_ms: [],
  guess_x_mm: [],
  guess_y_mm: [],
})
let down:
  | {
      ink: LiveDrawing
      capture: Capture
      samples: Sample[]
      waiting: { event: number; handled: number }[]
      frames: Omit<Shown, 'stroke'>
    }
  | undefined

function start(event: PointerEvent) {
  if (!plan.value || !canvas.value) return
  canvas.value.setPointerCapture(event.pointerId)
  const place = canvas.value.getBoundingClientRect()
  down = {
    ink: new LiveDrawing(plan.value),
    capture: {
      left: place.left,
      top: place.top,
      pxPerMm: screen.pxPerMm,
      startMs: event.timeStamp,
      aimed: here.aim ? here.aimed : undefined,
    },
    samples: [],
    waiting: [],
    frames: NO_FRAMES(),
  }
  move(event)
  frames.push(-1)
  requestAnimationFrame(draw)
}

function move(event: PointerEvent) {
  if (!down) return
  const handled = performance.now()
  report(event)
  guessed(event)
  down.waiting.push({ event: event.timeStamp, handled })
}

/** Reports are read as soon as the browser tells them, as on the sheet. */
function report(event: PointerEvent) {
  if (!down) return
  const samples = readEvent(event, down.capture, down.samples.at(-1)?.tS ?? -1)
  for (const s of samples) down.ink.pen.add(s)
  down.samples.push(...samples)
}

/** What the browser itself expects of the nib, where it does. */
function guessed(event: PointerEvent) {
  const last = event.getPredictedEvents?.().at(-1)
  const made = down?.samples.at(-1)
  if (!down || !last || !made) return
  const { frames: into, capture } = down
  into.guess_made_ms!.push(made.tS * 1000)
  into.guess_t_ms!.push(last.timeStamp - capture.startMs)
  into.guess_x_mm!.push((last.clientX - capture.left) / capture.pxPerMm)
  into.guess_y_mm!.push((last.clientY - capture.top) / capture.pxPerMm)
}

function draw(now: number) {
  const context = layer(canvas.value)
  const over = layer(above.value)
  if (!down || !context || !over) return
  frames.push(now)
  const ground = { context, scale: screen.pxPerMm }
  const { ink, capture, frames: into } = down
  ink.draw(ground)
  const nowS = (now - capture.startMs) / 1000
  ahead.draw({ ...ground, context: over }, ink.pen, nowS)
  const tip = ink.pen.shown().at(-1)
  const front = ink.pen.ahead(nowS)?.[1] ?? tip
  const waiting = down.waiting.splice(0)
  // the next frame's start is the first moment at which this one has certainly been handed on
  requestAnimationFrame((after) => {
    waiting.forEach((w) => timings.push({ handlerMs: w.handled - w.event, frameMs: after - w.event }))
    if (!tip || !front) return
    into.t_ms.push(after - capture.startMs)
    into.tip_x_mm.push(tip.x)
    into.tip_y_mm.push(tip.y)
    into.front_x_mm.push(front.x)
    into.front_y_mm.push(front.y)
  })
  requestAnimationFrame(draw)
}

function end(event: PointerEvent) {
  if (!down) return
  device.add(down.samples, event.pointerType)
  const stroke = device.strokes.at(-1)
  if (stroke && down.samples.length) shown.push({ stroke, ...down.frames })
  if (shown.length > MOST_SHOWN) shown.shift()
  down.ink.pen.lift()
  const [context, over] = [layer(canvas.value), layer(above.value)]
  if (context) down.ink.draw({ context, scale: screen.pxPerMm })
  if (over) ahead.clear(over)
  down = undefined
  strokes.value += 1
  requestAnimationFrame(() => requestAnimationFrame(tell))
}

function tell() {
  if (!timings.length) return
  if (draft.recipe) void framesRead.want({ recipe: draft.recipe, shown: [...shown] })
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
  timings.length = frames.length = shown.length = longTasks = 0
  framesRead.forget()
  device.clear()
  strokes.value = 0
  layer(canvas.value)?.clearRect(0, 0, canvas.value!.width, canvas.value!.height)
}

function clear() {
  startOver()
  lag.live = lag.seen = lag.shown = undefined
}

useEventListener(canvas, 'pointerdown', start)
useEventListener(canvas, 'pointermove', move)
useEventListener(canvas, 'pointerrawupdate', (event) => report(event as PointerEvent))
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
      <canvas ref="above" class="above" :width="Math.round(width)" :height="Math.round(height)" data-layer="ahead" />
      <span v-if="!strokes" class="small book">Strokes, circles, small quick writing, dots</span>
    </div>
    <p class="small told">
      <span v-if="found" data-live>
        <b>{{ roughly(found.frame_p50_ms) }}</b> ms to the frame (95 % under {{ roughly(found.frame_p95_ms) }}),
        <b>{{ roughly(found.handler_p50_ms) }}</b> to the handler (95 % under {{ roughly(found.handler_p95_ms) }});
        {{ found.events }} events, {{ found.dropped }} frames dropped, {{ found.long_tasks }} long tasks.
        <template v-if="found.control_ms !== null && found.control_ms !== undefined"
          >A pressed control shows after {{ roughly(found.control_ms) }} ms.</template
        >
        <button type="button" class="plain-button" @click="clear">Start over</button>
      </span>
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
.above {
  pointer-events: none;
}
.box span {
  position: absolute;
  left: 10px;
  bottom: 6px;
  font-style: italic;
  pointer-events: none;
  color: var(--on-swatch);
}
/* its place is kept free: a box that grew or shrank would lose its ink */
.told {
  min-height: 108px;
  margin: 0;
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

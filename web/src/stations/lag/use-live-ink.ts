import { useEventListener } from '@vueuse/core'
import { shallowRef, watch, type Ref } from 'vue'
import type { Recipe, Schemas, SheetItem } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { AheadDrawing, LiveDrawing, readEvent, type Capture, type PenPlan, type Sample } from '@/ink'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { useScreenSettings } from '@/stores/screen-settings'
import { usePlans } from '@/stores/plans'
import { useScreen } from '@/stores/screen'
import type { Timing } from './timings'

type ShownFrames = Omit<Schemas['ShownStroke'], 'stroke'>
/** A pen event that waits to be shown; timed: its own time and when it was handled, ms. */
interface Waiting {
  dueMs: number
  samples: Sample[]
  timed?: { event: number; handled: number }
}
interface Stroke {
  ink: LiveDrawing
  capture: Capture
  samples: Sample[]
  waiting: Waiting[]
  drawn: { event: number; handled: number }[]
  frames: ShownFrames
  pointerType: string
  lifted: boolean
}
interface Finished {
  samples: Sample[]
  frames: ShownFrames
  pointerType: string
}

const NO_FRAMES = (): ShownFrames => ({
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

/**
 * Ink under the pen on a canvas of its own, timed: from each event to its handler and to the frame after the one that
 * draws it. addedMs: what is held back before it is shown; a stroke that is lifted is shown to its end as late. anew:
 * called for another pen, paper or device, for which all is timed from nothing.
 */
export function useLiveInk(
  canvas: Ref<HTMLCanvasElement | null>,
  above: Ref<HTMLCanvasElement | null>,
  of: { addedMs?: () => number; finished: (stroke: Finished) => void; anew: () => void },
) {
  const desk = useDesk()
  const draft = useDraft()
  const plans = usePlans()
  const settings = useScreenSettings()
  const screen = useScreen()
  const plan = shallowRef<PenPlan>()
  const layer = (on: HTMLCanvasElement | null) => on?.getContext('2d', { desynchronized: true })
  const addedMs = () => of.addedMs?.() ?? 0
  const timings: Timing[] = []
  /** When frames came; -1 says that a new stroke begins. */
  const frames: number[] = []
  const ahead = new AheadDrawing()
  let strokes: Stroke[] = []
  let down: Stroke | undefined
  let drawing = false

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
        aimed: settings.aim ? settings.aimed : undefined,
      },
      samples: [],
      waiting: [],
      drawn: [],
      frames: NO_FRAMES(),
      pointerType: event.pointerType,
      lifted: false,
    }
    strokes.push(down)
    move(event)
    frames.push(-1)
    if (!drawing) requestAnimationFrame(draw)
    drawing = true
  }

  function move(event: PointerEvent) {
    if (!down) return
    const handled = performance.now()
    report(event, { event: event.timeStamp, handled })
    guessed(event)
  }

  /** Reports are read as soon as the browser tells them, as on the sheet. */
  function report(event: PointerEvent, timed?: Waiting['timed']) {
    if (!down) return
    const samples = readEvent(event, down.capture, down.samples.at(-1)?.tS ?? -1)
    down.samples.push(...samples)
    down.waiting.push({ dueMs: performance.now() + addedMs(), samples, timed })
    if (!addedMs()) release(down, Infinity)
  }

  function release(stroke: Stroke, now: number) {
    while (stroke.waiting.length && stroke.waiting[0]!.dueMs <= now) {
      const { samples, timed } = stroke.waiting.shift()!
      for (const s of samples) stroke.ink.pen.add(s)
      if (timed) stroke.drawn.push(timed)
    }
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
    drawing = strokes.length > 0 && !!context && !!over
    if (!drawing || !context || !over) return
    frames.push(now)
    const ground = { context, scale: screen.pxPerMm }
    for (const stroke of strokes) {
      release(stroke, now)
      stroke.ink.draw(ground)
      const drawn = stroke.drawn.splice(0)
      const nowS = (now - addedMs() - stroke.capture.startMs) / 1000
      if (stroke === strokes.at(-1)) ahead.draw({ ...ground, context: over }, stroke.ink.pen, nowS)
      const tip = stroke.ink.pen.shown().at(-1)
      const front = stroke.ink.pen.ahead(nowS)?.[1] ?? tip
      // the next frame's start is the first moment at which this one has certainly been handed on
      requestAnimationFrame((after) => {
        drawn.forEach((w) => timings.push({ handlerMs: w.handled - w.event, frameMs: after - w.event }))
        if (!tip || !front) return
        stroke.frames.t_ms.push(after - stroke.capture.startMs)
        stroke.frames.tip_x_mm.push(tip.x)
        stroke.frames.tip_y_mm.push(tip.y)
        stroke.frames.front_x_mm.push(front.x)
        stroke.frames.front_y_mm.push(front.y)
      })
    }
    for (const stroke of strokes) if (stroke.lifted && !stroke.waiting.length) finish(stroke)
    drawing = strokes.length > 0
    if (drawing) requestAnimationFrame(draw)
  }

  function end() {
    const stroke = down
    if (!stroke) return
    down = undefined
    stroke.lifted = true
    if (!stroke.waiting.length) finish(stroke)
  }

  function finish(stroke: Stroke) {
    strokes = strokes.filter((s) => s !== stroke)
    stroke.ink.pen.lift()
    const [context, over] = [layer(canvas.value), layer(above.value)]
    if (context) stroke.ink.draw({ context, scale: screen.pxPerMm })
    if (over) ahead.clear(over)
    of.finished(stroke)
  }

  /** Timed from nothing, on an empty ground. */
  function clear() {
    timings.length = frames.length = 0
    layer(canvas.value)?.clearRect(0, 0, canvas.value!.width, canvas.value!.height)
  }

  const compiled = useLatest(
    (asked: { recipe: Recipe; paper: SheetItem['paper'] }) => plans.planOf(asked.recipe, asked.paper),
    (made) => (plan.value = made),
  )
  watch([() => draft.recipe, () => desk.sheet?.paper, () => desk.device?.id], () => {
    clear()
    of.anew()
    compile()
  })
  function compile() {
    if (draft.recipe && desk.sheet) void compiled.want({ recipe: draft.recipe, paper: desk.sheet.paper })
  }
  compile()

  useEventListener(canvas, 'pointerdown', start)
  useEventListener(canvas, 'pointermove', move)
  useEventListener(canvas, 'pointerrawupdate', (event) => report(event as PointerEvent))
  useEventListener(canvas, ['pointerup', 'pointercancel'], end)
  return { timings, frames, clear, writing: () => strokes.length > 0 }
}

import { useEventListener } from '@vueuse/core'
import { onBeforeUnmount, ref, watch, type Ref } from 'vue'
import type { Recipe } from '@/api/client'
import {
  drawStroke,
  LivePen,
  PalmEngine,
  readEvent,
  type Capture,
  type Deposit,
  type PageView,
  type PalmPlan,
  type PenPlan,
  type Point,
  type Sample,
} from '@/ink'
import type { Rail } from '@/stores/guide'
import type { NewStroke } from '@/stores/ink'
import { palmEvent } from '@/ink/palm-events'
import type { Side } from '@/stores/deeds'
import { FingerMoves } from './finger-moves'
import { useOtherHand } from './other-hand'
import type { Seen } from './use-page'

export interface Wet {
  plan: PenPlan
  points: readonly Point[]
  /** What it started from. */
  deposit?: Deposit | undefined
}

/** A pen as it writes: its plan, the revision that is kept, and what it is where that differs. */
export interface WrittenWith {
  plan: PenPlan
  id: string
  revision: number
  draft: Recipe | null
  /** What its way does instead of writing. */
  does?: 'rub' | 'choose' | 'look'
}

export interface WritingOptions {
  /** Shows the part of the page that is seen. */
  canvas: Ref<HTMLCanvasElement | null>
  seen: Ref<Seen>
  /** What the ink there left for the pen. */
  deposit: Ref<Deposit | undefined>
  /** The whole page, and its CSS and device pixels a millimetre. */
  page: Ref<HTMLElement | null>
  cssScale: Ref<number>
  scale: Ref<number>
  /** The pen in use, or undefined while it is not known yet. */
  pen: (event: PointerEvent) => WrittenWith | undefined
  /** What a stroke that lands at a place of the page goes along. */
  railAt: (x: number, y: number) => Rail | undefined
  /** The nib goes on writing. */
  wrote: (samples: readonly Sample[]) => void
  /** Whether the nib, held still, now sizes a figure and writes no more; and where it went then. */
  sizes: () => boolean
  sizing: (sample: Sample) => void
  /** A way that does not write goes on. */
  going: (samples: readonly Sample[], does: WrittenWith['does']) => void
  /** So many fingers tapped the page together, or swiped to one side, and the palm rules took none for a palm. */
  fingered: (fingers: number, side?: Side) => void
  /** The first of some fingers landed. */
  landed: () => void
  /** The pen's barrel button was pressed while it hovers. */
  barrel: () => void
  /** The palm rules as they are now. */
  palm: Ref<PalmPlan | undefined>
  /** A pen was seen. */
  penSeen: () => void
  /** CSS pixels a true millimetre. */
  pxPerMm: () => number
  /** How kept fingers move the page, from the beginning of this engine on; `held` while a finger is still down. */
  moved: (view: PageView, held: boolean) => void
  /** The engine begins anew: the next `moved` counts from where the page lies now. */
  begun: () => void
  /** A finished stroke: what to keep, and how it was drawn. */
  lifted: (stroke: NewStroke, wet: Wet, pen: WrittenWith) => void
  /** A finger's stroke that turned out to be a palm's: take it back. */
  withdrawn: (strokeId: string) => void
}

const REST_S = 0.05 // a pause longer than this is a rest, not the device's rhythm
const restMatters = (plan: PenPlan) => !!(plan.spray || plan.straight?.hold)

/**
 * Writing on a canvas with pen, mouse or finger: live ink while the pointer is down, a stroke when it lifts. The palm
 * rules decide about touches.
 */
export function useWriting(options: WritingOptions) {
  const writing = ref(false)
  let down:
    | {
        pointer: number
        pointerType: string
        touch: boolean
        live: LivePen
        samples: Sample[]
        capture: Capture
        pen: WrittenWith
        drawn: number
        /** The guide it goes along; undefined until it landed, null where there is none. */
        rail: Rail | null | undefined
        /** The part of the page it was drawn on so far. */
        on: Seen
      }
    | undefined
  /** What touches did since they landed, until they are decided; and the strokes fingers have written. */
  const early = new Map<number, PointerEvent[]>()
  const written = new Map<number, string>()
  let engine: PalmEngine | undefined
  let frameAsked = false
  const fingers = new FingerMoves(
    options.pxPerMm,
    (id) => engine?.touches.get(id)?.decision === 'refused',
    options.fingered,
  )

  watch(
    options.palm,
    (plan) => {
      if (plan && !early.size) engine = makeEngine(plan)
    },
    { immediate: true },
  )

  // a page that moves or grows below the nib leaves its canvas empty: what is being written is drawn again
  watch(options.seen, () => down && ask(), { flush: 'post' })

  function makeEngine(plan: PalmPlan): PalmEngine {
    options.begun()
    return new PalmEngine(plan, (touch) => {
      const events = early.get(touch.id)
      if (touch.decision === 'kept' && events && engine?.marks.has(touch.id) && !down) beginFinger(events)
    })
  }

  function start(event: PointerEvent) {
    const canvas = options.canvas.value
    if (!canvas || (event.pointerType === 'mouse' && event.button !== 0)) return
    canvas.setPointerCapture(event.pointerId)
    if (event.pointerType === 'touch') {
      if (!early.size) options.landed()
      early.set(event.pointerId, [event])
      fingers.down(event)
      feed(event)
      return
    }
    if (event.pointerType === 'pen') {
      options.penSeen()
      if (event.button === 2 && !event.pressure) return options.barrel()
      feed(event)
    }
    if (down?.touch) finish('touch') // the nib comes before any finger
    begin(event)
    if (down) take(event)
  }

  function begin(event: PointerEvent) {
    const pen = options.pen(event)
    const canvas = options.canvas.value
    const place = options.page.value?.getBoundingClientRect()
    if (!pen || down || !canvas || !place) return
    const capture = { left: place.left, top: place.top, pxPerMm: options.cssScale.value, startMs: event.timeStamp }
    down = {
      pointer: event.pointerId,
      pointerType: event.pointerType,
      touch: event.pointerType === 'touch',
      live: new LivePen(pen.plan),
      samples: [],
      capture,
      pen,
      drawn: 0,
      rail: pen.does ? null : undefined,
      on: options.seen.value,
    }
    writing.value = true
    canvas.style.opacity = String(pen.plan.opacity)
    canvas.style.mixBlendMode = pen.plan.blend
  }

  function beginFinger(events: readonly PointerEvent[]) {
    begin(events[0]!)
    for (const e of events) if (down) take(e)
  }

  function take(event: PointerEvent) {
    if (!down) return
    for (const sample of readEvent(event, down.capture, down.samples.at(-1)?.tS ?? -1)) {
      // a guide leads the nib: what is kept is where the nib went
      if (down.rail === undefined) down.rail = options.railAt(sample.x, sample.y) ?? null
      if (down.rail) [sample.x, sample.y] = down.rail(sample.x, sample.y)
      if (options.sizes()) {
        options.sizing(sample)
        continue
      }
      down.samples.push(sample)
      down.live.add(sample)
    }
    if (down.pen.does) options.going(down.samples, down.pen.does)
    else if (!options.sizes()) options.wrote(down.samples)
    ask()
  }

  /** Tell the rules of a report, and follow what they decide. */
  function feed(event: PointerEvent) {
    if (!engine) return
    for (const e of palmEvent(event, options.pxPerMm())) engine.feed(e)
    follow()
    ask()
  }

  function follow() {
    if (!engine) return
    if (down?.touch && !engine.marks.has(down.pointer)) discard()
    for (const [touch, stroke] of written) {
      if (!engine.touches.has(touch)) written.delete(touch)
      if (engine.touches.get(touch)?.decision !== 'refused' || engine.marks.has(touch)) continue
      written.delete(touch)
      options.withdrawn(stroke)
    }
    options.moved(engine.view(), early.size > 0)
  }

  function draw(now: number) {
    frameAsked = false
    if (engine && (early.size || engine.pending)) {
      engine.tick(performance.now())
      follow()
      ask()
    }
    engine?.letGo(now)
    const context = options.canvas.value?.getContext('2d', { desynchronized: true })
    if (!down || !context) return
    rest()
    const on = options.seen.value
    if (on !== down.on) {
      // the page moved below the nib
      context.clearRect(0, 0, context.canvas.width, context.canvas.height)
      Object.assign(down, { on, drawn: 0 })
    }
    const deposit = down.pen.does ? undefined : options.deposit.value
    const ground = { context, scale: options.scale.value, left: on.left, top: on.top, deposit }
    drawStroke(ground, down.pen.plan, down.live.shown(), down.drawn)
    down.drawn = Math.max(1, down.live.points.length)
    if (restMatters(down.pen.plan)) ask()
  }

  /**
   * A pen that lies still sends no events, but a spray builds up and a held stroke straightens: take a sample where it
   * lies.
   */
  function rest(now = performance.now()) {
    const last = down?.samples.at(-1)
    const tS = down ? (now - down.capture.startMs) / 1000 : 0
    if (!down || !last || !restMatters(down.pen.plan) || options.sizes() || tS - last.tS < REST_S) return
    down.samples.push({ ...last, tS })
    down.live.add({ ...last, tS })
  }

  function ask() {
    if (frameAsked) return
    frameAsked = true
    requestAnimationFrame(draw)
  }

  function move(event: PointerEvent) {
    if (event.pointerType === 'touch') {
      fingers.move(event)
      early.get(event.pointerId)?.push(event)
      if (early.has(event.pointerId)) feed(event)
    } else if (event.pointerType === 'pen') {
      feed(event)
    }
    if (down && event.pointerId === down.pointer) take(event)
  }

  function end(event: PointerEvent) {
    if (event.pointerType !== 'mouse' && (event.pointerType === 'pen' || early.has(event.pointerId))) feed(event)
    early.delete(event.pointerId)
    if (event.pointerType === 'touch') fingers.end(event, options.palm.value?.rules.wait_ms ?? 0)
    if (down && event.pointerId === down.pointer) {
      const last = down.samples.at(-1)
      // the lift reports no force; its position and time still end the stroke
      if (last && event.type === 'pointerup' && !options.sizes()) {
        for (const s of readEvent(event, down.capture, last.tS)) {
          if (down.rail) [s.x, s.y] = down.rail(s.x, s.y)
          if (Math.hypot(s.x - last.x, s.y - last.y) > 0.01 || s.tS - last.tS > REST_S) {
            const held = { ...s, force: last.force, altitude: last.altitude, azimuth: last.azimuth }
            down.samples.push(held)
            down.live.add(held)
          }
        }
      }
      finish(event.pointerType)
    }
    if (event.pointerType === 'touch') follow()
  }

  /** The stroke ends as it is now. */
  function finish(pointerType: string) {
    if (!down) return
    const finished = down
    finished.live.lift()
    draw(performance.now())
    discard()
    if (!finished.samples.length) return
    const begunMs = performance.timeOrigin + finished.capture.startMs
    const stroke = strokeOf(finished.samples, begunMs, pointerType, finished.pen)
    if (finished.touch) written.set(finished.pointer, stroke.id)
    options.lifted(
      stroke,
      { plan: finished.pen.plan, points: finished.live.shown(), deposit: options.deposit.value },
      finished.pen,
    )
  }

  function discard() {
    down = undefined
    writing.value = false
    const context = options.canvas.value?.getContext('2d')
    context?.clearRect(0, 0, context.canvas.width, context.canvas.height)
  }

  function strokeOf(samples: Sample[], begunMs: number, pointerType: string, pen: WrittenWith): NewStroke {
    const column = (k: keyof Sample) => samples.map((s) => s[k])
    const sensed = pointerType === 'pen'
    return {
      id: crypto.randomUUID(),
      pen_id: pen.id,
      revision: pen.revision,
      draft: pen.draft,
      layer: null,
      begun_ms: begunMs + samples[0]!.tS * 1000,
      t_ms: samples.map((s) => (s.tS - samples[0]!.tS) * 1000),
      x_mm: column('x'),
      y_mm: column('y'),
      force: sensed ? column('force') : null,
      altitude: sensed ? column('altitude') : null,
      azimuth: sensed ? column('azimuth') : null,
    }
  }

  useEventListener(options.canvas, 'pointerdown', start)
  useEventListener(options.canvas, 'pointermove', move)
  useEventListener(options.canvas, ['pointerup', 'pointercancel'], end)
  useEventListener(
    options.canvas,
    'pointerleave',
    (event: PointerEvent) => event.pointerType === 'pen' && !event.buttons && feed(event),
  )
  useOtherHand({
    pxPerMm: options.pxPerMm,
    nibIsNear: (nowMs) => !!engine?.nibIsNear(nowMs),
    restsAt: (x, y) => !!engine?.restsAt(x, y),
  })
  useEventListener(options.canvas, 'contextmenu', (event: Event) => event.preventDefault())

  // a stroke that is being written when its page goes away ends there, and is kept
  onBeforeUnmount(() => down && finish(down.touch ? 'touch' : down.pointerType))

  return { writing }
}

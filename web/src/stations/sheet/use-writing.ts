import { useEventListener } from '@vueuse/core'
import { onBeforeUnmount, ref, watch, type Ref } from 'vue'
import {
  AheadDrawing,
  LiveDrawing,
  nibJumps,
  PalmEngine,
  readEvent,
  type Capture,
  type PalmPlan,
  type PenPlan,
  type Sample,
} from '@/ink'
import type { Rail } from '@/stores/guide'
import { palmEvent } from '@/ink/palm-events'
import { useScreenSettings } from '@/stores/screen-settings'
import { FingerMoves } from './finger-moves'
import { InkTrail } from './ink-trail'
import { useOtherHand } from './other-hand'
import type { Seen } from './use-page'
import { strokeOf, type WritingOptions, type WrittenWith } from './writing-options'

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
        ink: LiveDrawing
        samples: Sample[]
        capture: Capture
        pen: WrittenWith
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
  const ahead = new AheadDrawing()
  const settings = useScreenSettings()
  const trail = new InkTrail()
  /** The system carries this stroke's line on to the nib, so that nothing is drawn ahead of it here. */
  const carried = (pen: WrittenWith) => settings.carries && !pen.does && InkTrail.fits(pen.plan)
  watch([writing, options.canvas, () => settings.carries], () => {
    if (settings.carries && !writing.value) void trail.prepare(options.canvas.value)
  })
  // neither waits for the rest of the screen where the browser can do that
  const layer = (of: Ref<HTMLCanvasElement | null>) => of.value?.getContext('2d', { desynchronized: true })
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
      options.decided(touch)
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
    // the nib comes before any finger; one that lands again has lifted, though nobody told of it
    if (down?.touch || down?.pointerType === event.pointerType) finish(down.pointerType)
    begin(event)
    if (down) take(event)
  }

  function begin(event: PointerEvent, startMs = event.timeStamp) {
    const pen = options.pen(event)
    const canvas = options.canvas.value
    const place = options.page.value?.getBoundingClientRect()
    if (!pen || down || !canvas || !place) return
    const capture = {
      left: place.left,
      top: place.top,
      pxPerMm: options.cssScale.value,
      startMs,
      aimed: settings.aim ? settings.aimed : undefined,
    }
    down = {
      pointer: event.pointerId,
      pointerType: event.pointerType,
      touch: event.pointerType === 'touch',
      ink: new LiveDrawing(pen.plan),
      samples: [],
      capture,
      pen,
      rail: pen.does ? null : undefined,
      on: options.seen.value,
    }
    writing.value = true
    for (const { style } of [canvas, options.aheadCanvas.value!]) {
      style.opacity = String(pen.plan.opacity)
      style.mixBlendMode = pen.plan.blend
    }
  }

  function beginFinger(events: readonly PointerEvent[]) {
    begin(events[0]!)
    for (const e of events) if (down) take(e)
  }

  /** Follow the nib: where it went, and what comes of that. */
  function take(event: PointerEvent) {
    if (!down) return
    report(event)
    if (down.pen.does) options.going(down.samples, down.pen.does)
    else if (!options.sizes()) options.wrote(down.samples)
  }

  /** Where the nib went, as soon as the browser tells of it. */
  function report(event: PointerEvent) {
    if (!down || event.pointerId !== down.pointer) return
    let earlierS = 0 // what a stroke that began anew on the way leaves behind
    for (const sample of readEvent(event, down.capture, down.samples.at(-1)?.tS ?? -1)) {
      sample.tS -= earlierS
      // a guide leads the nib: what is kept is where the nib went
      if (down.rail === undefined) down.rail = options.railAt(sample.x, sample.y) ?? null
      if (down.rail) [sample.x, sample.y] = down.rail(sample.x, sample.y)
      if (options.sizes()) {
        options.sizing(sample)
        continue
      }
      if (jumped(sample)) {
        earlierS += sample.tS
        fresh(event, sample.tS)
        if (!down) return
        sample.tS = 0
      }
      down.samples.push(sample)
      down.ink.pen.add(sample)
    }
    const tip = down.ink.pen.points.at(-1)
    if (!down.pen.does) options.inked(down.samples, down.pen)
    if (tip && carried(down.pen)) trail.carry(event, down.pen.plan, tip.long * down.capture.pxPerMm)
    ask()
  }

  /** Whether the pen went farther than a nib can since its last report: what it was before was a palm. */
  function jumped(sample: Sample): boolean {
    const last = down?.samples.at(-1)
    const plan = options.palm.value
    if (!down || !last || !plan || down.pen.does || down.pointerType !== 'pen') return false
    const onGlass = down.capture.pxPerMm / options.pxPerMm()
    return nibJumps(plan, Math.hypot(sample.x - last.x, sample.y - last.y) * onGlass, 1000 * (sample.tS - last.tS))
  }

  /** The nib begins anew: the ink before goes where it may still be taken back, and stays a stroke where it may not. */
  function fresh(event: PointerEvent, atS: number) {
    if (!down) return
    const startMs = down.capture.startMs + 1000 * atS
    const young = 1000 * (atS - down.samples[0]!.tS) <= (options.palm.value?.rules.take_back_ms ?? 0)
    if (young) {
      discard()
      options.dropped()
    } else finish(down.pointerType)
    begin(event, startMs)
  }

  /** Tell the rules of a report, and follow what they decide. */
  function feed(event: PointerEvent) {
    if (!engine) return
    for (const e of palmEvent(event, options.pxPerMm())) {
      options.felt(e)
      engine.feed(e)
    }
    follow()
    ask()
  }

  function follow() {
    if (!engine) return
    if (down?.touch && !engine.marks.has(down.pointer)) {
      discard()
      options.dropped()
    }
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
    const context = layer(options.canvas)
    const above = layer(options.aheadCanvas)
    if (!down || !context || !above) return
    rest()
    const on = options.seen.value
    if (on !== down.on) {
      // the page moved below the nib
      down.ink.startOver(context)
      down.on = on
    }
    const deposit = down.pen.does ? undefined : options.deposit.value
    const ground = { context, scale: options.scale.value, left: on.left, top: on.top, deposit }
    down.ink.draw(ground)
    const looks = !down.pen.does && !options.sizes() && !carried(down.pen)
    if (!looks) ahead.clear(above)
    else if (ahead.draw({ ...ground, context: above }, down.ink.pen, (now - down.capture.startMs) / 1000)) ask()
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
    down.ink.pen.add({ ...last, tS })
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
            down.ink.pen.add(held)
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
    finished.ink.pen.lift()
    draw(performance.now())
    discard()
    if (!finished.samples.length) return
    const begunMs = performance.timeOrigin + finished.capture.startMs
    const stroke = strokeOf(finished.samples, begunMs, pointerType, finished.pen)
    if (finished.touch) written.set(finished.pointer, stroke.id)
    options.lifted(
      stroke,
      { plan: finished.pen.plan, points: finished.ink.pen.shown(), deposit: options.deposit.value },
      finished.pen,
    )
  }

  function discard() {
    down = undefined
    writing.value = false
    const [context, above] = [layer(options.canvas), layer(options.aheadCanvas)]
    context?.clearRect(0, 0, context.canvas.width, context.canvas.height)
    if (above) ahead.clear(above)
  }

  useEventListener(options.canvas, 'pointerdown', start)
  useEventListener(options.canvas, 'pointermove', move)
  // not held back until the next frame, where the browser tells it
  useEventListener(options.canvas, 'pointerrawupdate', (event) => report(event as PointerEvent))
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

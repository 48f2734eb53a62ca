import { useEventListener, useLocalStorage } from '@vueuse/core'
import { ref, type Ref } from 'vue'
import { drawStroke, LivePen, readEvent, type Capture, type PenPlan, type Point, type Sample } from '@/ink'
import type { NewStroke } from '@/stores/ink'

export interface Wet { plan: PenPlan; points: readonly Point[] }

export interface WritingOptions {
  canvas: Ref<HTMLCanvasElement | null>
  /** Element that moves when a finger pans. */
  frame: Ref<HTMLElement | null>
  cssScale: Ref<number>
  scale: Ref<number>
  /** The pen in use, or undefined while it is not known yet. */
  pen: () => { plan: PenPlan; id: string; revision: number } | undefined
  /** A finished stroke: what to keep, and how it was drawn. */
  lifted: (stroke: NewStroke, wet: Wet) => void
}

const REST_S = 0.05 // a pause longer than this is a rest, not the device's rhythm
const restMatters = (plan: PenPlan) => !!(plan.spray || plan.straight?.hold)

/** Writing on a canvas with pen, mouse or finger: live ink while the pointer is down, a stroke when it lifts. */
export function useWriting(options: WritingOptions) {
  /** Once a pen was seen in this browser, fingers move the page instead of writing on it. */
  const penSeen = useLocalStorage('gray-quill-pen-seen', false)
  const fingerInk = useLocalStorage<'auto' | 'on' | 'off'>('gray-quill-finger-ink', 'auto')
  const writing = ref(false)
  let down: { pointer: number; live: LivePen; samples: Sample[]; capture: Capture; pen: NonNullable<ReturnType<WritingOptions['pen']>>; drawn: number } | undefined
  let pan: { pointer: number; x: number; y: number } | undefined
  let frameAsked = false

  const fingerWrites = () => fingerInk.value === 'on' || (fingerInk.value === 'auto' && !penSeen.value)

  function start(event: PointerEvent) {
    const canvas = options.canvas.value
    if (!canvas || (event.pointerType === 'mouse' && event.button !== 0)) return
    if (event.pointerType === 'pen') penSeen.value = true
    if (event.pointerType === 'touch' && !fingerWrites()) {
      pan = { pointer: event.pointerId, x: event.clientX, y: event.clientY }
      return
    }
    const pen = options.pen()
    if (!pen || down) return
    canvas.setPointerCapture(event.pointerId)
    const place = canvas.getBoundingClientRect()
    const capture = { left: place.left, top: place.top, pxPerMm: options.cssScale.value, startMs: event.timeStamp }
    down = { pointer: event.pointerId, live: new LivePen(pen.plan), samples: [], capture, pen, drawn: 0 }
    writing.value = true
    canvas.style.opacity = String(pen.plan.opacity)
    canvas.style.mixBlendMode = pen.plan.blend
    take(event)
  }

  function take(event: PointerEvent) {
    if (!down) return
    for (const sample of readEvent(event, down.capture, down.samples.at(-1)?.tS ?? -1)) {
      down.samples.push(sample)
      down.live.add(sample)
    }
    ask()
  }

  function draw() {
    frameAsked = false
    const context = options.canvas.value?.getContext('2d', { desynchronized: true })
    if (!down || !context) return
    rest()
    drawStroke({ context, scale: options.scale.value }, down.pen.plan, down.live.shown(), down.drawn)
    down.drawn = Math.max(1, down.live.points.length)
    if (restMatters(down.pen.plan)) ask()
  }

  /** A pen that lies still sends no events, but a spray builds up and a held stroke straightens: take a sample where it lies. */
  function rest(now = performance.now()) {
    const last = down?.samples.at(-1)
    const tS = down ? (now - down.capture.startMs) / 1000 : 0
    if (!down || !last || !restMatters(down.pen.plan) || tS - last.tS < REST_S) return
    down.samples.push({ ...last, tS })
    down.live.add({ ...last, tS })
  }

  function ask() {
    if (frameAsked) return
    frameAsked = true
    requestAnimationFrame(draw)
  }

  function move(event: PointerEvent) {
    if (pan && event.pointerId === pan.pointer) {
      options.frame.value?.scrollBy(pan.x - event.clientX, pan.y - event.clientY)
      pan = { pointer: pan.pointer, x: event.clientX, y: event.clientY }
    } else if (down && event.pointerId === down.pointer) {
      take(event)
    }
  }

  function end(event: PointerEvent) {
    if (pan?.pointer === event.pointerId) pan = undefined
    if (!down || event.pointerId !== down.pointer) return
    const last = down.samples.at(-1)
    // the lift reports no force; its position and time still end the stroke
    if (last && event.type === 'pointerup') {
      for (const s of readEvent(event, down.capture, last.tS)) {
        if (Math.hypot(s.x - last.x, s.y - last.y) > 0.01 || s.tS - last.tS > REST_S) {
          const held = { ...s, force: last.force, altitude: last.altitude, azimuth: last.azimuth }
          down.samples.push(held)
          down.live.add(held)
        }
      }
    }
    const finished = down
    if (finished.samples.length) finished.live.lift(finished.samples.at(-1)!)
    draw()
    down = undefined
    writing.value = false
    if (finished.samples.length) {
      options.lifted(strokeOf(finished.samples, event.pointerType, finished.pen), { plan: finished.pen.plan, points: finished.live.shown() })
    }
    const context = options.canvas.value?.getContext('2d')
    context?.clearRect(0, 0, context.canvas.width, context.canvas.height)
  }

  function strokeOf(samples: Sample[], pointerType: string, pen: { id: string; revision: number }): NewStroke {
    const column = (k: keyof Sample) => samples.map((s) => s[k])
    const sensed = pointerType === 'pen'
    return {
      id: crypto.randomUUID(), pen_id: pen.id, revision: pen.revision, t_ms: samples.map((s) => (s.tS - samples[0]!.tS) * 1000), x_mm: column('x'), y_mm: column('y'),
      force: sensed ? column('force') : null, altitude: sensed ? column('altitude') : null, azimuth: sensed ? column('azimuth') : null,
    }
  }

  useEventListener(options.canvas, 'pointerdown', start)
  useEventListener(options.canvas, 'pointermove', move)
  useEventListener(options.canvas, ['pointerup', 'pointercancel'], end)

  return { writing, penSeen, fingerInk, fingerWrites }
}

import type { Sample } from './live'

/** How browser events become samples: where the page lies, its scale, and when the stroke began. */
export interface Capture {
  left: number
  top: number
  pxPerMm: number
  startMs: number
  /** Where the nib is, in CSS pixels of the window, of where an event says it is: undefined where they are one. */
  aimed?: ((event: PointerEvent) => [number, number]) | undefined
}

/** The samples of a pointer event, coalesced ones first, each later than `afterS`. */
export function readEvent(event: PointerEvent, capture: Capture, afterS: number): Sample[] {
  const parts = event.getCoalescedEvents?.() ?? []
  const out: Sample[] = []
  let last = afterS
  for (const e of parts.length ? parts : [event]) {
    const tS = (e.timeStamp - capture.startMs) / 1000
    if (tS <= last) continue
    last = tS
    const [clientX, clientY] = capture.aimed?.(e) ?? [e.clientX, e.clientY]
    out.push({
      tS,
      x: (clientX - capture.left) / capture.pxPerMm,
      y: (clientY - capture.top) / capture.pxPerMm,
      force: e.pressure,
      altitude: e.altitudeAngle ?? Math.PI / 2,
      azimuth: e.azimuthAngle ?? 0,
    })
  }
  return out
}

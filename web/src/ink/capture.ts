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

/** Samples as columns, t from the first one; what only a pen senses is null of others. */
export function columnsOf(samples: readonly Sample[], pointerType: string) {
  const column = (k: keyof Sample) => samples.map((s) => s[k])
  const sensed = pointerType === 'pen'
  return {
    t_ms: samples.map((s) => (s.tS - samples[0]!.tS) * 1000),
    x_mm: column('x'),
    y_mm: column('y'),
    force: sensed ? column('force') : null,
    altitude: sensed ? column('altitude') : null,
    azimuth: sensed ? column('azimuth') : null,
  }
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

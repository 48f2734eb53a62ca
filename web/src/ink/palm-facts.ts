import type { PalmEvent, PalmTouch } from './palm'
import type { Glass } from './palm-rules'

/** The contact that lands with this report, as core/palm/facts.py has it. */
export function landed(g: Glass, nibDown: boolean, e: PalmEvent): PalmTouch {
  const { limits, rules } = g.plan
  const before = [...g.touches.values()].filter(
    (o) => o.nibWith && e.tMs - o.endedMs <= limits.again_ms && Math.hypot(o.x - e.x, o.y - e.y) <= limits.again_mm,
  )
  const size = Math.max(e.width, e.height)
  return {
    id: e.id,
    bornMs: e.tMs,
    x0: e.x,
    y0: e.y,
    x: e.x,
    y: e.y,
    sizeMm: size,
    firstMm: size,
    shortMm: Math.min(e.width, e.height),
    decision: 'waiting',
    rule: '',
    atMs: 0,
    endedMs: Infinity,
    farMm: 0,
    wayMm: 0,
    onsetMs: Infinity,
    trail: [{ tMs: e.tMs, x: e.x, y: e.y }],
    sinceNibMs: g.nibPresent ? 0 : e.tMs - g.nibSeenMs,
    nibAgeMs: g.nibPresent ? 0 : Infinity,
    nibWith: nibDown,
    againMs: Math.min(Infinity, ...before.map((o) => e.tMs - o.endedMs)),
    lifted: false,
    cancelled: false,
    odds: -Infinity,
    asked: new Set(),
    path: rules.finger_ink ? [e.x, e.y] : [],
  }
}

/** The contact takes in one more report of its own. */
export function strayed(g: Glass, t: PalmTouch, e: PalmEvent): void {
  const { limits } = g.plan
  const size = Math.max(e.width, e.height)
  if (size > t.sizeMm) {
    t.sizeMm = size
    t.shortMm = Math.min(e.width, e.height)
  }
  t.wayMm += Math.hypot(e.x - t.x, e.y - t.y)
  t.x = e.x
  t.y = e.y
  t.farMm = Math.max(t.farMm, Math.hypot(t.x - t.x0, t.y - t.y0))
  if (t.onsetMs === Infinity && t.farMm > limits.slop_mm) t.onsetMs = e.tMs - t.bornMs
  t.trail.push({ tMs: e.tMs, x: e.x, y: e.y })
  while (t.trail[1]!.tMs <= e.tMs - limits.trail_ms) t.trail.shift()
}

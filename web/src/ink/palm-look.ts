import type { Schemas } from '@/api/client'
import type { PalmTouch } from './palm'
import type { Glass } from './palm-rules'

/** The trees that tell the look of a hand, as core/palm/trees.py has them. */
export type PalmTrees = Schemas['Trees']

const finite = (v: number) => (Number.isFinite(v) ? v : NaN)
const apart = (a: PalmTouch, b: PalmTouch) => Math.hypot(a.x - b.x, a.y - b.y)
const withSign = (v: number, of: number) => (of < 0 ? -Math.abs(v) : Math.abs(v))

/** The logarithm of the odds that a contact is a hand, by its look at a moment. */
export function oddsOf(trees: PalmTrees, look: readonly number[]): number {
  const { numbers, bounds, above, missing } = trees
  let total = trees.base
  for (let node of trees.roots) {
    for (let number = numbers[node]!; number >= 0; number = numbers[node]!) {
      const value = look[number]!
      const lower = Number.isNaN(value) ? missing[node]! > 0 : value <= bounds[node]!
      node = lower ? node + 1 : above[node]!
    }
    total += bounds[node]!
  }
  return total
}

/** What is known of a contact at a moment, in the order of LOOKS (core/palm/features.py); NaN: nothing. */
export function looks(g: Glass, t: PalmTouch, nowMs: number): number[] {
  const { limits, zone, widthMm, heightMm } = g.plan
  const sized = t.sizeMm > 0
  const age = Math.min(nowMs, t.endedMs) - t.bornMs
  const [first, last] = [t.trail[0]!, t.trail.at(-1)!]
  const spanMs = last.tMs - first.tMs
  let [across, below, out] = [NaN, NaN, NaN]
  if (g.nib) {
    const [dx, dy] = [t.x - g.nib.x, t.y - g.nib.y]
    across = withSign(dx, dx * zone.dx_mm)
    below = withSign(dy, dy * zone.dy_mm)
    out = Math.hypot((dx - zone.dx_mm) / zone.rx_mm, (dy - zone.dy_mm) / zone.ry_mm)
  }
  const others = [...g.touches.values()].filter((o) => o !== t && o.endedMs === Infinity)
  const near = others.reduce<PalmTouch | undefined>((a, o) => (a && apart(a, t) <= apart(o, t) ? a : o), undefined)
  const distance = near ? apart(near, t) : NaN
  const about = others.filter((o) => apart(o, t) <= limits.near_mm)
  const sizes = about.map((o) => o.sizeMm).filter((mm) => mm > 0)
  return [
    sized ? t.sizeMm : NaN,
    sized ? t.shortMm / t.sizeMm : NaN,
    sized && t.firstMm > 0 ? t.sizeMm / t.firstMm : NaN,
    age,
    t.farMm,
    Math.min(age, t.onsetMs),
    spanMs >= limits.least_trail_ms ? (1000 * Math.hypot(last.x - first.x, last.y - first.y)) / spanMs : NaN,
    t.wayMm >= limits.least_way_mm ? t.farMm / t.wayMm : NaN,
    finite(t.sinceNibMs),
    finite(t.nibAgeMs),
    t.nibWith ? 1 : 0,
    out,
    across,
    below,
    Math.min(t.x0, t.y0, widthMm - t.x0, heightMm - t.y0),
    distance,
    near ? Math.abs(t.bornMs - near.bornMs) : NaN,
    near ? Math.abs(distance - Math.hypot(near.x0 - t.x0, near.y0 - t.y0)) : NaN,
    near ? near.farMm : NaN,
    about.length,
    sizes.length ? Math.max(...sizes) : NaN,
    about.some((o) => o.nibWith) ? 1 : 0,
    t.cancelled ? 2 : t.lifted ? 1 : 0,
    g.nibPresent ? 0 : finite(nowMs - g.nibSeenMs),
    finite(t.againMs),
  ]
}

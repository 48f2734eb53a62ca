import type { Point } from './live'
import type { Straight } from './plan'

/** Whether a hand rested at the end of a stroke long enough to ask for a straight one. */
export function heldStill(
  raw: readonly { tS: number; x: number; y: number }[],
  hold: NonNullable<Straight['hold']>,
): boolean {
  const last = raw.at(-1)
  if (!last) return false
  let since = last.tS
  let i = raw.length - 1
  for (; i >= 0 && Math.hypot(raw[i]!.x - last.x, raw[i]!.y - last.y) <= hold.within_mm; i -= 1) since = raw[i]!.tS
  if (i < 0 || last.tS - since < hold.after_s) return false
  let length = 0
  for (let k = 1; k < raw.length; k += 1) length += Math.hypot(raw[k]!.x - raw[k - 1]!.x, raw[k]!.y - raw[k - 1]!.y)
  return length >= hold.least_mm
}

/**
 * Points drawn by `strength` towards their line of least squared distance, or along the rule they follow, into `out`.
 */
export function straighten(points: readonly Point[], plan: Straight, strength: number, out: Point[]) {
  out.length = 0
  const weights = points.map((p, i) =>
    [points[i - 1], points[i + 1]].reduce((sum, q) => sum + (q ? Math.hypot(p.x - q.x, p.y - q.y) : 0), 0),
  )
  const total = weights.reduce((a, b) => a + b, 0)
  if (points.length < 3 || total < 1e-9) {
    out.push(...points)
    return
  }
  const mean = (f: (p: Point) => number) => points.reduce((sum, p, i) => sum + weights[i]! * f(p), 0) / total
  let [cx, cy] = [mean((p) => p.x), mean((p) => p.y)]
  const [xx, yy, xy] = [
    mean((p) => (p.x - cx) ** 2),
    mean((p) => (p.y - cy) ** 2),
    mean((p) => (p.x - cx) * (p.y - cy)),
  ]
  let heading = 0.5 * Math.atan2(2 * xy, xx - yy)
  const near = (rules: number[], at: number) => {
    const rule = rules.reduce((best, r) => (Math.abs(r - at) < Math.abs(best - at) ? r : best), Infinity)
    return Math.abs(rule - at) <= plan.reach_mm ? rule : at
  }
  const offLevel = Math.min(Math.abs(heading), Math.PI - Math.abs(heading))
  if (plan.y_mm.length && offLevel <= plan.within) [heading, cy] = [0, near(plan.y_mm, cy)]
  else if (plan.x_mm.length && Math.PI / 2 - offLevel <= plan.within) [heading, cx] = [Math.PI / 2, near(plan.x_mm, cx)]
  const [ux, uy] = [Math.cos(heading), Math.sin(heading)]
  for (const p of points) {
    const along = (p.x - cx) * ux + (p.y - cy) * uy
    out.push({ ...p, x: p.x + strength * (cx + along * ux - p.x), y: p.y + strength * (cy + along * uy - p.y) })
  }
}

import type { PenPlan } from './plan'

/** One causal filter over a stroke: give it each sample in turn, it returns where the tip is. */
export type Filter = (tS: number, x: number, y: number) => [number, number]

type Maker = (parameter: number, beta: number, dCutoffHz: number) => Filter

/** Share of the way to a new value for a low-pass of this cutoff after dt seconds. */
const share = (cutoffHz: number, dt: number) => 1 / (1 + 1 / (2 * Math.PI * cutoffHz * dt))

const oneEuro: Maker = (minCutoffHz, beta, dCutoffHz) => {
  let last: { t: number; x: number; y: number } | undefined
  let vx = 0
  let vy = 0
  return (t, x, y) => {
    if (!last) {
      last = { t, x, y }
      return [x, y]
    }
    const dt = t - last.t
    const ad = share(dCutoffHz, dt)
    vx += ad * ((x - last.x) / dt - vx)
    vy += ad * ((y - last.y) / dt - vy)
    const a = share(minCutoffHz + beta * Math.hypot(vx, vy), dt)
    last = { t, x: last.x + a * (x - last.x), y: last.y + a * (y - last.y) }
    return [last.x, last.y]
  }
}

const follow: Maker = (tauMs) => {
  let last: { t: number; x: number; y: number } | undefined
  let tip: [number, number] = [0, 0]
  return (t, x, y) => {
    if (last) {
      const steps = ((t - last.t) * 1000) / tauMs
      const e = Math.exp(-steps)
      const late = (1 - e) / steps
      tip = [x - (x - last.x) * late + e * (tip[0] - last.x), y - (y - last.y) * late + e * (tip[1] - last.y)]
    } else tip = [x, y]
    last = { t, x, y }
    return tip
  }
}

const leash: Maker = (slackMm) => {
  let tip: [number, number] | undefined
  return (_t, x, y) => {
    if (!tip) return (tip = [x, y])
    const reach = Math.hypot(x - tip[0], y - tip[1])
    const pull = reach <= slackMm ? 0 : 1 - slackMm / reach
    return (tip = [tip[0] + (x - tip[0]) * pull, tip[1] + (y - tip[1]) * pull])
  }
}

/** Mean over the last windowMs of the path as a function of time, resting at its start before it. */
const mean: Maker = (windowMs) => {
  const span = windowMs / 1000
  const past: { t: number; x: number; y: number; ix: number; iy: number }[] = []
  let j = 0
  return (t, x, y) => {
    const last = past.at(-1)
    if (!last) {
      past.push({ t, x, y, ix: 0, iy: 0 })
      return [x, y]
    }
    const dt = t - last.t
    const now = { t, x, y, ix: last.ix + ((x + last.x) / 2) * dt, iy: last.iy + ((y + last.y) / 2) * dt }
    past.push(now)
    const first = past[0]!
    const since = t - span
    if (since <= first.t) {
      const rest = first.t - since
      return [(now.ix + first.x * rest) / span, (now.iy + first.y * rest) / span]
    }
    while (past[j + 1]!.t <= since) j += 1
    const a = past[j]!
    const b = past[j + 1]!
    const u = since - a.t
    const s = u / (b.t - a.t)
    const bx = a.x + (b.x - a.x) * s
    const by = a.y + (b.y - a.y) * s
    return [(now.ix - a.ix - ((a.x + bx) / 2) * u) / span, (now.iy - a.iy - ((a.y + by) / 2) * u) / span]
  }
}

const MAKERS: Record<string, Maker> = { 'one-euro': oneEuro, follow, leash, window: mean }

/** The filter a plan asks for; without one the tip is where the hand is. */
export function makeFilter(steady: PenPlan['steady']): Filter {
  const maker = MAKERS[steady.method]
  return maker ? maker(steady.parameter ?? 0, steady.beta ?? 0, steady.d_cutoff_hz ?? 1) : (_t, x, y) => [x, y]
}

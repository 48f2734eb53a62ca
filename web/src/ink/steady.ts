import type { PenPlan } from './plan'

/** What the hand does at a sample: x and y, mm, then whatever is held back with them. */
export type Values = readonly number[]

/** One causal filter over a stroke: give it each sample in turn, it returns what the tip does. */
export type Filter = (tS: number, hand: Values) => Values

type Maker = (parameter: number, beta: number, dCutoffHz: number) => Filter

/** Share of the way to a new value for a low-pass of this cutoff after dt seconds. */
const share = (cutoffHz: number, dt: number) => 1 / (1 + 1 / (2 * Math.PI * cutoffHz * dt))

const oneEuro: Maker = (minCutoffHz, beta, dCutoffHz) => {
  let last: { t: number; hand: Values; tip: Values } | undefined
  let vx = 0
  let vy = 0
  return (t, hand) => {
    if (!last) {
      last = { t, hand, tip: hand }
      return hand
    }
    const { hand: before, tip } = last
    const dt = t - last.t
    const ad = share(dCutoffHz, dt)
    vx += ad * ((hand[0]! - before[0]!) / dt - vx)
    vy += ad * ((hand[1]! - before[1]!) / dt - vy)
    const a = share(minCutoffHz + beta * Math.hypot(vx, vy), dt)
    last = { t, hand, tip: hand.map((v, k) => tip[k]! + a * (v - tip[k]!)) }
    return last.tip
  }
}

const follow: Maker = (tauMs) => {
  let last: { t: number; hand: Values; tip: Values } | undefined
  return (t, hand) => {
    const then = last
    let tip = hand
    if (then) {
      const steps = ((t - then.t) * 1000) / tauMs
      const e = Math.exp(-steps)
      const late = (1 - e) / steps
      tip = hand.map((v, k) => v - (v - then.hand[k]!) * late + e * (then.tip[k]! - then.hand[k]!))
    }
    last = { t, hand, tip }
    return tip
  }
}

const leash: Maker = (slackMm) => {
  let tip: Values | undefined
  return (_t, hand) => {
    const then = tip
    if (!then) return (tip = hand)
    const reach = Math.hypot(hand[0]! - then[0]!, hand[1]! - then[1]!)
    const pull = reach <= slackMm ? 0 : 1 - slackMm / reach
    return (tip = hand.map((v, k) => then[k]! + (v - then[k]!) * pull))
  }
}

/** Mean over the last windowMs of the hand as a function of time, resting at its start before it. */
const mean: Maker = (windowMs) => {
  const span = windowMs / 1000
  const past: { t: number; hand: Values; total: Values }[] = []
  let j = 0
  return (t, hand) => {
    const last = past.at(-1)
    if (!last) {
      past.push({ t, hand, total: hand.map(() => 0) })
      return hand
    }
    const dt = t - last.t
    const total = hand.map((v, k) => last.total[k]! + ((v + last.hand[k]!) / 2) * dt)
    past.push({ t, hand, total })
    const first = past[0]!
    const since = t - span
    if (since <= first.t) {
      const rest = first.t - since
      return total.map((sum, k) => (sum + first.hand[k]! * rest) / span)
    }
    while (past[j + 1]!.t <= since) j += 1
    const a = past[j]!
    const b = past[j + 1]!
    const u = since - a.t
    const s = u / (b.t - a.t)
    return total.map((sum, k) => {
      const [from, to] = [a.hand[k]!, b.hand[k]!]
      return (sum - a.total[k]! - ((from + from + (to - from) * s) / 2) * u) / span
    })
  }
}

const MAKERS: Record<string, Maker> = { 'one-euro': oneEuro, follow, leash, window: mean }

/** The filter a plan asks for; without one the tip does what the hand does. */
export function makeFilter(steady: PenPlan['steady']): Filter {
  const maker = MAKERS[steady.method]
  return maker ? maker(steady.parameter ?? 0, steady.beta ?? 0, steady.d_cutoff_hz ?? 1) : (_t, hand) => hand
}

const NEAR_MM = 1e-6
const SEARCH_GAPS = 4
const SEARCH_MM = 1

/**
 * The rest of the hand's own way, from where the hand was nearest to the tip to where it lifts; what sets them apart
 * shrinks to nothing along it.
 */
export function caughtUp(hand: readonly Values[], tip: Values): Values[] {
  const n = hand.length
  const apart = (v: Values) => Math.hypot(v[0]! - tip[0]!, v[1]! - tip[1]!)
  const gap = apart(hand[n - 1]!)
  if (gap <= NEAR_MM) return []
  let [nearest, at, way] = [gap, n - 1, 0]
  const along = new Map<number, number>([[n - 1, 0]])
  for (let i = n - 2; i >= 0; i -= 1) {
    const [a, b] = [hand[i]!, hand[i + 1]!]
    way += Math.hypot(b[0]! - a[0]!, b[1]! - a[1]!)
    if (way > SEARCH_GAPS * gap + SEARCH_MM) break
    along.set(i, way)
    if (apart(a) < nearest) [nearest, at] = [apart(a), i]
  }
  const whole = along.get(at)!
  if (whole <= 0) return [hand[n - 1]!]
  const from = hand[at]!
  return hand.slice(at + 1).map((v, k) => {
    const left = along.get(at + 1 + k)! / whole
    return v.map((value, c) => value + (tip[c]! - from[c]!) * left)
  })
}

import { looks, oddsOf } from './palm-look'
import type { PalmPlan, PalmRules, PalmTouch } from './palm'

/** What the rules look at: the plan, all touches, and the nib. */
export interface Glass {
  readonly plan: PalmPlan
  readonly touches: ReadonlyMap<number, PalmTouch>
  nib: { x: number; y: number } | undefined
  nibPresent: boolean
  nibSeenMs: number
}
export type Moment = 'lands' | 'nibComes' | 'nibLands' | 'lifts'
type Judge = (g: Glass, t: PalmTouch, nowMs: number) => boolean

/** One rule as core/palm/rules/ has it: when it refuses, by the moment at which it is asked. */
interface Rule {
  name: string
  lands?: Judge
  nibComes?: Judge
  nibLands?: Judge
  aged?: Judge
  ageMs?: (rules: PalmRules) => number
  lifts?: Judge
}

const down = (g: Glass) => [...g.touches.values()].filter((t) => t.endedMs === Infinity)

const nibNear = (g: Glass, nowMs: number) => g.nibPresent || nowMs - g.nibSeenMs <= g.plan.rules.after_ms

function inReach({ nib, plan }: Glass, t: PalmTouch) {
  const reach = plan.rules.radius_mm
  return !!nib && (reach >= 400 || Math.hypot(t.x - nib.x, t.y - nib.y) <= reach)
}

/** Whether a place on the glass lies where the writing hand rests, seen from the nib. */
export function restsAt({ nib, plan: { zone } }: Glass, x: number, y: number) {
  return !!nib && Math.hypot((x - nib.x - zone.dx_mm) / zone.rx_mm, (y - nib.y - zone.dy_mm) / zone.ry_mm) <= 1.3
}

function inPlace({ nib, plan: { rules, zone } }: Glass, t: PalmTouch) {
  if (rules.zone <= 0 || !nib) return false
  return Math.hypot((t.x - nib.x - zone.dx_mm) / zone.rx_mm, (t.y - nib.y - zone.dy_mm) / zone.ry_mm) <= rules.zone
}

const inZone: Judge = (g, t, nowMs) => (g.nibPresent || nowMs - g.nibSeenMs <= g.plan.rules.zone_ms) && inPlace(g, t)

/** Whether a contact hardly strayed, and does not move the page with another that did: one of two fingers may rest. */
const lies: Judge = (g, t) => {
  const { rules, limits } = g.plan
  if (t.farMm >= rules.lie_mm * (inPlace(g, t) ? limits.at_rest : 1)) return false
  return !down(g).some((o) => o !== t && o.decision === 'kept' && o.farMm >= rules.lie_mm)
}

export const HAND_LIKE = 'looks like a hand'

/** Whether a contact that waits is to wait on. */
export const doubtful = (t: PalmTouch, rules: PalmRules) => rules.likely > 0 && t.odds >= 0

const lookAt = (g: Glass, t: PalmTouch, nowMs: number) => (t.odds = oddsOf(g.plan.trees, looks(g, t, nowMs)))

/** A chance as the logarithm of its odds. */
const odds = (share: number) => (share < 1 ? Math.log(share / (1 - share)) : Infinity)

const handLike: Judge = (g, t, nowMs) => g.plan.rules.likely > 0 && lookAt(g, t, nowMs) >= odds(g.plan.rules.likely)

/** Whether a pen in contact went farther between two reports than a nib can: it was a palm before. */
export function nibJumps({ rules, limits }: PalmPlan, stepMm: number, stepMs: number): boolean {
  return rules.jump_mm > 0 && stepMm > rules.jump_mm && stepMm * 1000 > limits.fastest_mm_s * stepMs
}

/** In the order of RULES in the core; tests/browser/test_palm_parity.py lays both side by side. */
export const RULES: readonly Rule[] = [
  {
    name: 'nib arrived',
    nibComes: (g, t, nowMs) =>
      g.plan.rules.before_ms > 0 && nowMs - t.bornMs <= g.plan.rules.before_ms && inReach(g, t),
  },
  {
    name: 'nib near',
    lands: (g, t, nowMs) => g.plan.rules.after_ms > 0 && t.bornMs === nowMs && nibNear(g, nowMs) && inReach(g, t),
  },
  {
    name: 'contact size',
    lands: (g, t) => g.plan.rules.size_mm > 0 && t.sizeMm > g.plan.rules.size_mm,
  },
  {
    name: 'resting zone',
    lands: inZone,
    nibComes: (g, t, nowMs) => t.endedMs === Infinity && inZone(g, t, nowMs),
  },
  {
    name: 'edge',
    lands: ({ plan: { rules, widthMm, heightMm } }, t) =>
      rules.edge_mm > 0 && Math.min(t.x0, t.y0, widthMm - t.x0, heightMm - t.y0) < rules.edge_mm,
  },
  {
    name: 'crowd',
    lands: (g, t) => {
      const { crowd_count: count, crowd_mm: reach } = g.plan.rules
      return count > 0 && down(g).filter((o) => Math.hypot(o.x - t.x, o.y - t.y) <= reach).length >= count
    },
  },
  {
    name: 'lies still',
    aged: lies,
    ageMs: (rules) => rules.lie_ms,
    // too long for a tap, too short a way for anything else
    lifts: (g, t, nowMs) => g.plan.rules.lie_ms > 0 && nowMs - t.bornMs > g.plan.limits.tap_ms && lies(g, t, nowMs),
  },
  {
    name: HAND_LIKE,
    lands: handLike,
    nibComes: (g, t, nowMs) => nowMs - t.bornMs <= g.plan.limits.longest_ms && handLike(g, t, nowMs),
    nibLands: (g, t, nowMs) => t.endedMs === Infinity && handLike(g, t, nowMs),
    // what has done nothing yet and is a hand rather than not does nothing as it lifts either
    lifts: (g, t, nowMs) => {
      const { rules, limits } = g.plan
      if (rules.likely <= 0) return false
      const undone = t.decision === 'waiting' || t.farMm <= limits.slop_mm
      return lookAt(g, t, nowMs) >= Math.min(odds(rules.likely), undone ? 0 : Infinity)
    },
  },
]

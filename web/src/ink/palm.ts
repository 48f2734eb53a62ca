import type { Schemas } from '@/api/client'
import { landed, strayed } from './palm-facts'
import type { PalmTrees } from './palm-look'
import { doubtful, HAND_LIKE, restsAt, RULES, type Glass, type Moment } from './palm-rules'

/** The rules and the resting zone, as core/palm/rules/ has them. */
export type PalmRules = Schemas['Rules']
export type PalmZone = Schemas['Zone']
export interface PalmPlan {
  rules: PalmRules
  zone: PalmZone
  limits: Schemas['Limits']
  trees: PalmTrees
  widthMm: number
  heightMm: number
}

/** One report, in mm of the screen; sizes are 0 where the device gives none. */
export interface PalmEvent {
  tMs: number
  pointer: 'touch' | 'pen'
  id: number
  phase: 'down' | 'move' | 'up' | 'cancel' | 'hover' | 'out'
  x: number
  y: number
  width: number
  height: number
}

export type Decision = 'waiting' | 'kept' | 'refused'
export interface PalmTouch {
  id: number
  bornMs: number
  x0: number
  y0: number
  x: number
  y: number
  sizeMm: number
  decision: Decision
  rule: string
  atMs: number
  endedMs: number
  farMm: number
  /** What only its look needs, as core/palm/state.py tells. */
  firstMm: number
  shortMm: number
  wayMm: number
  onsetMs: number
  trail: { tMs: number; x: number; y: number }[]
  sinceNibMs: number
  nibAgeMs: number
  nibWith: boolean
  againMs: number
  lifted: boolean
  cancelled: boolean
  odds: number
  asked: Set<string>
  path: number[]
}
interface Episode {
  ids: number[]
  scale: number
  x: number
  y: number
  takenBack: boolean
}
export interface PageView {
  scale: number
  x: number
  y: number
}

const OLD_MS = 12_000 // what ended longer ago than any rule looks back is let go

/**
 * The rules at work in the browser: what core/palm/engine.py does, report by report. Nib ink always passes; touches
 * wait, are kept or refused, and what a refused one did to the page or wrote is taken back. `decided` hears of every
 * decision.
 */
export class PalmEngine {
  readonly touches = new Map<number, PalmTouch>()
  readonly marks = new Map<number, number[]>()
  readonly taps: [number, number][] = []
  private episodes: Episode[] = []
  private settled: PageView = { scale: 1, x: 0, y: 0 }
  private group: { ids: number[]; x: number; y: number; spread: number } = { ids: [], x: 0, y: 0, spread: 0 }
  private nibDown = false
  private readonly glass: Glass

  constructor(
    readonly plan: PalmPlan,
    private decided: (touch: PalmTouch) => void = () => undefined,
  ) {
    this.glass = { plan, touches: this.touches, nib: undefined, nibPresent: false, nibSeenMs: -Infinity }
  }

  feed(e: PalmEvent): void {
    this.tick(e.tMs)
    if (e.pointer === 'pen') this.pen(e)
    else this.touch(e)
  }

  /**
   * Keep what has waited long enough, refuse what a rule judges at its age; each at its own time, whichever comes
   * first.
   */
  tick(nowMs: number): void {
    const { rules } = this.plan
    for (const t of this.touches.values()) {
      const due = RULES.filter((r) => {
        const age = r.ageMs?.(rules) ?? 0
        return age > 0 && nowMs >= t.bornMs + age && t.endedMs >= t.bornMs + age && r.aged!(this.glass, t, nowMs)
      })
      const sooner = due.some((r) => r.ageMs!(rules) <= rules.wait_ms)
      if (t.decision === 'waiting' && nowMs >= t.bornMs + rules.wait_ms && !sooner && !doubtful(t, rules))
        this.keep(t, t.bornMs + rules.wait_ms)
      for (const r of due)
        if (t.decision !== 'refused' && !t.asked.has(r.name)) this.refuse(t, r.name, t.bornMs + r.ageMs!(rules))
      for (const r of RULES) if (r.ageMs && nowMs >= t.bornMs + r.ageMs(rules)) t.asked.add(r.name)
    }
  }

  /** The state once nothing more comes: what still waits is kept, or refused where it is in doubt. */
  finish(): void {
    this.tick(Infinity)
    for (const t of this.touches.values())
      if (t.decision === 'waiting') this.refuse(t, HAND_LIKE, t.bornMs + this.plan.rules.wait_ms)
  }

  /** Whether some touch may still be decided or taken back, so that time must go on. */
  get pending(): boolean {
    return [...this.touches.values()].some((t) => t.endedMs === Infinity || t.decision === 'waiting')
  }

  /** Whether the nib is seen now or was a little while ago, so that what lies beside the page is not to be pressed. */
  nibIsNear(nowMs: number): boolean {
    const { rules, limits } = this.plan
    const lastsMs = Math.max(rules.after_ms, rules.likely > 0 ? limits.frame_ms : 0)
    return lastsMs > 0 && (this.glass.nibPresent || nowMs - this.glass.nibSeenMs <= lastsMs)
  }

  /** Whether a place on the glass, mm, lies where the writing hand rests now. */
  restsAt(x: number, y: number): boolean {
    return restsAt(this.glass, x, y)
  }

  /** Scale, x and y of the page after everything that was not taken back. */
  view(): PageView {
    let { scale, x, y } = this.settled
    for (const e of this.episodes)
      if (!e.takenBack) [scale, x, y] = [e.scale * scale, e.scale * x + e.x, e.scale * y + e.y]
    return { scale, x, y }
  }

  /** Forget what no rule can look back at any more; what it did to the page stays. */
  letGo(nowMs: number): void {
    const old = (id: number) => {
      const t = this.touches.get(id)
      return !t || nowMs - t.endedMs > OLD_MS
    }
    while (this.episodes.length && this.episodes[0]!.ids.every(old)) {
      const first = this.episodes.shift()!
      const s = this.settled
      if (!first.takenBack)
        this.settled = { scale: first.scale * s.scale, x: first.scale * s.x + first.x, y: first.scale * s.y + first.y }
    }
    for (const id of [...this.touches.keys()]) {
      if (!old(id)) continue
      this.touches.delete(id)
      this.marks.delete(id)
    }
  }

  private pen(e: PalmEvent): void {
    if (e.phase === 'out') {
      this.glass.nibPresent = this.nibDown = false
      this.glass.nibSeenMs = e.tMs
      return
    }
    const arrives = !this.glass.nibPresent
    this.glass.nib = { x: e.x, y: e.y }
    this.glass.nibSeenMs = e.tMs
    this.glass.nibPresent = e.phase !== 'up' && e.phase !== 'cancel'
    const down = e.phase === 'down' || e.phase === 'move'
    if (this.nibDown !== down) {
      this.nibDown = down
      this.regroup()
    }
    const lands = e.phase === 'down'
    for (const t of this.touches.values()) {
      if (arrives && t.nibAgeMs === Infinity) t.nibAgeMs = e.tMs - t.bornMs
      if (lands && t.endedMs === Infinity) t.nibWith = true
    }
    if (arrives) for (const t of this.touches.values()) this.judge(t, e.tMs, 'nibComes')
    if (lands) for (const t of this.touches.values()) this.judge(t, e.tMs, 'nibLands')
  }

  private touch(e: PalmEvent): void {
    const { rules } = this.plan
    if (e.phase === 'down') {
      const t = landed(this.glass, this.nibDown, e)
      this.touches.set(e.id, t)
      for (const other of this.touches.values()) if (other.endedMs === Infinity) this.judge(other, e.tMs)
      this.tick(e.tMs)
      return
    }
    const t = this.touches.get(e.id)
    if (!t || t.endedMs !== Infinity) return
    strayed(this.glass, t, e)
    if (rules.finger_ink && t.decision !== 'refused') t.path.push(e.x, e.y)
    this.judge(t, e.tMs)
    if (t.decision === 'kept') this.act(t)
    if (e.phase === 'move') return
    t.cancelled = e.phase === 'cancel'
    t.lifted = true
    this.judge(t, e.tMs, 'lifts')
    t.endedMs = e.tMs
    if ((t.decision as Decision) === 'kept') {
      this.lifted(t, e.tMs)
      this.regroup()
    }
  }

  private judge(t: PalmTouch, nowMs: number, moment: Moment = 'lands'): void {
    const { rules } = this.plan
    if (t.decision === 'refused') return
    const rule = RULES.find((r) => !(moment === 'lifts' && t.asked.has(r.name)) && r[moment]?.(this.glass, t, nowMs))
    if (rule) this.refuse(t, rule.name, nowMs)
    // what waited only because it was in doubt, and is so no more
    else if (rules.likely > 0 && t.decision === 'waiting' && nowMs >= t.bornMs + rules.wait_ms && !doubtful(t, rules))
      this.keep(t, nowMs)
  }

  private keep(t: PalmTouch, atMs: number): void {
    t.decision = 'kept'
    t.atMs = atMs
    const moving = [...this.touches.values()].some((o) => o !== t && o.decision === 'kept' && o.endedMs === Infinity)
    if (this.plan.rules.finger_ink && !moving) this.marks.set(t.id, [...t.path])
    if (t.endedMs < Infinity) this.lifted(t, atMs)
    this.regroup()
    // two fingers move the page: what they began to write was not meant
    if (this.plan.rules.finger_ink && this.group.ids.length > 1) for (const id of this.group.ids) this.marks.delete(id)
    this.decided(t)
  }

  private refuse(t: PalmTouch, rule: string, atMs: number): void {
    t.decision = 'refused'
    t.rule = rule
    t.atMs = atMs
    t.path = []
    if (atMs - t.bornMs <= this.plan.rules.take_back_ms) {
      this.marks.delete(t.id)
      for (const e of this.episodes) e.takenBack = e.takenBack || e.ids.includes(t.id)
    }
    this.regroup()
    this.decided(t)
  }

  private lifted(t: PalmTouch, atMs: number): void {
    const alone = [...this.touches.values()].every((o) => o === t || o.decision !== 'kept' || o.endedMs < t.bornMs)
    if (
      !this.plan.rules.finger_ink &&
      t.farMm <= this.plan.limits.slop_mm &&
      t.endedMs - t.bornMs <= this.plan.limits.tap_ms &&
      alone
    )
      this.taps.push([t.id, atMs])
  }

  /** Start measuring anew from where the kept touches are now. */
  private regroup(): void {
    const live = [...this.touches.values()].filter((t) => t.decision === 'kept' && t.endedMs === Infinity)
    this.group = { ids: live.map((t) => t.id), ...middleAndSpread(live) }
  }

  /** A kept touch moved: it writes, or moves the page with the others of its group. */
  private act(t: PalmTouch): void {
    const { rules } = this.plan
    const { ids } = this.group
    if (rules.finger_ink && ids.length === 1) {
      this.marks.get(t.id)?.push(t.x, t.y)
      return
    }
    if (rules.page_lock || (rules.still && this.nibDown) || (ids.length === 1 && t.farMm <= this.plan.limits.slop_mm)) {
      this.regroup()
      return
    }
    const now = middleAndSpread(ids.map((id) => this.touches.get(id)!))
    const scale =
      ids.length > 1 && this.group.spread > this.plan.limits.slop_mm && now.spread > 0
        ? now.spread / this.group.spread
        : 1
    let e = this.episodes.at(-1)
    if (!e || e.takenBack || e.ids.length !== ids.length || e.ids.some((id, k) => id !== ids[k])) {
      e = { ids, scale: 1, x: 0, y: 0, takenBack: false }
      this.episodes.push(e)
    }
    // about the touches' middle: p -> now + scale (p - before), after what the episode did so far
    e.x = scale * (e.x - this.group.x) + now.x
    e.y = scale * (e.y - this.group.y) + now.y
    e.scale *= scale
    this.group = { ids, ...now }
  }
}

function middleAndSpread(live: readonly PalmTouch[]): { x: number; y: number; spread: number } {
  if (!live.length) return { x: 0, y: 0, spread: 0 }
  const x = live.reduce((sum, t) => sum + t.x, 0) / live.length
  const y = live.reduce((sum, t) => sum + t.y, 0) / live.length
  return { x, y, spread: live.reduce((sum, t) => sum + Math.hypot(t.x - x, t.y - y), 0) / live.length }
}

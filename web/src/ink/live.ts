import { LookAhead } from './look-ahead'
import { lookUp, type PenPlan } from './plan'
import { caughtUp, makeFilter, type Values } from './steady'
import { heldStill, straighten } from './straight'

/** What the device reports: page mm, seconds from the stroke's start, force 0..1, radians. */
export interface Sample {
  tS: number
  x: number
  y: number
  force: number
  altitude: number
  azimuth: number
}

/**
 * Where and how the pen marks the page. `long` and `short` are full axes in mm; `angle` is the long one's direction.
 */
export interface Point {
  x: number
  y: number
  long: number
  short: number
  angle: number
  opacity: number
  along: number
  tS: number
}

/** Factor on the opacity so far from where the pen landed or lifted. */
function pooled(pool: { loss: number; reach_mm: number }, awayMm: number): number {
  const out = Math.min(1, Math.max(0, awayMm / pool.reach_mm))
  return 1 - pool.loss * out * out * (3 - 2 * out)
}

/** A pen at work on one stroke. Feed it samples as they come; it looks its plan up and returns where it marks. */
export class LivePen {
  readonly points: Point[] = []
  private readonly straight: Point[] = []
  /** What the hand did: x, y, force, altitude, azimuth without jumps. */
  private readonly hand: Values[] = []
  private readonly times: number[] = []
  private readonly filter
  private readonly looks: LookAhead | undefined
  private tip: Values | undefined
  private speed = 0
  private along = 0
  private readonly lnSpan: [number, number]

  constructor(readonly plan: PenPlan) {
    this.filter = makeFilter(plan.steady)
    this.looks = plan.ahead ? new LookAhead(plan.ahead) : undefined
    this.lnSpan = [Math.log(plan.dot_speed_mm_s), Math.log(plan.dot_speed_mm_s + plan.fastest_mm_s)]
  }

  add(sample: Sample): Point {
    const before = this.hand.at(-1)?.[4] ?? 0
    const azimuth = before + Math.atan2(Math.sin(sample.azimuth - before), Math.cos(sample.azimuth - before))
    const hand = [sample.x, sample.y, sample.force, sample.altitude, azimuth]
    const tip = this.filter(sample.tS, hand)
    this.looks?.add(sample.tS, tip[0]!, tip[1]!)
    const dt = sample.tS - (this.times.at(-1) ?? 0)
    this.hand.push(hand)
    this.times.push(sample.tS)
    if (!this.tip) {
      // until it is known how fast the pen landed
      this.tip = tip
      return this.mark(tip, sample.tS, this.plan.landing_mm_s)
    }
    const step = Math.hypot(tip[0]! - this.tip[0]!, tip[1]! - this.tip[1]!)
    const landing = this.hand.length === 2
    this.speed += (landing ? 1 : 1 - Math.exp((-dt * 1000) / this.plan.speed_tau_ms)) * (step / dt - this.speed)
    if (landing) this.points[0] = this.marked(this.tip, this.points[0]!.tS, this.speed)
    this.along += step
    this.tip = tip
    return this.mark(tip, sample.tS, this.speed)
  }

  /**
   * The pen lifts: the tip catches up along the hand's own way. A dot has no speed, and no way along which it could
   * taper.
   */
  lift(): void {
    const last = this.points.at(-1)
    if (!this.tip || !last) return
    if (this.hand.length === 1) this.points[0] = this.marked(this.tip, last.tS, 0)
    const tail = caughtUp(this.hand, this.tip)
    if (!tail.length) {
      const tip = Math.exp(this.plan.start_mm > 0 && this.along < 1e-6 ? lookUp(this.plan.start, 0) : 0)
      for (const p of tip < 1 ? this.points : []) Object.assign(p, { long: p.long / tip, short: p.short / tip })
    }
    for (const values of tail) {
      this.along += Math.hypot(values[0]! - this.tip[0]!, values[1]! - this.tip[1]!)
      this.tip = values
      this.mark(values, last.tS, this.speed)
    }
    const { pool } = this.plan
    for (const p of pool ? this.points : [])
      p.opacity *= pooled(pool!, Math.min(p.along, this.along - p.along)) / pooled(pool!, p.along)
  }

  /** The points as they lie on the page: drawn straight where the plan or a hand held still asks for it. */
  shown(): readonly Point[] {
    const asked = this.plan.straight
    const raw = () => this.hand.map(([x, y], k) => ({ tS: this.times[k]!, x: x!, y: y! }))
    const strength = asked?.hold && heldStill(raw(), asked.hold) ? 1 : (asked?.strength ?? 0)
    if (!asked || strength === 0) return this.points
    straighten(this.points, asked, strength, this.straight)
    return this.straight
  }

  /** The tip, and where ink is drawn ahead of it at a moment; undefined where the pen does not look ahead. */
  ahead(nowS: number): [Point, Point] | undefined {
    const by = this.looks?.by(nowS)
    const tip = by && this.shown().at(-1)
    if (!tip) return undefined
    return [tip, { ...tip, x: tip.x + by[0], y: tip.y + by[1], along: tip.along + Math.hypot(...by) }]
  }

  private mark(tip: Values, tS: number, speed: number): Point {
    const point = this.marked(tip, tS, speed)
    this.points.push(point)
    return point
  }

  private marked(tip: Values, tS: number, speed: number): Point {
    const p = this.plan
    const [x, y] = [tip[0]!, tip[1]!]
    const force = Math.min(1, Math.max(0, tip[2]!))
    const pace = (Math.log(speed + p.dot_speed_mm_s) - this.lnSpan[0]) / (this.lnSpan[1] - this.lnSpan[0])
    const start = p.start_mm > 0 ? lookUp(p.start, this.along / p.start_mm) : 0
    const paceTerm = lookUp(p.pace, pace)
    const upright = Math.min(1, Math.max(0, tip[3]! / (Math.PI / 2)))
    const width = Math.exp(p.ln_width + lookUp(p.press, force) + paceTerm + start)
    const aspect = lookUp(p.aspect, upright)
    let opacity = lookUp(p.opacity_over_force, force)
    if (p.grain)
      opacity = Math.min(
        1,
        opacity * lookUp(p.grain.load_over_altitude, upright) * Math.exp(p.grain.pace_share * paceTerm),
      )
    if (p.pool) opacity *= pooled(p.pool, this.along)
    const round = p.shape === 'round' || p.shape === 'spray'
    return {
      x,
      y,
      long: round ? width * aspect : width,
      short: round ? width : width / aspect,
      angle: p.angle ?? tip[4]!,
      opacity,
      along: this.along,
      tS,
    }
  }
}

import { lookUp, type PenPlan } from './plan'
import { makeFilter } from './steady'
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

/** A pen at work on one stroke. Feed it samples as they come; it looks its plan up and returns where it marks. */
export class LivePen {
  readonly points: Point[] = []
  private readonly straight: Point[] = []
  private readonly raw: { tS: number; x: number; y: number }[] = []
  private readonly filter
  private last: { tS: number; x: number; y: number } | undefined
  private speed = 0
  private along = 0
  private angle = 0
  private readonly lnSpan: [number, number]

  constructor(readonly plan: PenPlan) {
    this.filter = makeFilter(plan.steady)
    this.lnSpan = [Math.log(plan.dot_speed_mm_s), Math.log(plan.dot_speed_mm_s + plan.fastest_mm_s)]
  }

  add(sample: Sample): Point {
    if (this.plan.straight?.hold) this.raw.push(sample)
    const [x, y] = this.filter(sample.tS, sample.x, sample.y)
    if (this.last) {
      const step = Math.hypot(x - this.last.x, y - this.last.y)
      const dt = sample.tS - this.last.tS
      this.speed += (1 - Math.exp((-dt * 1000) / this.plan.speed_tau_ms)) * (step / dt - this.speed)
      this.along += step
    }
    this.last = { tS: sample.tS, x, y }
    return this.mark(x, y, sample)
  }

  /** The pen lifts: the tip catches up to where the hand is. A dot has no way along which it could taper. */
  lift(sample: Sample): Point | undefined {
    if (!this.last || Math.abs(this.last.x - sample.x) + Math.abs(this.last.y - sample.y) < 1e-6) {
      const tip = Math.exp(this.plan.start_mm > 0 && this.along < 1e-6 ? lookUp(this.plan.start, 0) : 0)
      for (const p of tip < 1 ? this.points : []) Object.assign(p, { long: p.long / tip, short: p.short / tip })
      return undefined
    }
    this.along += Math.hypot(sample.x - this.last.x, sample.y - this.last.y)
    return this.mark(sample.x, sample.y, sample)
  }

  /** The points as they lie on the page: drawn straight where the plan or a hand held still asks for it. */
  shown(): readonly Point[] {
    const asked = this.plan.straight
    const strength = asked?.hold && heldStill(this.raw, asked.hold) ? 1 : (asked?.strength ?? 0)
    if (!asked || strength === 0) return this.points
    straighten(this.points, asked, strength, this.straight)
    return this.straight
  }

  private mark(x: number, y: number, sample: Sample): Point {
    const p = this.plan
    const pace = (Math.log(this.speed + p.dot_speed_mm_s) - this.lnSpan[0]) / (this.lnSpan[1] - this.lnSpan[0])
    const start = p.start_mm > 0 ? lookUp(p.start, this.along / p.start_mm) : 0
    const paceTerm = lookUp(p.pace, pace)
    const upright = sample.altitude / (Math.PI / 2)
    const width = Math.exp(p.ln_width + lookUp(p.press, sample.force) + paceTerm + start)
    const aspect = lookUp(p.aspect, upright)
    let opacity = lookUp(p.opacity_over_force, sample.force)
    if (p.grain)
      opacity = Math.min(
        1,
        opacity * lookUp(p.grain.load_over_altitude, upright) * Math.exp(p.grain.pace_share * paceTerm),
      )
    if (p.angle !== null) this.angle = p.angle
    else this.angle += Math.atan2(Math.sin(sample.azimuth - this.angle), Math.cos(sample.azimuth - this.angle))
    const round = p.shape === 'round' || p.shape === 'spray'
    const point: Point = {
      x,
      y,
      long: round ? width * aspect : width,
      short: round ? width : width / aspect,
      angle: this.angle,
      opacity,
      along: this.along,
      tS: sample.tS,
    }
    this.points.push(point)
    return point
  }
}

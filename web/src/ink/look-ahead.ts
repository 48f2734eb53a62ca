import type { PenPlan } from './plan'

type Plan = NonNullable<PenPlan['ahead']>

/** Where the tip will be if it keeps its velocity, as core/pen/steady/look_ahead.py has it. */
export class LookAhead {
  private last: { tS: number; x: number; y: number } | undefined
  private vx = 0
  private vy = 0

  constructor(private readonly plan: Plan) {}

  add(tS: number, x: number, y: number): void {
    const { last } = this
    if (last) {
      const dt = tS - last.tS
      const share = 1 - Math.exp((-dt * 1000) / this.plan.tau_ms)
      this.vx += share * ((x - last.x) / dt - this.vx)
      this.vy += share * ((y - last.y) / dt - this.vy)
    }
    this.last = { tS, x, y }
  }

  /** How far ahead of the tip ink is drawn at a moment, mm; none once the pen has told nothing for a while. */
  by(nowS: number): [number, number] | undefined {
    if (!this.last || (nowS - this.last.tS) * 1000 > this.plan.stale_ms) return undefined
    const s = this.plan.ahead_ms / 1000
    return [this.vx * s, this.vy * s]
  }
}

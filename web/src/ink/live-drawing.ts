import { coverPoint, drawStroke, type Ground } from './draw'
import { LivePen, type Point } from './live'
import type { PenPlan } from './plan'

const LEAST_AHEAD_MM = 0.02 // less than that ahead of the tip shows nothing
const EDGE_PX = 2

/** A stroke as it is being written: what has come of it is drawn once, what is new each time. */
export class LiveDrawing {
  readonly pen: LivePen
  private drawn = 0

  constructor(readonly plan: PenPlan) {
    this.pen = new LivePen(plan)
  }

  draw(ground: Ground): void {
    drawStroke(ground, this.plan, this.pen.shown(), this.drawn)
    this.drawn = Math.max(1, this.pen.points.length)
  }

  /** The page moved below it: its ground is bare again. */
  startOver({ canvas }: CanvasRenderingContext2D): void {
    canvas.getContext('2d')!.clearRect(0, 0, canvas.width, canvas.height)
    this.drawn = 0
  }
}

/** What look-ahead draws, on a layer of its own above the stroke: drawn anew each time, and never kept. */
export class AheadDrawing {
  private box: [number, number, number, number] | undefined

  /** Draw what is ahead of a pen at a moment, s from the stroke's start; false where that is nothing. */
  draw(ground: Ground, pen: LivePen, nowS: number): boolean {
    const { context: c, scale, left = 0, top = 0 } = ground
    this.clear(c)
    const ends = pen.ahead(nowS)
    if (!ends || Math.hypot(ends[1].x - ends[0].x, ends[1].y - ends[0].y) < LEAST_AHEAD_MM) return false
    drawStroke(ground, pen.plan, ends)
    // the stroke's own end shows through from below
    coverPoint(ground, pen.plan, ends[0])
    const reach = (p: Point) => (Math.SQRT2 * Math.max(p.long, p.short)) / 2
    const low = (of: (p: Point) => number, from: number) =>
      Math.floor(Math.min(...ends.map((p) => of(p) - reach(p))) * scale - from - EDGE_PX)
    const high = (of: (p: Point) => number, from: number) =>
      Math.ceil(Math.max(...ends.map((p) => of(p) + reach(p))) * scale - from + EDGE_PX)
    const [x, y] = [low((p) => p.x, left), low((p) => p.y, top)]
    this.box = [x, y, high((p) => p.x, left) - x, high((p) => p.y, top) - y]
    return true
  }

  clear(context: CanvasRenderingContext2D): void {
    if (this.box) context.clearRect(...this.box)
    this.box = undefined
  }
}

import { keepEven, type Deposit } from './deposit'
import type { Point } from './live'
import { grainPattern } from './grain'
import type { PenPlan } from './plan'
import { drawRubbed } from './dry-media'
import { drawSpray } from './spray'

/**
 * A page to draw on: a 2D context whose unit is a pixel, its pixels a millimetre, and where on the page its first pixel
 * lies, in whole pixels.
 */
export interface Ground {
  context: CanvasRenderingContext2D
  scale: number
  left?: number
  top?: number
  deposit?: Deposit | undefined
}

const DIRECTIONS = Array.from({ length: 28 }, (_, i) => (i * 2 * Math.PI) / 28 + 0.01)

/** Add the hull of two discs (or one) to the path. */
function capsule(c: CanvasRenderingContext2D, x0: number, y0: number, r0: number, x1: number, y1: number, r1: number) {
  const d = Math.hypot(x1 - x0, y1 - y0)
  if (d <= Math.abs(r1 - r0) + 1e-9) {
    const [x, y, r] = r0 > r1 ? [x0, y0, r0] : [x1, y1, r1]
    c.moveTo(x + r, y)
    c.arc(x, y, r, 0, 2 * Math.PI)
    return
  }
  const heading = Math.atan2(y1 - y0, x1 - x0)
  const lean = Math.acos(Math.min(1, Math.max(-1, (r0 - r1) / d)))
  c.moveTo(x0 + r0 * Math.cos(heading + lean), y0 + r0 * Math.sin(heading + lean))
  c.arc(x0, y0, r0, heading + lean, heading - lean + 2 * Math.PI)
  c.arc(x1, y1, r1, heading - lean, heading + lean)
  c.closePath()
}

/** Add the hull of two turned footprints to the path, by the farther of the two in every direction. */
function hull(c: CanvasRenderingContext2D, a: Point, b: Point, box: boolean, scale: number, wall: number) {
  DIRECTIONS.forEach((u, i) => {
    let far = -Infinity
    let at: [number, number] = [0, 0]
    for (const p of [a, b]) {
      const long = Math.max(0, p.long / 2 - wall)
      const short = Math.max(0, p.short / 2 - wall)
      const cos = Math.cos(u - p.angle)
      const sin = Math.sin(u - p.angle)
      const reach = Math.max(Math.hypot(long * cos, short * sin), 1e-9)
      const px = box ? long * Math.sign(cos) : (long * long * cos) / reach
      const py = box ? short * Math.sign(sin) : (short * short * sin) / reach
      const x = p.x + px * Math.cos(p.angle) - py * Math.sin(p.angle)
      const y = p.y + px * Math.sin(p.angle) + py * Math.cos(p.angle)
      const height = x * Math.cos(u) + y * Math.sin(u)
      if (height > far) [far, at] = [height, [x * scale, y * scale]]
    }
    if (i === 0) c.moveTo(...at)
    else c.lineTo(...at)
  })
  c.closePath()
}

function between(a: Point, b: Point, along: number): Point {
  const u = b.along > a.along ? (along - a.along) / (b.along - a.along) : 0
  const mix = (k: keyof Point) => a[k] + (b[k] - a[k]) * u
  return {
    x: mix('x'),
    y: mix('y'),
    long: mix('long'),
    short: mix('short'),
    angle: mix('angle'),
    opacity: mix('opacity'),
    along,
    tS: mix('tS'),
  }
}

/**
 * The parts of a..b that the plan's line pattern leaves inked; a piece is a width shorter than it looks, for its round
 * ends.
 */
function inked(plan: PenPlan, a: Point, b: Point): [Point, Point][] {
  const lengths = plan.pattern_mm
  if (!lengths.length) return [[a, b]]
  const period = lengths.reduce((sum, l) => sum + l, 0)
  const half = plan.width_mm / 2
  const out: [Point, Point][] = []
  for (let start = Math.floor(a.along / period) * period; start <= b.along; start += period) {
    let edge = start
    lengths.forEach((length, i) => {
      if (i % 2 === 0) {
        const from = edge === 0 ? 0 : edge + half
        const to = Math.max(from, edge + length - half)
        const lo = Math.max(from, a.along)
        const hi = Math.min(to, b.along)
        if (lo <= hi) out.push([between(a, b, lo), between(a, b, hi)])
      }
      edge += length
    })
  }
  return out
}

/**
 * Add the inked parts of a segment to the path. All subpaths run the same way round, so that one nonzero fill is their
 * union.
 */
function addSegment(ground: Ground, plan: PenPlan, a: Point, b: Point, wall = 0) {
  const { context: c, scale } = ground
  const turned = a.long > a.short * 1.001 || b.long > b.short * 1.001
  for (const [p, q] of inked(plan, a, b)) {
    if (turned) hull(c, p, q, plan.shape === 'chisel', scale, wall)
    else
      capsule(
        c,
        p.x * scale,
        p.y * scale,
        Math.max(0, p.long / 2 - wall) * scale,
        q.x * scale,
        q.y * scale,
        Math.max(0, q.long / 2 - wall) * scale,
      )
  }
}

/** Take away what a point of a stroke covers. */
export function coverPoint(ground: Ground, plan: PenPlan, point: Point) {
  const { context: c, left = 0, top = 0 } = ground
  c.save()
  c.translate(-left, -top)
  c.globalCompositeOperation = 'destination-out'
  c.beginPath()
  addSegment(ground, plan, point, point)
  c.fill()
  c.restore()
}

/** Whether a stroke has to be drawn anew when it grows: what lies inside it, or where it lies, changes with it. */
const growsWhole = (plan: PenPlan) => !!(plan.hollow || plan.wet || plan.straight || plan.pool)

/**
 * Draw a stroke, of which points up to `from` are on the ground already. The layer it is on carries the stroke's
 * opacity and blend, so a stroke never darkens itself.
 */
export function drawStroke(ground: Ground, plan: PenPlan, points: readonly Point[], from = 0) {
  if (plan.spray) return drawSpray(ground, plan, points, from)
  if (plan.hard_edges) {
    drawLaid(ground, plan, points, from)
    return harden(ground, points, from)
  }
  const { deposit, context: c } = ground
  if (!plan.even || !deposit) return drawLaid(ground, plan, points, from)
  // what is held back would be taken again from what is drawn already
  c.clearRect(0, 0, c.canvas.width, c.canvas.height)
  drawLaid(ground, plan, points, 0)
  keepEven(ground, plan, deposit)
}

/** Ink or none: the soft edges of what was drawn last become hard ones. */
function harden({ context: c, scale, left: x0 = 0, top: y0 = 0 }: Ground, points: readonly Point[], from: number) {
  let [left, top, right, bottom] = [c.canvas.width, c.canvas.height, 0, 0]
  for (let i = Math.max(0, from - 1); i < points.length; i += 1) {
    const p = points[i]!
    const reach = p.long * scale + 2
    left = Math.min(left, Math.floor(p.x * scale - x0 - reach))
    top = Math.min(top, Math.floor(p.y * scale - y0 - reach))
    right = Math.max(right, Math.ceil(p.x * scale - x0 + reach))
    bottom = Math.max(bottom, Math.ceil(p.y * scale - y0 + reach))
  }
  ;[left, top] = [Math.max(0, left), Math.max(0, top)]
  ;[right, bottom] = [Math.min(c.canvas.width, right), Math.min(c.canvas.height, bottom)]
  if (right <= left || bottom <= top) return
  const picture = c.getImageData(left, top, right - left, bottom - top)
  for (let k = 3; k < picture.data.length; k += 4) picture.data[k] = picture.data[k]! >= 128 ? 255 : 0
  c.putImageData(picture, left, top)
}

function drawLaid(ground: Ground, plan: PenPlan, points: readonly Point[], from: number) {
  // hollow and wet strokes have walls of their own; all else that catches on a surface is rubbed onto it
  if (plan.grain && !plan.hollow && !plan.wet)
    return drawRubbed(ground, plan, points, from, (a, b) => inked(plan, a, b))
  const whole = growsWhole(plan)
  const { context: c, left = 0, top = 0 } = ground
  if (whole) c.clearRect(0, 0, c.canvas.width, c.canvas.height)
  c.save()
  c.translate(-left, -top)
  drawCovered(ground, plan, points, whole ? 0 : from)
  c.restore()
}

function drawCovered(ground: Ground, plan: PenPlan, points: readonly Point[], from: number) {
  if (plan.grain) drawGrained(ground, plan, points, from)
  else {
    ground.context.fillStyle = plan.colour
    if (plan.pool) fillPooled(ground, plan, points)
    else fillPoints(ground, plan, points, from)
  }
  if (plan.hollow) cutOut(ground, plan, points, plan.hollow.wall_mm, 1)
  // see-through fillings appear when the stroke settles
  if (plan.hollow && plan.hollow.fill_opacity === 1) fillInside(ground, plan, points, plan.hollow)
  if (plan.wet) cutOut(ground, plan, points, plan.wet.wall_mm, plan.wet.loss)
}

/**
 * Fill points from..end in runs of one opacity, each run as one path: filled one by one, the soft edges of segments
 * that overlap would add up and the line would look bolder than it settles.
 */
function fillPoints(ground: Ground, plan: PenPlan, points: readonly Point[], from: number, wall = 0, share = 1) {
  const { context: c } = ground
  let opacity = -1
  c.beginPath()
  const flush = () => {
    c.globalAlpha = Math.max(opacity, 0) * share
    c.fill()
    c.beginPath()
  }
  for (let i = Math.max(0, from <= 1 ? 0 : from); i < points.length; i += 1) {
    const a = points[Math.max(0, i - 1)]!
    const b = points[i]!
    const here = wall || plan.grain ? 1 : Math.round(((a.opacity + b.opacity) / 2) * 50) / 50
    if (here !== opacity && opacity >= 0) flush()
    opacity = here
    addSegment(ground, plan, a, b, wall)
  }
  flush()
  c.globalAlpha = 1
}

/**
 * Fill a stroke whose opacity runs up and down: a place takes the most that any part of it lays there, so the darker
 * parts are laid last and each takes the place of what lies below it.
 */
function fillPooled(ground: Ground, plan: PenPlan, points: readonly Point[]) {
  const { context: c } = ground
  const runs = new Map<number, [Point, Point][]>()
  points.forEach((b, i) => {
    const a = points[Math.max(0, i - 1)]!
    const here = Math.round(((a.opacity + b.opacity) / 2) * 50) / 50
    const run = runs.get(here)
    if (run) run.push([a, b])
    else runs.set(here, [[a, b]])
  })
  for (const [opacity, pieces] of [...runs].sort(([a], [b]) => a - b)) {
    c.beginPath()
    for (const [a, b] of pieces) addSegment(ground, plan, a, b)
    c.globalCompositeOperation = 'destination-out'
    c.fill()
    c.globalCompositeOperation = 'source-over'
    c.globalAlpha = opacity
    c.fill()
    c.globalAlpha = 1
  }
}

interface Mask {
  ground: Ground
  drawn: number
  load: number
}
const masks = new WeakMap<readonly Point[], Mask>()

/**
 * Draw a toothed stroke: what it covers is kept apart as a mask, and the surface's pattern shows through it once, at
 * the stroke's mean load so far. Painting the pattern segment by segment would darken where they overlap.
 */
function drawGrained(ground: Ground, plan: PenPlan, points: readonly Point[], from: number) {
  const { context: c, scale, left: x0 = 0, top: y0 = 0 } = ground
  let mask = masks.get(points)
  if (!mask || mask.ground.scale !== scale || mask.ground.context.canvas.width !== c.canvas.width) {
    const layer = new OffscreenCanvas(c.canvas.width, c.canvas.height)
    mask = {
      ground: { context: layer.getContext('2d') as unknown as CanvasRenderingContext2D, scale, left: x0, top: y0 },
      drawn: 0,
      load: 0,
    }
    masks.set(points, mask)
  }
  if (!points.length) return
  if (from === 0 && mask.drawn) {
    mask.ground.context.clearRect(0, 0, c.canvas.width, c.canvas.height)
    mask.ground = { ...mask.ground, left: x0, top: y0 }
    mask.drawn = mask.load = 0
  }
  mask.ground.context.save()
  mask.ground.context.translate(-x0, -y0)
  fillPoints(mask.ground, plan, points, mask.drawn)
  mask.ground.context.restore()
  for (let i = mask.drawn; i < points.length; i += 1) mask.load += points[i]!.opacity
  mask.drawn = points.length
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity]
  for (const p of points) {
    const reach = p.long / 2 + 1
    left = Math.min(left, p.x - reach)
    top = Math.min(top, p.y - reach)
    right = Math.max(right, p.x + reach)
    bottom = Math.max(bottom, p.y + reach)
  }
  const box = [
    Math.floor(left * scale),
    Math.floor(top * scale),
    Math.ceil((right - left) * scale),
    Math.ceil((bottom - top) * scale),
  ] as const
  c.save()
  c.beginPath()
  c.rect(...box)
  c.clip()
  c.clearRect(...box)
  c.drawImage(mask.ground.context.canvas, x0, y0)
  c.globalCompositeOperation = 'source-in'
  c.imageSmoothingEnabled = !plan.grain!.crisp
  c.fillStyle = grainPattern(c, plan, mask.load / points.length, scale) ?? plan.colour
  c.fillRect(...box)
  c.restore()
}

/** Take the share `loss` of its tone from the inside of a stroke. */
function cutOut(ground: Ground, plan: PenPlan, points: readonly Point[], wall: number, loss: number) {
  const { context: c } = ground
  c.globalCompositeOperation = 'destination-out'
  c.fillStyle = '#000'
  fillPoints(ground, plan, points, 0, wall, loss)
  c.globalCompositeOperation = 'source-over'
}

function fillInside(ground: Ground, plan: PenPlan, points: readonly Point[], hollow: NonNullable<PenPlan['hollow']>) {
  ground.context.fillStyle = hollow.fill
  fillPoints(ground, plan, points, 0, hollow.wall_mm)
}

import { channels } from '@/lib/colour'
import { filledAt, type Deposit } from './deposit'
import type { Ground } from './draw'
import { crumbMark, deposit as markOf, heightAt, heightsOf, shippedHeights } from './grain'
import type { Point } from './live'
import type { Grain, PenPlan } from './plan'

/** What a toothed tip rubs onto the surface, as core/ink/dry_media.py does it: loads in cells, marks made of them. */
const BLOCK_PX = 64
const [LEAST_CELLS, MOST_CELLS, CELL_SAMPLES, ACROSS] = [2, 6, 1.4, 4]
const [FULL, WAVES, DRY_MM, STEEP, BETWEEN] = [0.15, 0.2, 60, 4, 0.5]

interface Rubbing {
  scale: number
  width: number
  drawn: number
  /** Cells along a pixel's side. */
  n: number
  /** The blocks that were touched, by their place. */
  blocks: Map<string, Cells>
}
/** Loads of a block's cells; the motion's direction there, of tips that smear; what falls there, of crumbling ones. */
interface Cells {
  load: Float32Array
  heading: Float32Array | undefined
  shed: Float32Array | undefined
}
const rubbings = new WeakMap<readonly Point[], Rubbing>()

/** A footprint in pixels. */
interface Foot {
  x: number
  y: number
  long: number
  short: number
  angle: number
  load: number
  /** Way from the start of the stroke, mm. */
  along: number
}

/** Draw a toothed stroke, of which points up to `from` are on the ground already. */
export function drawRubbed(
  { context: c, scale, left: x0 = 0, top: y0 = 0, deposit }: Ground,
  plan: PenPlan,
  points: readonly Point[],
  from: number,
  pieces: (a: Point, b: Point) => [Point, Point][],
) {
  if (!points.length) return
  let rubbing = rubbings.get(points)
  if (!rubbing || rubbing.scale !== scale || rubbing.width !== c.canvas.width || (from === 0 && rubbing.drawn)) {
    const { per_mm } = plan.grain!
    const wanted = Math.max(per_mm / scale / CELL_SAMPLES, ACROSS / Math.max(plan.width_mm * scale, 0.1))
    const n = Math.min(MOST_CELLS, Math.max(LEAST_CELLS, Math.ceil(wanted)))
    if (rubbing) c.clearRect(0, 0, c.canvas.width, c.canvas.height)
    rubbing = { scale, width: c.canvas.width, drawn: 0, n, blocks: new Map() }
    rubbings.set(points, rubbing)
  }
  const dirty = { left: Infinity, top: Infinity, right: 0, bottom: 0 }
  for (let i = rubbing.drawn; i < points.length; i += 1) {
    if (i === 0 && points.length > 1) continue // its segment covers it
    for (const [a, b] of pieces(points[Math.max(0, i - 1)]!, points[i]!)) {
      const [p, q] = [foot(a, scale, x0, y0), foot(b, scale, x0, y0)]
      const reach = Math.max(p.long, q.long) * 0.7072 // farther than crumbs fall
      const left = Math.max(0, Math.floor(Math.min(p.x, q.x) - reach))
      const top = Math.max(0, Math.floor(Math.min(p.y, q.y) - reach))
      const right = Math.min(c.canvas.width, Math.ceil(Math.max(p.x, q.x) + reach))
      const bottom = Math.min(c.canvas.height, Math.ceil(Math.max(p.y, q.y) + reach))
      for (let bj = Math.floor(top / BLOCK_PX); bj * BLOCK_PX < bottom; bj += 1)
        for (let bi = Math.floor(left / BLOCK_PX); bi * BLOCK_PX < right; bi += 1)
          press(block(rubbing, plan.grain!, bi, bj), rubbing.n, bi * BLOCK_PX, bj * BLOCK_PX, p, q, plan)
      dirty.left = Math.min(dirty.left, left)
      dirty.top = Math.min(dirty.top, top)
      dirty.right = Math.max(dirty.right, right)
      dirty.bottom = Math.max(dirty.bottom, bottom)
    }
  }
  rubbing.drawn = points.length
  if (dirty.left < dirty.right && dirty.top < dirty.bottom) paint(c, rubbing, plan, dirty, x0, y0, deposit)
}

const foot = (p: Point, scale: number, x0: number, y0: number): Foot => ({
  x: p.x * scale - x0,
  y: p.y * scale - y0,
  long: p.long * scale,
  short: p.short * scale,
  angle: p.angle,
  load: p.opacity,
  along: p.along,
})

function block({ blocks, n }: Rubbing, grain: Grain, bi: number, bj: number): Cells {
  const key = `${bi} ${bj}`
  let cells = blocks.get(key)
  const plane = () => new Float32Array((BLOCK_PX * n) ** 2)
  if (!cells) {
    cells = {
      load: plane(),
      heading: grain.smear ? plane() : undefined,
      shed: grain.crumbs ? plane() : undefined,
    }
    blocks.set(key, cells)
  }
  return cells
}

/** Load of the hull of two footprints: rounded tips press most in their middle, an edge presses evenly. */
function press(
  { load: cells, heading: headings, shed }: Cells,
  n: number,
  side: number,
  top: number,
  a: Foot,
  b: Foot,
  plan: PenPlan,
) {
  const box = plan.shape === 'chisel'
  const { bristles, hairs, crumbs } = plan.grain!
  const skirt = crumbs && !box ? crumbs.skirt : 1
  if (a.long + b.long <= 0 || a.short + b.short <= 0) return
  const phi = (a.angle + b.angle) / 2
  const [c, s] = [Math.cos(phi), Math.sin(phi)]
  const q = (a.long + b.long) / (a.short + b.short)
  const [r0, r1] = [a.long / (2 * q), b.long / (2 * q)]
  const [dx, dy] = [b.x - a.x, b.y - a.y]
  const heading = headings ? Math.atan2(dy, dx) : 0
  const [ex, ey] = [(dx * c + dy * s) / q, -dx * s + dy * c]
  const length = Math.hypot(ex, ey)
  const [ux, uy] = length < 1e-9 ? [1, 0] : [ex / length, ey / length]
  const nested = length <= Math.abs(r1 - r0) + 1e-9
  const lean = nested ? 0 : (r0 - r1) / length
  const upright = Math.sqrt(1 - lean * lean)
  const most = Math.max(a.load, b.load)
  const [halfLong, halfShort] = [(Math.max(a.long, b.long) / 2) * skirt, (Math.max(a.short, b.short) / 2) * skirt]
  const reachX = box ? halfLong * Math.abs(c) + halfShort * Math.abs(s) : Math.hypot(halfLong * c, halfShort * s)
  const reachY = box ? halfLong * Math.abs(s) + halfShort * Math.abs(c) : Math.hypot(halfLong * s, halfShort * c)
  const size = BLOCK_PX * n
  const from = (low: number) => Math.max(0, Math.trunc(low * n))
  const to = (high: number) => Math.min(size, Math.trunc(high * n) + 1)
  for (let j = from(Math.min(a.y, b.y) - reachY - top); j < to(Math.max(a.y, b.y) + reachY - top); j += 1) {
    for (let i = from(Math.min(a.x, b.x) - reachX - side); i < to(Math.max(a.x, b.x) + reachX - side); i += 1) {
      const k = j * size + i
      if (cells[k]! >= most && skirt === 1) continue
      const [px, py] = [side + (i + 0.5) / n - a.x, top + (j + 0.5) / n - a.y]
      const [vx, vy] = [(px * c + py * s) / q, -px * s + py * c]
      const along = vx * ux + vy * uy
      const share = length < 1e-9 ? 0 : Math.min(1, Math.max(0, along / length))
      const load = a.load + (b.load - a.load) * share
      if (box) {
        // squeezed, a rectangle of the tip's aspect is a square; the hull of two is their box cut by the strip between
        const half = r0 + (r1 - r0) * share
        const across = Math.abs(vy * ux - vx * uy)
        const within =
          vx >= Math.min(-r0, ex - r1) &&
          vx <= Math.max(r0, ex + r1) &&
          vy >= Math.min(-r0, ey - r1) &&
          vy <= Math.max(r0, ey + r1)
        if (!within || across > half * (Math.abs(ux) + Math.abs(uy))) continue
        if (shed && load > shed[k]!) shed[k] = load
        if (load <= cells[k]!) continue
        cells[k] = load
        if (headings) headings[k] = heading
        continue
      }
      const beside = vy * ux - vx * uy
      const across = Math.abs(beside)
      const way = upright * along - lean * across
      let [d, here] = [0, 0]
      if (nested) [d, here] = [r1 > r0 ? Math.hypot(vx - ex, vy - ey) : Math.hypot(vx, vy), Math.max(r0, r1)]
      else if (way < 0) [d, here] = [Math.hypot(vx, vy), r0]
      else if (way > upright * length) [d, here] = [Math.hypot(vx - ex, vy - ey), r1]
      else {
        here = r0 - along * lean
        d = across * upright + along * lean - r0 + here
      }
      if (shed && d < here * skirt) {
        const fallen = load * (1 - (d / (here * skirt)) ** 2)
        if (fallen > shed[k]!) shed[k] = fallen
      }
      if (d >= here) continue
      let pressed = load * Math.sqrt(1 - (d * d) / (here * here))
      if (bristles) pressed *= 1 - bristles * (1 - hair(beside / here, a.along + (b.along - a.along) * share, hairs))
      if (pressed <= cells[k]!) continue
      cells[k] = pressed
      if (headings) headings[k] = heading
    }
  }
}

/** What is left on a bristle, 0..1, as `hair` of core/ink/dry_media.py has it. */
function hair(across: number, wayMm: number, hairs: number): number {
  const at = Math.min(Math.max(((across + 1) / 2) * hairs, 0), hairs - 1e-6)
  const number = Math.floor(at) + 1
  const took = (number * 0.6180339887) % 1
  const cycles = wayMm * (0.08 + 0.1 * ((number * 0.7548776662) % 1)) + number * 0.381966
  const waves = 4 * Math.abs(cycles - Math.floor(cycles) - 0.5) - 1
  const left = 1.2 * took + FULL + WAVES * waves - wayMm / (wayMm + DRY_MM)
  const middle = 2 * (at - number + 1) - 1
  return Math.min(1, Math.max(0, STEEP * left)) * (1 - BETWEEN * middle ** 4)
}

/** Make the marks of a part of the ground anew. */
function paint(
  c: CanvasRenderingContext2D,
  { blocks, n, scale }: Rubbing,
  plan: PenPlan,
  box: { left: number; top: number; right: number; bottom: number },
  x0: number,
  y0: number,
  deposit: Deposit | undefined,
) {
  const grain = plan.grain!
  const look = {
    grain,
    heights: heightsOf(grain),
    drops: grain.crumbs && shippedHeights(grain.crumbs.surface),
    levelled: 0,
  }
  const step = grain.per_mm / scale
  const [r, g, b] = channels(plan.colour)
  const [width, height] = [box.right - box.left, box.bottom - box.top]
  const picture = c.createImageData(width, height)
  const size = BLOCK_PX * n
  for (let bj = Math.floor(box.top / BLOCK_PX); bj * BLOCK_PX < box.bottom; bj += 1) {
    for (let bi = Math.floor(box.left / BLOCK_PX); bi * BLOCK_PX < box.right; bi += 1) {
      const cells = blocks.get(`${bi} ${bj}`)
      if (!cells) continue
      for (let j = Math.max(box.top, bj * BLOCK_PX); j < Math.min(box.bottom, (bj + 1) * BLOCK_PX); j += 1) {
        for (let i = Math.max(box.left, bi * BLOCK_PX); i < Math.min(box.right, (bi + 1) * BLOCK_PX); i += 1) {
          let total = 0
          look.levelled = grain.levelled * filledAt(deposit, scale, x0 + i, y0 + j)
          for (let v = 0; v < n; v += 1) {
            const row = ((j - bj * BLOCK_PX) * n + v) * size + (i - bi * BLOCK_PX) * n
            for (let u = 0; u < n; u += 1)
              total += markAt(cells, row + u, (x0 + i + (u + 0.5) / n) * step, (y0 + j + (v + 0.5) / n) * step, look)
          }
          if (!total) continue
          const k = 4 * ((j - box.top) * width + i - box.left)
          picture.data[k] = r!
          picture.data[k + 1] = g!
          picture.data[k + 2] = b!
          picture.data[k + 3] = Math.round((255 * total) / (n * n))
        }
      }
    }
  }
  c.putImageData(picture, box.left, box.top)
}

interface Look {
  /** How level the surface is where strokes below have filled it. */
  levelled: number
  grain: Grain
  heights: Uint8Array
  drops: Uint8Array | null
}

/** The mark in cell k, which lies at (u, v) samples of the surface. */
function markAt(
  { load, heading, shed }: Cells,
  k: number,
  u: number,
  v: number,
  { grain, heights, drops, levelled }: Look,
) {
  const { size, smear, crumbs } = grain
  const [here, bits] = [load[k]!, shed ? shed[k]! * crumbs!.load : 0]
  if (here <= 0 && bits <= 0) return 0
  const ruled = grain.depth * (1 - levelled)
  let mark = here > 0 ? markOf(grain, heightAt(heights, size, u, v), here, ruled) : 0
  if (smear && here > 0) {
    const [du, dv] = [
      (-Math.cos(heading![k]!) * smear.samples) / smear.looks,
      (-Math.sin(heading![k]!) * smear.samples) / smear.looks,
    ]
    let dragged = 0
    for (let q = 0; q < smear.looks; q += 1)
      dragged += markOf(grain, heightAt(heights, size, u + (q + 0.5) * du, v + (q + 0.5) * dv), here, ruled)
    mark += smear.share * (dragged / smear.looks - mark)
  }
  if (bits <= 0) return mark
  const side = Math.sqrt(drops!.length)
  return Math.max(mark, crumbMark(crumbs!, heightAt(drops!, side, u * crumbs!.finer, v * crumbs!.finer), bits))
}

import { channels } from '@/lib/colour'
import type { Ground } from './draw'
import { grainMark } from './grain'
import type { Point } from './live'
import { lookUp, type PenPlan } from './plan'

/** The dose a stroke has laid so far on each pixel of its ground. */
interface Dose {
  plane: Float32Array
  width: number
  height: number
  drawn: number
}
const doses = new WeakMap<readonly Point[], Dose>()

/** Draw a sprayed stroke: doses add up by time near a pixel, and a dose d marks 1 - exp(-d) of it. */
export function drawSpray(
  { context: c, scale, left: x0 = 0, top: y0 = 0 }: Ground,
  plan: PenPlan,
  points: readonly Point[],
  from: number,
) {
  const { width, height } = c.canvas
  let dose = doses.get(points)
  if (!dose || dose.width !== width || dose.height !== height || from === 0) {
    dose = { plane: new Float32Array(width * height), width, height, drawn: 0 }
    doses.set(points, dose)
    c.clearRect(0, 0, width, height)
  }
  const dirty = { left: width, top: height, right: 0, bottom: 0 }
  if (!dose.drawn && points.length)
    lay(dose, plan.spray!, points[0]!, { ...points[0]!, tS: points[0]!.tS + plan.puff_s }, scale, x0, y0, dirty)
  for (let i = Math.max(1, dose.drawn); i < points.length; i += 1)
    lay(dose, plan.spray!, points[i - 1]!, points[i]!, scale, x0, y0, dirty)
  dose.drawn = points.length
  if (dirty.left < dirty.right && dirty.top < dirty.bottom) paint(c, dose, plan, scale, x0, y0, dirty)
}

interface Box {
  left: number
  top: number
  right: number
  bottom: number
}

/** The dose of one segment, as stamps a fraction of the radius apart. */
function lay(
  dose: Dose,
  table: readonly number[],
  a: Point,
  b: Point,
  scale: number,
  x0: number,
  y0: number,
  dirty: Box,
) {
  const r = Math.max(0.7, ((a.long + b.long) / 4) * scale)
  const steps = Math.max(1, Math.ceil((Math.hypot(b.x - a.x, b.y - a.y) * scale) / (r / 5)))
  const each = (((a.opacity + b.opacity) / 2) * (b.tS - a.tS)) / steps
  for (let k = 0; k < steps; k += 1) {
    const u = (k + 0.5) / steps
    const [x, y] = [(a.x + (b.x - a.x) * u) * scale - x0, (a.y + (b.y - a.y) * u) * scale - y0]
    const [left, right] = [Math.max(0, Math.floor(x - r)), Math.min(dose.width, Math.ceil(x + r))]
    const [top, bottom] = [Math.max(0, Math.floor(y - r)), Math.min(dose.height, Math.ceil(y + r))]
    for (let j = top; j < bottom; j += 1) {
      for (let i = left; i < right; i += 1) {
        const away = ((i + 0.5 - x) ** 2 + (j + 0.5 - y) ** 2) / (r * r)
        if (away < 1) dose.plane[j * dose.width + i]! += each * lookUp(table, away)
      }
    }
    dirty.left = Math.min(dirty.left, left)
    dirty.top = Math.min(dirty.top, top)
    dirty.right = Math.max(dirty.right, right)
    dirty.bottom = Math.max(dirty.bottom, bottom)
  }
}

function paint(
  c: CanvasRenderingContext2D,
  dose: Dose,
  plan: PenPlan,
  scale: number,
  x0: number,
  y0: number,
  { left, top, right, bottom }: Box,
) {
  const picture = c.createImageData(right - left, bottom - top)
  const [r, g, b] = channels(plan.colour)
  let at = 0
  for (let j = top; j < bottom; j += 1) {
    for (let i = left; i < right; i += 1, at += 4) {
      const load = 1 - Math.exp(-dose.plane[j * dose.width + i]!)
      if (load <= 0) continue
      picture.data[at] = r!
      picture.data[at + 1] = g!
      picture.data[at + 2] = b!
      picture.data[at + 3] =
        255 *
        (plan.grain
          ? grainMark(
              plan.grain,
              ((x0 + i) / scale) * plan.grain.per_mm,
              ((y0 + j) / scale) * plan.grain.per_mm,
              plan.grain.per_mm / scale,
              load,
            )
          : load)
    }
  }
  c.putImageData(picture, left, top)
}

import { channels } from '@/lib/colour'
import type { Grain, PenPlan } from './plan'

const LEVELS = 64
const made = new WeakMap<PenPlan, (CanvasPattern | null)[]>()

/** The mark a load leaves on the plan's surface as a repeating pattern, on a ground of `scale` pixels a millimetre. */
export function grainPattern(
  context: CanvasRenderingContext2D,
  plan: PenPlan,
  load: number,
  scale: number,
): CanvasPattern | null {
  const grain = plan.grain
  if (!grain) return null
  let patterns = made.get(plan)
  if (!patterns) made.set(plan, (patterns = Array.from({ length: LEVELS }, () => null)))
  const level = Math.min(LEVELS - 1, Math.max(0, Math.round(load * LEVELS) - 1))
  const pattern = (patterns[level] ??= context.createPattern(tile(plan, (level + 1) / LEVELS), 'repeat'))
  pattern?.setTransform(new DOMMatrix().scale(scale / grain.per_mm))
  return pattern
}

function tile(plan: PenPlan, load: number): OffscreenCanvas {
  const { size } = plan.grain!
  const heights = heightsOf(plan.grain!)
  const canvas = new OffscreenCanvas(size, size)
  const context = canvas.getContext('2d')!
  const picture = context.createImageData(size, size)
  const [r, g, b] = channels(plan.colour)
  for (let k = 0; k < size * size; k += 1) {
    picture.data.set([r!, g!, b!, 255 * deposit(plan.grain!, heights[k]! / 255, load)], 4 * k)
  }
  context.putImageData(picture, 0, 0)
  return canvas
}

const known = new WeakMap<Grain, Uint8Array>()

function heightsOf(grain: Grain): Uint8Array {
  let heights = known.get(grain)
  if (!heights) known.set(grain, (heights = Uint8Array.from(atob(grain.heights), (c) => c.charCodeAt(0))))
  return heights
}

function deposit({ depth, soft }: Grain, height: number, load: number): number {
  const mark = Math.min(1, Math.max(0, (load * (1 + soft) - (1 - height)) / soft))
  return load * (1 - depth) + mark * depth
}

/** The mark of a load at (u, v) samples of the surface. */
export function grainMark(grain: Grain, u: number, v: number, load: number): number {
  const n = grain.size
  const wrap = (w: number) => ((Math.floor(w) % n) + n) % n
  return deposit(grain, heightsOf(grain)[wrap(v) * n + wrap(u)]! / 255, load)
}

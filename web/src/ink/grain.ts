import { channels } from '@/lib/colour'
import type { Crumbs, Grain, PenPlan } from './plan'

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
/** Heights of the surfaces that ship, once they were fetched. */
const shipped = new Map<string, Uint8Array>()
export const hasSurface = (name: string) => shipped.has(name)
export const takeSurface = (name: string, heights: Uint8Array) => shipped.set(name, heights)

/** Heights 0..255 row by row: a surface that ships, or the plan's own. */
export function heightsOf(grain: Grain): Uint8Array {
  const ready = grain.heights ? known.get(grain) : shipped.get(grain.surface)
  if (ready) return ready
  const heights = Uint8Array.from(atob(grain.heights), (c) => c.charCodeAt(0))
  known.set(grain, heights)
  return heights
}

/** Heights of a surface that ships, by name. */
export function shippedHeights(name: string): Uint8Array {
  const heights = shipped.get(name)
  if (!heights) throw new Error(`the surface ${name} was not fetched`)
  return heights
}

const smooth = (u: number) => (u <= 0 ? 0 : u >= 1 ? 1 : u * u * (3 - 2 * u))

/** Mark left at a height by a load, as core/ink/grain.py has it. */
export function deposit(
  { depth: own, soft, valleys, thin }: Grain,
  height: number,
  given: number,
  depth = own,
): number {
  const load = Math.min(1, Math.max(0, given))
  const wide = Math.min(soft, 2 * load, 2 - 2 * load)
  const peaks = wide > 1e-6 ? smooth((height - (1 - load)) / wide + 0.5) : height > 1 - load ? 1 : 0
  const bare = valleys * depth * (1 - load)
  const film = bare > 1e-6 ? (load / (1 - bare / 2)) * smooth(height / bare) : load
  return (film * (1 - depth) + peaks * depth) * (thin + (1 - thin) * load)
}

/** Mark of the bits that fell at a height of the drops' field, as core/ink/grain.py has it. */
export const crumbMark = ({ tone, fade }: Crumbs, height: number, load: number) =>
  tone * smooth((height - (1 - load)) / Math.min(fade, 2 * load) + 0.5)

/** Height 0..1 at (u, v) samples, repeating, between the four samples around it. */
export function heightAt(heights: Uint8Array, n: number, u: number, v: number): number {
  const [x, y] = [u - 0.5, v - 0.5]
  const [i, j] = [Math.floor(x), Math.floor(y)]
  const [fu, fv] = [x - i, y - j]
  const i0 = ((i % n) + n) % n
  const i1 = i0 + 1 === n ? 0 : i0 + 1
  const j0 = (((j % n) + n) % n) * n
  const j1 = j0 + n === n * n ? 0 : j0 + n
  return (
    ((heights[j0 + i0]! * (1 - fu) + heights[j0 + i1]! * fu) * (1 - fv) +
      (heights[j1 + i0]! * (1 - fu) + heights[j1 + i1]! * fu) * fv) /
    255
  )
}

const LOOKED_AT = 3

/** The mark of one load on the pixel whose corner lies at (u, v) samples and whose side is `step` samples. */
export function grainMark(grain: Grain, u: number, v: number, step: number, load: number): number {
  const n = Math.min(LOOKED_AT, Math.max(1, Math.ceil(step)))
  const heights = heightsOf(grain)
  let total = 0
  for (let a = 0; a < n; a += 1)
    for (let b = 0; b < n; b += 1)
      total += deposit(
        grain,
        heightAt(heights, grain.size, u + ((a + 0.5) / n) * step, v + ((b + 0.5) / n) * step),
        load,
      )
  return total / (n * n)
}

import type { Box } from '@/api/client'

export type Place = readonly [number, number]
/** A place (x, y) goes to ((a x + c y + e) / w, (b x + d y + f) / w), w = g x + h y + 1. */
export type Placement = [number, number, number, number, number, number, number, number]
export const HERE: Placement = [1, 0, 0, 1, 0, 0, 0, 0]
/** What of the frame around chosen ink is dragged: it moves, sizes, turns, stretches, slants it or pulls a corner. */
export type Grip = 'move' | 'size' | 'turn' | 'broad' | 'tall' | 'slant' | 'pull'

const MOST_SLANT = 2
const [LEAST_SIZE, MOST_SIZE] = [0.1, 20]
const SNAP = Math.PI / 60 // turns this near to a quarter turn are one
const LEAST_SIDE = 0.2 // of a frame, what a pulled corner keeps away from its neighbours' sides
const within = (s: number) => Math.min(MOST_SIZE, Math.max(LEAST_SIZE, s))
const middleOf = (b: Box): Place => [(b[0] + b[2]) / 2, (b[1] + b[3]) / 2]

export const moved = (dx: number, dy: number): Placement => [1, 0, 0, 1, dx, dy, 0, 0]
export const isStraight = (p: Placement) => !p[6] && !p[7]

export function applied([a, b, c, d, e, f, g, h]: Placement, [x, y]: Place): [number, number] {
  const w = g * x + h * y + 1
  return [(a * x + c * y + e) / w, (b * x + d * y + f) / w]
}

/** Sized and turned about a place. */
export function sized([x, y]: Place, scale: number, angle: number): Placement {
  const [c, s] = [scale * Math.cos(angle), scale * Math.sin(angle)]
  return [c, s, -s, c, x - c * x + s * y, y - s * x - c * y, 0, 0]
}
export const turnedIn = (box: Box, angle: number) => sized(middleOf(box), 1, angle)
/** Left and right changed about the middle. */
export const flippedIn = (b: Box): Placement => [-1, 0, 0, 1, b[0] + b[2], 0, 0, 0]

/**
 * Where something that only lies straight goes, and by how many quarters it turns clockwise: sized with what is around
 * it; where that is turned by less or slanted, it stays the way round it is, about its middle.
 */
export function carriedBox(b: Box, p: Placement): { box: Box; turns: number } {
  const [x, y] = applied(p, middleOf(b))
  const [a, bb, c, d] = p
  const whole = Math.hypot(a, bb, c, d)
  const [level, quarter] = [Math.hypot(bb, c) < 1e-6 * whole, Math.hypot(a, d) < 1e-6 * whole]
  const even = Math.sqrt(Math.abs(a * d - bb * c))
  const [wide, tall] = [b[2] - b[0], b[3] - b[1]]
  const sizes = level ? [Math.abs(a) * wide, Math.abs(d) * tall] : [even * wide, even * tall]
  const [w, h] = quarter ? [Math.abs(c) * tall, Math.abs(bb) * wide] : (sizes as [number, number])
  return { box: [x - w / 2, y - h / 2, x + w / 2, y + h / 2], turns: quarter ? (bb > 0 ? 1 : 3) : 0 }
}

/** Grips of a frame, and where they are. */
export function gripsOf(b: Box): [Exclude<Grip, 'move'>, number, number][] {
  const [across, down] = middleOf(b)
  return [
    ['size', b[2], b[3]],
    ['turn', b[2], b[1]],
    ['broad', b[0], down],
    ['tall', across, b[3]],
    ['slant', across, b[1]],
    ['pull', b[0], b[3]],
  ]
}

/** What dragging a grip of a frame from one place to another makes of the ink in it. */
export function dragged(grip: Grip, b: Box, from: Place, to: Place): Placement {
  if (grip === 'size') {
    const was = Math.hypot(from[0] - b[0], from[1] - b[1])
    const s = within(Math.hypot(to[0] - b[0], to[1] - b[1]) / Math.max(was, 0.1))
    return [s, 0, 0, s, b[0] * (1 - s), b[1] * (1 - s), 0, 0]
  }
  if (grip === 'broad') {
    const s = within((b[2] - to[0]) / Math.max(b[2] - from[0], 0.1))
    return [s, 0, 0, 1, b[2] * (1 - s), 0, 0, 0]
  }
  if (grip === 'tall') {
    const s = within((to[1] - b[1]) / Math.max(from[1] - b[1], 0.1))
    return [1, 0, 0, s, 0, b[1] * (1 - s), 0, 0]
  }
  if (grip === 'slant') {
    const k = Math.min(MOST_SLANT, Math.max(-MOST_SLANT, (to[0] - from[0]) / Math.min(from[1] - b[3], -0.1)))
    return [1, 0, k, 1, -k * b[3], 0, 0, 0]
  }
  if (grip === 'turn') {
    const [cx, cy] = middleOf(b)
    const turn = Math.atan2(to[1] - cy, to[0] - cx) - Math.atan2(from[1] - cy, from[0] - cx)
    const quarter = (Math.round(turn / (Math.PI / 2)) * Math.PI) / 2
    return turnedIn(b, Math.abs(turn - quarter) < SNAP ? quarter : turn)
  }
  if (grip === 'pull') return pulled(b, [b[0] + to[0] - from[0], b[3] + to[1] - from[1]])
  return moved(to[0] - from[0], to[1] - from[1])
}

/**
 * The frame's lower left corner elsewhere, the other three where they are: a square seen in perspective (Heckbert,
 * Fundamentals of Texture Mapping, 1989, section 2.2.3). A pull that would turn the ink inside out stops before.
 */
export function pulled(b: Box, [px, py]: Place): Placement {
  const [wide, tall] = [b[2] - b[0], b[3] - b[1]]
  // in shares of the frame the corners are (0, 0), (1, 0), (1, 1) and, pulled, (u, v)
  let [u, v] = [(px - b[0]) / wide, (py - b[1]) / tall]
  ;[u, v] = [Math.min(u, 1 - LEAST_SIDE), Math.max(v, LEAST_SIDE)]
  const short = LEAST_SIDE - (v - u)
  if (short > 0) [u, v] = [u - short / 2, v + short / 2]
  // x' = (x + A y) / w, y' = B y / w + C x / w, with w = G x + H y + 1; (1, 0) and (0, 0) stay where they are
  const [dx1, dx2, dy1, dy2] = [0, u - 1, -1, v - 1]
  const [sx, sy] = [-u, 1 - v]
  const det = dx1 * dy2 - dx2 * dy1
  const g = (sx * dy2 - dx2 * sy) / det
  const h = (dx1 * sy - sx * dy1) / det
  const unit = [1 + g, 0, u * (1 + h), v * (1 + h), 0, 0, g, h]
  // and back from shares to the page: before, x = (X - left) / wide; after, X = left + wide x
  const [a, bb, c, d] = unit as Placement
  const rows = [
    [a / wide, c / tall, -(a * b[0]) / wide - (c * b[1]) / tall],
    [bb / wide, d / tall, -(bb * b[0]) / wide - (d * b[1]) / tall],
    [g / wide, h / tall, 1 - (g * b[0]) / wide - (h * b[1]) / tall],
  ] as [number[], number[], number[]]
  const x = rows[0].map((n, k) => wide * n + b[0] * rows[2][k]!)
  const y = rows[1].map((n, k) => tall * n + b[1] * rows[2][k]!)
  const whole = rows[2][2]!
  return [x[0]!, y[0]!, x[1]!, y[1]!, x[2]!, y[2]!, rows[2][0]!, rows[2][1]!].map((n) => n / whole) as Placement
}

import type { Box } from '@/api/client'

type Ring = readonly (readonly [number, number])[]

const TOUCH_MM = 0.8
/** Whether a way goes nowhere: something is touched. */
export const isTouch = (way: Ring) => way.every(([x, y]) => Math.hypot(x - way[0]![0], y - way[0]![1]) < TOUCH_MM)

/** Whether a place lies inside a ring, by how often a line from it crosses the ring's sides. */
export function inside(ring: Ring, [x, y]: readonly [number, number]): boolean {
  let within = false
  for (const [k, [x1, y1]] of ring.entries()) {
    const [x0, y0] = ring[(k || ring.length) - 1]!
    if (y0 > y !== y1 > y && x < x0 + ((y - y0) / (y1 - y0)) * (x1 - x0)) within = !within
  }
  return within
}

/** Whether a ring goes round all of a box. */
export const holds = (ring: Ring, [left, top, right, bottom]: Box) =>
  ring.length > 3 &&
  [left, right].every((x) => [top, bottom].every((y) => inside(ring, [x, y]))) &&
  !ring.some(([x, y]) => x > left && x < right && y > top && y < bottom)

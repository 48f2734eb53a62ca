import type { Schemas } from '@/api/client'

export type Correction = Schemas['Correction']

const LOWEST = Math.PI / 9 // of altitude: leans beyond it count as this

/** Where a pen leans to, as long as the cotangent of its altitude, as core/screen/aim.py has it. */
export function leanOf(altitude: number, azimuth: number): [number, number] {
  const far = Math.min(1 / Math.tan(Math.max(altitude, 1e-3)), 1 / Math.tan(LOWEST))
  return [far * Math.cos(azimuth), far * Math.sin(azimuth)]
}

/** Where the nib is, of where it is reported, mm on the screen. */
export function corrected(
  c: Correction,
  xMm: number,
  yMm: number,
  altitude: number,
  azimuth: number,
): [number, number] {
  const [x, y] = [xMm - c.middle_x_mm!, yMm - c.middle_y_mm!]
  const lean = leanOf(altitude, azimuth)
  return [
    xMm - (c.shift_x_mm! + c.x_by_x! * x + c.x_by_y! * y + c.lean_mm! * lean[0]),
    yMm - (c.shift_y_mm! + c.y_by_x! * x + c.y_by_y! * y + c.lean_mm! * lean[1]),
  ]
}

/** The pen plan as core/pen/plan.py compiles it: tables to look up, no rules. */
export interface PenPlan {
  name: string
  colour: string
  opacity: number
  ln_width: number
  press: number[]
  press_share: number[]
  opacity_over_force: number[]
  grain: Grain | null
  pace: [number, number]
  dot_speed_mm_s: number
  fastest_mm_s: number
  speed_tau_ms: number
  start_mm: number
  start: number[]
  shape: 'round' | 'ellipse' | 'chisel' | 'spray'
  aspect: number[]
  angle: number | null
  pattern_mm: number[]
  width_mm: number
  hollow: { wall_mm: number; fill: string; fill_opacity: number } | null
  /** A wet mark loses this share of its tone inside a rim of wall_mm. */
  wet: { wall_mm: number; loss: number } | null
  /** Dose a second over the squared distance from the middle (0) to the edge (1). */
  spray: number[] | null
  /** Seconds of flow a spray lays as it lands. */
  puff_s: number
  straight: Straight | null
  place: 'over' | 'under'
  blend: 'normal' | 'multiply' | 'screen'
  steady: { method: string; parameter?: number; beta?: number; d_cutoff_hz?: number }
}

/**
 * How strokes are drawn straight: how strongly, along which rules, and what rest at the end asks for it (see
 * core/ink/straight.py).
 */
export interface Straight {
  strength: number
  hold: { after_s: number; within_mm: number; least_mm: number } | null
  x_mm: number[]
  y_mm: number[]
  within: number
  reach_mm: number
}

/** A paper surface, and how a load becomes a mark on it (see core/ink/grain.py). */
export interface Grain {
  size: number
  heights: string
  per_mm: number
  depth: number
  soft: number
  crisp: boolean
  load_over_altitude: number[]
  pace_share: number
}

/** A value of a table of equal steps over 0..1, straight between entries. */
export function lookUp(table: readonly number[], share: number): number {
  const at = Math.min(Math.max(share, 0), 1) * (table.length - 1)
  const low = Math.floor(at)
  const here = table[low] ?? 0
  return low + 1 < table.length ? here + ((table[low + 1] ?? here) - here) * (at - low) : here
}

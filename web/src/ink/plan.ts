import type { Schemas } from '@/api/client'

/** The pen plan as core/ink/plan.py compiles it: tables to look up, no rules. */
export type PenPlan = Schemas['PenPlan']
export type Straight = Schemas['StraightPlan']
export type Grain = Schemas['GrainPlan']
export type Crumbs = Schemas['CrumbPlan']

/** A value of a table of equal steps over 0..1, straight between entries. */
export function lookUp(table: readonly number[], share: number): number {
  const at = Math.min(Math.max(share, 0), 1) * (table.length - 1)
  const low = Math.floor(at)
  const here = table[low] ?? 0
  return low + 1 < table.length ? here + ((table[low + 1] ?? here) - here) * (at - low) : here
}

/** How a canvas lays a blend of the plan. */
export const operationOf = (blend: string) => (blend === 'normal' ? 'source-over' : blend) as GlobalCompositeOperation

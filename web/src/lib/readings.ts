import type { Schemas } from '@/api/client'
import { percent, say } from '@/lib/numbers'

export type Reading = Schemas['Reading']

/** A value with its unit, as core/readings/reading.py says it. */
export function inWords(known: Reading, value: number | null | undefined): string {
  if (value === null || value === undefined) return '–'
  if (known.unit === '%') return percent(value)
  const number = known.digits === null ? say(value) : value.toFixed(known.digits)
  if (known.unit === '×') return `×${number}`
  return known.unit.startsWith(':') ? `${number}${known.unit}` : `${number} ${known.unit}`.trim()
}

/** The same without its unit, for columns that carry it in their head. */
export const bare = (known: Reading, value: number | null | undefined) =>
  inWords({ ...known, unit: known.unit === '%' ? '%' : '' }, value)

/** Whether a value lies beyond the bound of its reading. */
export function callsForAttention(known: Reading, value: number | null | undefined): boolean {
  if (known.attention === null || value === null || value === undefined) return false
  return known.better === 'more' ? value < known.attention : value > known.attention
}

/** Which version worked the figures of a run out; what was kept before versions were noted says so. */
export function madeBy(run: { made_by?: string } | undefined): string {
  if (!run) return '–'
  return run.made_by === undefined ? 'this version' : run.made_by ? `version ${run.made_by}` : 'an earlier version'
}

import type { Schemas } from '@/api/client'
import { percent, say } from '@/lib/numbers'

/** What is found by eye on a screen: what it is called, its unit, and the ladder it is found on, where it has one. */
export const BY_EYE = {
  ppi: { ladder: '', words: 'density', unit: 'px/inch' },
  greys: { ladder: 'greys', words: 'greys', unit: '' },
  lines: { ladder: 'lines', words: 'lines', unit: 'mm' },
  print: { ladder: 'print', words: 'print', unit: 'mm' },
  bold_print: { ladder: 'bold print', words: 'bold print', unit: 'mm' },
  writing: { ladder: 'writing', words: 'writing', unit: 'mm' },
  bold_writing: { ladder: 'bold writing', words: 'bold writing', unit: 'mm' },
  ghost: { ladder: '', words: 'ghost', unit: '%' },
  response: { ladder: '', words: 'motion', unit: 'ms' },
} as const
export type Eye = keyof typeof BY_EYE
export const EYES = Object.keys(BY_EYE) as Eye[]

/** A value and its interval; an end that could not be told is left open. */
export function eyed(of: Eye, { value, low, high }: Schemas['Eyed']): string {
  const { unit } = BY_EYE[of]
  const one = (v: number | null | undefined) =>
    v == null ? '…' : unit === '%' ? percent(v) : `${say(v)} ${unit}`.trim()
  return `${one(value)}, 95 % between ${one(low)} and ${one(high)}`
}

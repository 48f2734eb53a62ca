import type { Schemas } from '@/api/client'

export type Verdict = 'palm-refused' | 'palm-kept' | 'finger-kept' | 'finger-refused'
/** Right or wrong at a glance: what was a palm or a finger, and what became of it. */
export const verdictOf = (c: Schemas['JudgedContact']) => `${c.palm ? 'palm' : 'finger'}-${c.decision}` as Verdict
export const VERDICT_WORDS: Record<Verdict, string> = {
  'palm-refused': 'palm, refused',
  'palm-kept': 'palm, let through',
  'finger-kept': 'finger, kept',
  'finger-refused': 'finger, refused',
}

/** Where a contact was at a time: x, y, width, height in mm, or undefined when it was not down. */
export function placeAt(c: Schemas['JudgedContact'], tMs: number): [number, number, number, number] | undefined {
  if (tMs < c.born_ms || tMs > c.end_ms) return undefined
  const after = c.path.findIndex((p) => p[0]! >= tMs)
  const b = c.path[after < 0 ? c.path.length - 1 : after]!
  const a = c.path[Math.max(0, (after < 0 ? c.path.length : after) - 1)]!
  const share = b[0]! > a[0]! ? Math.min(1, Math.max(0, (tMs - a[0]!) / (b[0]! - a[0]!))) : 1
  return [1, 2, 3, 4].map((k) => a[k]! + (b[k]! - a[k]!) * share) as [number, number, number, number]
}

/** A contact at its largest, for the picture of all of them together. */
export function largest(c: Schemas['JudgedContact']): [number, number, number, number] {
  const p = c.path.reduce(
    (best, q) => (q[3]! * q[4]! > best[3]! * best[4]! ? q : best),
    c.path[Math.floor(c.path.length / 2)]!,
  )
  return [p[1]!, p[2]!, p[3]!, p[4]!]
}

export const UNKNOWN_MM = 9 // drawn for contacts whose size is not reported

/**
 * A number with as many digits as its size deserves: three significant, at most two decimals, or three under a tenth.
 */
export function say(value: number): string {
  const size = Math.abs(value)
  if (size >= 100) return value.toFixed(0)
  if (size >= 10) return value.toFixed(1)
  return size >= 0.1 || size === 0 ? value.toFixed(2) : value.toFixed(3)
}

/** Milliseconds and decibels: one decimal says all that can be known. */
export const roughly = (value: number) => value.toFixed(1)

/** A delay; ink that was drawn ahead may be there before the nib. */
export const late = (ms: number) => (ms <= -0.05 ? `${roughly(-ms)} ms early` : `${roughly(Math.abs(ms))} ms late`)

export const percent = (share: number) => `${(share * 100).toFixed(share > 0 && share < 0.1 ? 1 : 0)} %`

/** "a" or "an" before words that may start with a number; nothing before "this" or "my". */
export const article = (words: string) =>
  /^(this|my|our) /i.test(words) ? '' : /^([aeiou]|8|11(?!\d)|18(?!\d))/i.test(words) ? 'an' : 'a'

/** A kept moment, to the minute. */
export const when = (at: string) => `${at.slice(0, 10)} ${at.slice(11, 16)}`

/** A number as short as it can be said, for limits and fields. */
export const trimmed = (value: number, decimals = 3) => String(Number(value.toFixed(decimals)))

/** Bytes as people say them. */
export const megabytes = (bytes: number) =>
  bytes < 1e5 ? `${Math.max(0, Math.round(bytes / 1000))} kB` : `${roughly(bytes / 1e6)} MB`

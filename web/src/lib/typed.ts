import { trimmed } from './numbers'

export interface Typed {
  value?: number
  /** What to say of it: that it is no number, or that it lay beyond the limits. */
  words: string
}

/** A number as it was typed: a comma or a point before decimals, a unit behind it left out. */
export function readTyped(text: string, low: number, high: number): Typed {
  const number = /^\s*([-+\u2212]?(?:\d+(?:[.,]\d*)?|[.,]\d+))\s*(?:%|°|[^\d.,]*)$/.exec(text)?.[1]
  if (!number) return { words: `“${text.slice(0, 12)}” is no number` }
  const value = Number(number.replace(',', '.').replace('\u2212', '-'))
  if (value < low) return { value: low, words: `from ${trimmed(low)} to ${trimmed(high)}: took ${trimmed(low)}` }
  if (value > high) return { value: high, words: `from ${trimmed(low)} to ${trimmed(high)}: took ${trimmed(high)}` }
  return { value, words: '' }
}

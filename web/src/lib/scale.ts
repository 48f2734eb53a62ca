import type { Schemas } from '@/api/client'

type Field = Pick<Schemas['Control'], 'low' | 'high' | 'step' | 'knee' | 'notice'>
/** Steps of a slider's track. */
export const TRACK = 1000

const ends = (f: Field) => ({ low: f.low ?? 0, high: f.high ?? 1, knee: f.knee ?? 0 })

/** Where a value stands on the track, 0..TRACK: logarithmic above its knee, even where it has none. */
export function placeOf(f: Field, value: number): number {
  const { low, high, knee } = ends(f)
  const share = knee ? Math.log1p((value - low) / knee) / Math.log1p((high - low) / knee) : (value - low) / (high - low)
  return TRACK * Math.min(1, Math.max(0, share))
}

/** The value at a place on the track, on the field's own steps. */
export function valueAtPlace(f: Field, place: number): number {
  const { low, high, knee } = ends(f)
  const share = place / TRACK
  const value = knee ? low + knee * Math.expm1(share * Math.log1p((high - low) / knee)) : low + share * (high - low)
  return onStep(f, value)
}

export function onStep(f: Field, value: number): number {
  const { low, high } = ends(f)
  const step = f.step ?? 0.01
  return Number(Math.min(high, Math.max(low, Math.round(value / step) * step)).toFixed(6))
}

/** The next value up or down that a hand or an eye would tell from this one; at least one step away. */
export function noticed(f: Field, value: number, up: boolean): number {
  const { low, knee } = ends(f)
  const step = f.step ?? 0.01
  const by = Math.max(step, (f.notice ?? step) * (knee ? value - low + knee : 1))
  return onStep(f, value + (up ? by : -by))
}

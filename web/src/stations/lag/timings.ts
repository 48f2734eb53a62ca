/** One event: from its own time to its handler, and to the frame after the one that drew it, ms. */
export interface Timing { handlerMs: number; frameMs: number }

function percentile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b)
  if (!sorted.length) return 0
  const at = share * (sorted.length - 1)
  const low = Math.floor(at)
  return sorted[low]! + (sorted[Math.min(low + 1, sorted.length - 1)]! - sorted[low]!) * (at - low)
}

/**
 * Percentiles of the timings, and how many frames were dropped: frame times that lie further apart than one and a half of the usual
 * distance. A -1 among the frames says that a new stroke begins.
 */
export function summary(timings: readonly Timing[], frames: readonly number[]) {
  const gaps: number[] = []
  for (let i = 1; i < frames.length; i += 1) if (frames[i]! >= 0 && frames[i - 1]! >= 0) gaps.push(frames[i]! - frames[i - 1]!)
  const usual = percentile(gaps, 0.5)
  const of = (key: keyof Timing, share: number) => percentile(timings.map((t) => t[key]), share)
  return {
    count: timings.length, handlerP50: of('handlerMs', 0.5), handlerP95: of('handlerMs', 0.95), frameP50: of('frameMs', 0.5), frameP95: of('frameMs', 0.95),
    dropped: gaps.reduce((sum, g) => sum + (usual ? Math.max(0, Math.round(g / usual) - 1) : 0), 0),
  }
}

import type { Schemas } from '@/api/client'
import { percentile } from '@/lib/percentile'

/** One event: from its own time to its handler, and to the frame after the one that drew it, ms. */
export interface Timing {
  handlerMs: number
  frameMs: number
}

/** Distances of neighbouring frames, ms. A -1 among the frames says that a new stroke begins. */
export function frameGaps(frames: readonly number[]): number[] {
  const gaps: number[] = []
  for (let i = 1; i < frames.length; i += 1)
    if (frames[i]! >= 0 && frames[i - 1]! >= 0) gaps.push(frames[i]! - frames[i - 1]!)
  return gaps
}

/**
 * Percentiles of the timings, and how many frames were dropped: frame times that lie further apart than one and a half
 * of the usual distance.
 */
export function summary(
  timings: readonly Timing[],
  frames: readonly number[],
  longTasks: number,
  controls: readonly number[],
): Omit<Schemas['Live'], 'raw_p50_ms'> {
  const gaps = frameGaps(frames)
  const usual = percentile(gaps, 0.5)
  const of = (key: keyof Timing, share: number) =>
    Math.max(
      0,
      percentile(
        timings.map((t) => t[key]),
        share,
      ),
    ) // clocks are coarse
  return {
    events: timings.length,
    handler_p50_ms: of('handlerMs', 0.5),
    handler_p95_ms: of('handlerMs', 0.95),
    frame_p50_ms: of('frameMs', 0.5),
    frame_p95_ms: of('frameMs', 0.95),
    dropped: gaps.reduce((sum, g) => sum + (usual ? Math.max(0, Math.round(g / usual) - 1) : 0), 0),
    long_tasks: longTasks,
    control_ms: controls.length ? percentile(controls, 0.5) : null,
  }
}

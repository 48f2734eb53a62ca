import type { Sample } from './live'

/** A stroke's columns as they are sent. */
export interface Columns {
  t_ms: number[]
  x_mm: number[]
  y_mm: number[]
  force?: number[] | null
  altitude?: number[] | null
  azimuth?: number[] | null
}

const FORCE_STEPS = 65535
const FORCE_WITHOUT_SENSOR = 0.5
const degrees = (radians: number) => (radians * 180) / Math.PI

/** What can be used of a stroke: its samples as far as all columns go, each a number and later than the one before. */
export function samplesOf(stroke: Columns): Sample[] {
  const out: Sample[] = []
  const at = (column: number[] | null | undefined, k: number, otherwise: number) =>
    typeof column?.[k] === 'number' && Number.isFinite(column[k]) ? column[k] : otherwise
  for (let k = 0; k < Math.min(stroke.t_ms.length, stroke.x_mm.length, stroke.y_mm.length); k++) {
    const sample = {
      tS: at(stroke.t_ms, k, NaN) / 1000,
      x: at(stroke.x_mm, k, NaN),
      y: at(stroke.y_mm, k, NaN),
      force: at(stroke.force, k, FORCE_WITHOUT_SENSOR),
      altitude: at(stroke.altitude, k, Math.PI / 2),
      azimuth: at(stroke.azimuth, k, 0),
    }
    if (Number.isFinite(sample.tS + sample.x + sample.y) && sample.tS > (out.at(-1)?.tS ?? -1)) out.push(sample)
  }
  return out
}

/** Strokes as an InkML document (W3C, 2011), so that ink the server does not take can be taken out of this browser. */
export function inkmlOf(strokes: readonly Columns[]): string {
  const channels = [
    '<channel name="X" type="decimal" units="mm"/>',
    '<channel name="Y" type="decimal" units="mm"/>',
    `<channel name="F" type="integer" min="0" max="${FORCE_STEPS}"/>`,
    '<channel name="OA" type="decimal" units="deg"/>',
    '<channel name="OE" type="decimal" units="deg"/>',
    '<channel name="T" type="decimal" units="s"/>',
  ].join('')
  const traces = strokes.map((stroke) => {
    const points = samplesOf(stroke).map((s) =>
      [
        s.x.toFixed(4),
        s.y.toFixed(4),
        Math.round(Math.min(1, Math.max(0, s.force)) * FORCE_STEPS),
        degrees(s.azimuth).toFixed(3),
        degrees(s.altitude).toFixed(3),
        s.tS.toFixed(6),
      ].join(' '),
    )
    return `<trace contextRef="#sheet">${points.join(', ')}</trace>`
  })
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<ink xmlns="http://www.w3.org/2003/InkML">',
    `<definitions><context xml:id="sheet"><traceFormat>${channels}</traceFormat></context></definitions>`,
    ...traces,
    '</ink>',
  ].join('\n')
}

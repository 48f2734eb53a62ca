import { percent, roughly, say } from '@/components/numbers'

export interface Change {
  title: string
  help: string
  now: string
  was: string
  attention: boolean
}

type Readings = Record<string, number>
interface Row {
  title: string
  help: string
  words: (r: Readings) => string
  attention?: (r: Readings) => boolean
}

/** Drag as a hand feels it; bounds are common practice, no source. */
const effort = (ms: number) => (ms < 9 ? 'light' : ms < 20 ? 'easy' : ms < 40 ? 'noticeable' : 'heavy')

const ROWS: Row[] = [
  {
    title: 'Width in letters',
    help: 'How many times wider the thickest marks are than the thinnest, without the outermost 5 % on either side.',
    words: (r) => `×${say(r.range_ratio!)}`,
  },
  {
    title: 'Thin and thick',
    help: 'Widths that nine tenths of the ink lie between, by length.',
    words: (r) => `${say(r.width_p05_mm!)} to ${say(r.width_p95_mm!)} mm`,
  },
  {
    title: 'Force that is lost',
    help: 'Share of your samples under the floor and over the ceiling: they all come out equally thin or thick.',
    words: (r) => `${percent(r.floor_share!)} low, ${percent(r.ceiling_share!)} high`,
    attention: (r) => r.floor_share! > 0.05 || r.ceiling_share! > 0.05,
  },
  {
    title: 'Widths told apart',
    help:
      'How many different widths your writing brings out that an eye can tell apart side by side, at a difference of ' +
      '8 % (from memory).',
    words: (r) => String(r.press_steps),
  },
  {
    title: 'Tapers',
    help: 'Path until a stroke reaches its width, and the steepest change of width on the way.',
    words: (r) => `${say(r.taper_start_mm!)} and ${say(r.taper_end_mm!)} mm, ${say(r.max_taper_slope!)} mm a mm`,
  },
  {
    title: 'Tips',
    help: 'Width at the very start and end of strokes over their middle width; 1 is blunt, 0 a needle.',
    words: (r) => `start ${say(r.start_tip!)}, end ${say(r.end_tip!)}`,
  },
  {
    title: 'Drag',
    help: 'Delay of the steadied tip behind your nib, and how far it trails on average.',
    words: (r) =>
      r.drag_ms
        ? `${effort(r.drag_ms)}: ${roughly(r.drag_ms)} ms, trails ${say(r.effort!)} mm at your speed`
        : 'none, no effort',
    attention: (r) => r.drag_ms! > 40,
  },
  {
    title: 'Wobble',
    help:
      'How far the path strays from itself with everything quicker than 7 Hz taken out, and how much of the 8 to 12 ' +
      'Hz tremor is calmed.',
    words: (r) =>
      r.wobble_in_mm ? `${say(r.wobble_out_mm!)} mm, ${roughly(r.wobble_db!)} dB calmed` : 'strokes too short to tell',
  },
  {
    title: 'Corners',
    help: 'The farthest the ink stays away from a sharp corner of your trace.',
    words: (r) => (r.corner_loss_mm ? `${say(r.corner_loss_mm)} mm lost` : 'all kept'),
    attention: (r) => r.corner_loss_mm! > 0.3,
  },
]

/** The readings of the kept pen and of the draft in words, old and new. */
export function changes(kept: Readings | undefined, now: Readings | undefined): Change[] {
  if (!now) return []
  return ROWS.map((row) => {
    const words = row.words(now)
    const before = kept ? row.words(kept) : words
    return {
      title: row.title,
      help: row.help,
      now: words,
      was: before === words ? '' : before,
      attention: row.attention?.(now) ?? false,
    }
  })
}

/** What readings are called in words. */
export const READING_NAMES: Record<string, string> = {
  width_p05_mm: 'thin marks, mm',
  width_p50_mm: 'middle width, mm',
  width_p95_mm: 'thick marks, mm',
  range_ratio: 'thick over thin',
  floor_share: 'share at the floor',
  ceiling_share: 'share at the ceiling',
  start_tip: 'start tip',
  end_tip: 'end tip',
  wobble_out_mm: 'wobble left, mm',
  wobble_db: 'tremor calmed, dB',
  drag_ms: 'drag, ms',
  trail_mm: 'trail, mm',
  frechet_mm: 'unfaithful by, mm',
  corner_loss_mm: 'corners lost, mm',
  taper_start_mm: 'start taper, mm',
  taper_end_mm: 'end taper, mm',
  max_taper_slope: 'steepest taper, mm a mm',
  press_steps: 'widths told apart',
  effort: 'trails at your speed, mm',
}

import { percent, roughly, say } from '@/components/numbers'

export interface Change { title: string; help: string; now: string; was: string; attention: boolean }

type Readings = Record<string, number>
interface Row { title: string; help: string; words: (r: Readings) => string; attention?: (r: Readings) => boolean }

const ROWS: Row[] = [
  { title: 'Width in letters', help: 'How many times wider the thickest marks are than the thinnest, without the outermost 5 % on either side.', words: (r) => `×${say(r.range_ratio!)}` },
  { title: 'Thin and thick', help: 'Widths that nine tenths of the ink lie between, by length.', words: (r) => `${say(r.width_p05_mm!)} to ${say(r.width_p95_mm!)} mm` },
  {
    title: 'Force that is lost', help: 'Share of your samples under the floor and over the ceiling: they all come out equally thin or thick.',
    words: (r) => `${percent(r.floor_share!)} low, ${percent(r.ceiling_share!)} high`, attention: (r) => r.floor_share! > 0.05 || r.ceiling_share! > 0.05,
  },
  { title: 'Tips', help: 'Width at the very start and end of strokes over their middle width; 1 is blunt, 0 a needle.', words: (r) => `start ${say(r.start_tip!)}, end ${say(r.end_tip!)}` },
  { title: 'Drag', help: 'Delay of the steadied tip behind your nib, and how far it trails on average.', words: (r) => (r.drag_ms ? `${roughly(r.drag_ms)} ms, trails ${say(r.trail_mm!)} mm` : 'none'), attention: (r) => r.drag_ms! > 40 },
  { title: 'Wobble', help: 'How far the path strays from itself with everything quicker than 7 Hz taken out, and how much of the 8 to 12 Hz tremor is calmed.', words: (r) => (r.wobble_in_mm ? `${say(r.wobble_out_mm!)} mm, ${roughly(r.wobble_db!)} dB calmed` : 'strokes too short to tell') },
  { title: 'Corners', help: 'The farthest the ink stays away from a sharp corner of your trace.', words: (r) => (r.corner_loss_mm ? `${say(r.corner_loss_mm)} mm lost` : 'all kept'), attention: (r) => r.corner_loss_mm! > 0.3 },
]

/** The readings of the kept pen and of the draft in words, old and new. */
export function changes(kept: Readings | undefined, now: Readings | undefined): Change[] {
  if (!now) return []
  return ROWS.map((row) => {
    const words = row.words(now)
    const before = kept ? row.words(kept) : words
    return { title: row.title, help: row.help, now: words, was: before === words ? '' : before, attention: row.attention?.(now) ?? false }
  })
}

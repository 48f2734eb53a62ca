import type { Side } from '@/stores/gesture-actions'

/** Fingers that land together, and lift again soon: a tap where none goes anywhere, a swipe where all go one way. */
const TOGETHER_MS = 180
const [LONGEST_TAP_MS, LONGEST_SWIPE_MS] = [350, 450]
const STILL_MM = 4
const SWIPE_MM = 18
const ASIDE = 0.6 // how far a swipe may go aside, of its length

interface Finger {
  x: number
  y: number
  dx: number
  dy: number
  still: boolean
}

/**
 * Taps and swipes among touches. A touch counts when the palm rules refused none of its fingers, and that is known
 * `waitMs` after the last one lifted.
 */
export class FingerMoves {
  private fingers = new Map<number, Finger>()
  private firstMs = 0
  private landedMs = 0
  private up = 0

  constructor(
    private readonly pxPerMm: () => number,
    private readonly refused: (id: number) => boolean,
    private readonly made: (count: number, side?: Side) => void,
  ) {}

  down(e: PointerEvent) {
    if (!this.fingers.size) [this.firstMs, this.up] = [e.timeStamp, 0]
    this.landedMs = e.timeStamp
    this.fingers.set(e.pointerId, { x: e.clientX, y: e.clientY, dx: 0, dy: 0, still: true })
  }
  move(e: PointerEvent) {
    const f = this.fingers.get(e.pointerId)
    if (!f) return
    ;[f.dx, f.dy] = [e.clientX - f.x, e.clientY - f.y]
    if (Math.hypot(f.dx, f.dy) > STILL_MM * this.pxPerMm()) f.still = false
  }
  end(e: PointerEvent, waitMs: number) {
    if (!this.fingers.has(e.pointerId)) return
    this.up += 1
    if (this.up < this.fingers.size) return
    const fingers = [...this.fingers]
    this.fingers = new Map()
    const took = e.timeStamp - this.firstMs
    if (this.landedMs - this.firstMs > TOGETHER_MS || e.type === 'pointercancel') return
    const tap = took <= LONGEST_TAP_MS && fingers.every(([, f]) => f.still)
    const side = took <= LONGEST_SWIPE_MS ? this.sideOf(fingers.map(([, f]) => f)) : undefined
    if (!tap && !side) return
    setTimeout(() => !fingers.some(([id]) => this.refused(id)) && this.made(fingers.length, side), waitMs + 30)
  }

  /** Where all of them went. */
  private sideOf(fingers: Finger[]): Side | undefined {
    const far = SWIPE_MM * this.pxPerMm()
    const sides = fingers.map(({ dx, dy }): Side | undefined => {
      if (Math.abs(dx) >= far && Math.abs(dy) <= ASIDE * Math.abs(dx)) return dx < 0 ? 'left' : 'right'
      if (Math.abs(dy) >= far && Math.abs(dx) <= ASIDE * Math.abs(dy)) return dy < 0 ? 'up' : 'down'
      return undefined
    })
    return sides.every((side) => side === sides[0]) ? sides[0] : undefined
  }
}

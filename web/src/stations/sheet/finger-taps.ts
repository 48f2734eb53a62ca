/** A tap of several fingers: they land and lift together, and none goes anywhere. */
const TOGETHER_MS = 180
const LONGEST_MS = 350
const STILL_MM = 4

interface Finger {
  x: number
  y: number
  still: boolean
}

/**
 * Taps among touches. `decided` says what the palm rules made of a touch; a tap counts when they refused none of its
 * fingers, and that is known `waitMs` after the last one lifted.
 */
export class FingerTaps {
  private fingers = new Map<number, Finger>()
  private firstMs = 0
  private landedMs = 0
  private up = 0

  constructor(
    private readonly pxPerMm: () => number,
    private readonly refused: (id: number) => boolean,
    private readonly tapped: (count: number) => void,
  ) {}

  down(e: PointerEvent) {
    if (!this.fingers.size) [this.firstMs, this.up] = [e.timeStamp, 0]
    this.landedMs = e.timeStamp
    this.fingers.set(e.pointerId, { x: e.clientX, y: e.clientY, still: true })
  }
  move(e: PointerEvent) {
    const f = this.fingers.get(e.pointerId)
    if (f && Math.hypot(e.clientX - f.x, e.clientY - f.y) > STILL_MM * this.pxPerMm()) f.still = false
  }
  end(e: PointerEvent, waitMs: number) {
    if (!this.fingers.has(e.pointerId)) return
    this.up += 1
    if (this.up < this.fingers.size) return
    const fingers = [...this.fingers]
    this.fingers = new Map()
    const quick = this.landedMs - this.firstMs <= TOGETHER_MS && e.timeStamp - this.firstMs <= LONGEST_MS
    if (fingers.length < 2 || !quick || e.type === 'pointercancel' || !fingers.every(([, f]) => f.still)) return
    setTimeout(() => !fingers.some(([id]) => this.refused(id)) && this.tapped(fingers.length), waitMs + 30)
  }
}

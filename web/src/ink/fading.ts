/** How a pointer looks that leaves fading ink. */
export interface FadingLook {
  dot: boolean
  colour: string
  /** Across, mm. */
  sizeMm: number
  /** How long after the hand rests it begins to fade, s; `still` surfaces take it away at once then. */
  fadesS: number
  still: boolean
}

const GOING_S = 0.5 // from the first sign of fading to nothing

/** Ink that is never kept: it stays while the hand points, and fades some time after it rests. */
export class FadingInk {
  private ways: [x: number, y: number][][] = []
  private restedMs: number | undefined

  constructor(public look: FadingLook) {}

  /** The pointer is at these places now, mm; `begins` where it has just landed. */
  point(at: readonly (readonly [number, number])[], begins: boolean, nowMs: number) {
    if (begins || !this.ways.length) this.ways.push([])
    this.ways.at(-1)!.push(...at.map(([x, y]): [number, number] => [x, y]))
    this.restedMs = nowMs
  }

  /** Draw it, and say whether there is anything left to fade. */
  draw(c: CanvasRenderingContext2D, scale: number, left: number, top: number, nowMs: number): boolean {
    c.clearRect(0, 0, c.canvas.width, c.canvas.height)
    if (this.restedMs === undefined) return false
    const { dot, colour, sizeMm, fadesS, still } = this.look
    const over = (nowMs - this.restedMs) / 1000 - fadesS
    const share = over <= 0 ? 1 : still ? 0 : 1 - over / GOING_S
    if (share <= 0) {
      this.clear()
      return false
    }
    c.save()
    c.globalAlpha = share
    c.strokeStyle = c.fillStyle = colour
    c.lineWidth = Math.max(1.5, sizeMm * scale)
    c.lineCap = c.lineJoin = 'round'
    const place = ([x, y]: [number, number]) => [x * scale - left, y * scale - top] as const
    if (dot) {
      const [x, y] = place(this.ways.at(-1)!.at(-1)!)
      c.beginPath()
      c.arc(x, y, c.lineWidth / 2, 0, 2 * Math.PI)
      c.fill()
    } else {
      c.beginPath()
      for (const way of this.ways) {
        way.forEach((p, k) => (k ? c.lineTo(...place(p)) : c.moveTo(...place(p))))
        if (way.length === 1) c.lineTo(...place(way[0]!))
      }
      c.stroke()
    }
    c.restore()
    return true
  }

  clear() {
    this.ways = []
    this.restedMs = undefined
  }
}

import type { Schemas } from '@/api/client'

type Reply = Schemas['PanelFilm']
type Patch = Schemas['Patch']
export type Shown = 'seen' | 'believed'
const EVERY = 24 // frames between two pictures that are kept whole, for going back

/** The bytes of a film's reels: grey pictures, one after another. */
async function unwound(reels: string[]): Promise<Uint8Array> {
  const parts: Uint8Array[] = []
  for (const src of reels) {
    const image = Object.assign(new Image(), { src })
    await image.decode()
    const canvas = new OffscreenCanvas(image.naturalWidth, image.naturalHeight)
    const context = canvas.getContext('2d', { willReadFrequently: true })!
    context.drawImage(image, 0, 0)
    const { data } = context.getImageData(0, 0, canvas.width, canvas.height)
    const grey = new Uint8Array(data.length / 4)
    for (let k = 0; k < grey.length; k++) grey[k] = data[4 * k]!
    parts.push(grey)
  }
  const all = new Uint8Array(parts.reduce((sum, part) => sum + part.length, 0))
  let at = 0
  for (const part of parts) {
    all.set(part, at)
    at += part.length
  }
  return all
}

/** One picture that goes from frame to frame, forwards and back. */
class Strip {
  readonly picture: ImageData
  private at = -1
  private next = 0
  private kept = new Map<number, { pixels: Uint8ClampedArray; next: number }>()

  constructor(
    private bytes: Uint8Array,
    private patches: Patch[],
    private channels: number,
    width: number,
    height: number,
  ) {
    this.picture = new ImageData(width, height)
    this.picture.data.fill(255)
  }

  to(frame: number): ImageData {
    if (frame < this.at) this.back(frame)
    while (this.at < frame) {
      this.at++
      while (this.next < this.patches.length && this.patches[this.next]!.frame <= this.at) {
        this.lay(this.patches[this.next++]!)
      }
      if (this.at % EVERY === 0 && !this.kept.has(this.at)) {
        this.kept.set(this.at, { pixels: this.picture.data.slice(), next: this.next })
      }
    }
    return this.picture
  }

  private back(frame: number) {
    const from = Math.floor(frame / EVERY) * EVERY
    const { pixels, next } = this.kept.get(from)!
    this.picture.data.set(pixels)
    this.at = from
    this.next = next
  }

  private lay({ left, top, width, height, offset }: Patch) {
    // four bytes at once, lowest first, as every machine with a browser has them: several times as quick
    const out = new Uint32Array(this.picture.data.buffer)
    const { bytes, channels } = this
    const [green, blue] = channels === 3 ? [1, 2] : [0, 0]
    let from = offset
    for (let j = top; j < top + height; j++) {
      let to = j * this.picture.width + left
      for (let i = 0; i < width; i++, to++, from += channels) {
        out[to] = 0xff000000 | (bytes[from + blue]! << 16) | (bytes[from + green]! << 8) | bytes[from]!
      }
    }
  }
}

/** A page in time as the server sent it. */
export class Film {
  private constructor(
    readonly reply: Reply,
    private strips: Record<Shown, Strip>,
    private waits: Uint8Array,
  ) {}

  static async of(reply: Reply): Promise<Film> {
    const bytes = await unwound(reply.reels)
    const { width_px: width, height_px: height } = reply
    const strip = (patches: Patch[]) => new Strip(bytes, patches, reply.channels, width, height)
    const from = reply.waits.offset
    const waits = bytes.subarray(from, from + width * height)
    return new Film(reply, { seen: strip(reply.seen), believed: strip(reply.believed) }, waits)
  }

  get lastsMs() {
    return (1000 * (this.reply.frames - 1)) / this.reply.frames_hz
  }
  at(tMs: number, shown: Shown): ImageData {
    const frame = Math.floor((tMs / 1000) * this.reply.frames_hz + 1e-6)
    return this.strips[shown].to(Math.min(Math.max(frame, 0), this.reply.frames - 1))
  }
  /** How long the last tone of a place took to be there, s; places are shares of the picture. */
  waitAt(x: number, y: number): number {
    const { width_px: width, height_px: height, wait_step_s: step } = this.reply
    const [i, j] = [Math.floor(x * width), Math.floor(y * height)]
    let most = 0
    for (let dj = -2; dj <= 2; dj++)
      for (let di = -2; di <= 2; di++) {
        const [u, v] = [i + di, j + dj]
        if (u >= 0 && v >= 0 && u < width && v < height) most = Math.max(most, this.waits[v * width + u]!)
      }
    return most * step
  }
  /** The same all over, as a veil of one colour: none where all was there at once, full from `mostS` on. */
  veil([r, g, b]: number[], mostS: number): ImageData {
    const out = new ImageData(this.reply.width_px, this.reply.height_px)
    const full = mostS / this.reply.wait_step_s
    for (let k = 0; k < this.waits.length; k++) {
      out.data.set([r!, g!, b!, Math.min(255, (255 * this.waits[k]!) / full)], 4 * k)
    }
    return out
  }
}

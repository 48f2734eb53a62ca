import type { Schemas } from '@/api/client'

export const LENS_MM = 14
type Place = { x: number; y: number }

export interface ProofPicture {
  image: HTMLImageElement
  /** Where it differs from another panel's, over the whole page. */
  heat?: HTMLImageElement
  /** Ways along which ink may vanish, x and y in mm by turns. */
  broken: number[][]
  paper: Schemas['Paper']
  pxPerMm: number
  at: Place
}

const ink = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name)

/** Scale and corner of a page that fills a box. */
function fitted(box: { width: number; height: number }, paper: Schemas['Paper']) {
  const k = Math.min(box.width / paper.width_mm, box.height / paper.height_mm)
  return { k, left: (box.width - paper.width_mm * k) / 2, top: (box.height - paper.height_mm * k) / 2 }
}

/** Where on the page a point of a box lies that shows all of it. */
export function placeIn(box: DOMRect, paper: Schemas['Paper'], x: number, y: number): Place {
  const { k, left, top } = fitted(box, paper)
  return { x: (x - box.left - left) / k, y: (y - box.top - top) / k }
}

/** The whole page, with a frame where the lens is. */
export function drawWhole(context: CanvasRenderingContext2D, p: ProofPicture) {
  const { k, left, top } = fitted(context.canvas, p.paper)
  const [w, h] = [p.paper.width_mm * k, p.paper.height_mm * k]
  context.clearRect(0, 0, context.canvas.width, context.canvas.height)
  context.imageSmoothingQuality = 'high'
  context.drawImage(p.image, left, top, w, h)
  if (p.heat) context.drawImage(p.heat, left, top, w, h)
  mark(
    context,
    p.broken,
    (x) => left + x * k,
    (y) => top + y * k,
    5,
  )
  context.strokeStyle = ink('--accent')
  context.lineWidth = 3
  const half = LENS_MM / 2
  context.strokeRect(left + (p.at.x - half) * k, top + (p.at.y - half) * k, LENS_MM * k, LENS_MM * k)
}

/** What lies under the lens, pixel for pixel. */
export function drawLens(context: CanvasRenderingContext2D, p: ProofPicture) {
  const { width, height } = context.canvas
  const [x, y, s] = [p.at.x - LENS_MM / 2, p.at.y - LENS_MM / 2, p.pxPerMm]
  context.imageSmoothingEnabled = false
  context.fillStyle = ink('--rule')
  context.fillRect(0, 0, width, height)
  context.drawImage(p.image, x * s, y * s, LENS_MM * s, LENS_MM * s, 0, 0, width, height)
  if (p.heat) {
    const a = p.heat.naturalWidth / p.paper.width_mm
    context.drawImage(p.heat, x * a, y * a, LENS_MM * a, LENS_MM * a, 0, 0, width, height)
  }
  const k = width / LENS_MM
  mark(
    context,
    p.broken,
    (at) => (at - x) * k,
    (at) => (at - y) * k,
    9,
  )
}

function mark(
  context: CanvasRenderingContext2D,
  ways: number[][],
  x: (mm: number) => number,
  y: (mm: number) => number,
  wide: number,
) {
  context.save()
  context.strokeStyle = ink('--attention')
  context.globalAlpha = 0.6
  context.lineWidth = wide
  context.lineCap = 'round'
  context.beginPath()
  for (const way of ways) {
    for (let n = 0; n < way.length; n += 2) {
      const to = [x(way[n]!), y(way[n + 1]!)] as const
      if (n) context.lineTo(...to)
      else context.moveTo(...to)
      if (way.length === 2) context.lineTo(to[0] + 0.1, to[1])
    }
  }
  context.stroke()
  context.restore()
}

import type { PenPlan } from './plan'

/**
 * What settled ink left for a pen that goes over it, on a part of the page in pixels: how far the surface is filled and
 * how much of its tone this pen has laid, 0..255, four bytes a pixel as the server sends them.
 */
export interface Deposit {
  scale: number
  left: number
  top: number
  width: number
  height: number
  data: Uint8ClampedArray
}
const [FILL, LAID] = [0, 1]

function at(deposit: Deposit, x: number, y: number, channel: number): number {
  const [i, j] = [x - deposit.left, y - deposit.top]
  if (i < 0 || j < 0 || i >= deposit.width || j >= deposit.height) return 0
  return deposit.data[4 * (j * deposit.width + i) + channel]! / 255
}

/** How far the surface is filled at a pixel of the page, 0..1. */
export const filledAt = (deposit: Deposit | undefined, scale: number, x: number, y: number) =>
  deposit && deposit.scale === scale ? at(deposit, x, y, FILL) : 0

const masks = new WeakMap<Deposit, { opacity: number; even: number; mask: OffscreenCanvas }>()

/** The share of a stroke's alpha that an even pen does not lay where it lay before, as compositing.py steps it. */
export function heldBack(before: number, opacity: number, even: number): number {
  if (before <= 0 || opacity <= 0) return 0
  const wanted = even * Math.max(before, opacity) + (1 - even) * (1 - (1 - before) * (1 - opacity))
  const step = before < 1 ? 1 - (1 - wanted) / (1 - before) : 0
  return Math.min(1, Math.max(0, 1 - step / opacity))
}

/** Take from a stroke on its canvas what this pen has laid there already. */
export function keepEven(
  ground: { context: CanvasRenderingContext2D; scale: number; left?: number; top?: number },
  plan: PenPlan,
  deposit: Deposit,
) {
  if (deposit.scale !== ground.scale) return
  let made = masks.get(deposit)
  if (!made || made.opacity !== plan.opacity || made.even !== plan.even) {
    const mask = new OffscreenCanvas(deposit.width, deposit.height)
    const picture = new ImageData(deposit.width, deposit.height)
    for (let k = 0; k < picture.data.length; k += 4)
      picture.data[k + 3] = 255 * heldBack(deposit.data[k + LAID]! / 255, plan.opacity, plan.even)
    mask.getContext('2d')!.putImageData(picture, 0, 0)
    made = { opacity: plan.opacity, even: plan.even, mask }
    masks.set(deposit, made)
  }
  const { context: c, left = 0, top = 0 } = ground
  c.save()
  c.globalCompositeOperation = 'destination-out'
  c.drawImage(made.mask, deposit.left - left, deposit.top - top)
  c.restore()
}

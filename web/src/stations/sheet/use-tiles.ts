import { onScopeDispose, type Ref } from 'vue'
import { takeFile, type Box, type SheetItem } from '@/api/client'
import type { Seen } from './use-page'

const SIDE = 512
const MOST_TILES = 96
const EDGE_MM = 1 // round a box that changed
const INSIDE = 0.01 // px inside the edges of what is asked for, so that it is snapped outward to just these pixels

interface Tile {
  picture: OffscreenCanvas
  column: number
  row: number
}

/** The settled picture of a sheet in squares, as far as it was looked at; stale ones stay until fresh ones come. */
export function useTiles(sheet: Ref<SheetItem | undefined>, scale: Ref<number>) {
  let tiles = new Map<string, Tile>()
  let of = { sheet: '', scale: 0 }
  /** Those of the magnification before, shown stretched meanwhile. */
  let before: { tiles: Map<string, Tile>; scale: number } | undefined
  /** What this browser saw of the page last, shown stretched until its squares come. */
  let last: { picture: ImageBitmap; scale: number; left: number; top: number } | undefined
  let asked = 0
  /** Changes of ink: those asked about, and the newest whose picture came. */
  let changes = 0
  let shownChange = 0
  /** Squares on their way, and those that came though ink changed meanwhile. */
  const coming = new Map<string, Promise<boolean>>()
  const stale = new Set<string>()
  onScopeDispose(() => (asked += 1))

  const key = (column: number, row: number) => `${column} ${row}`
  const squares = ({ left, top, width, height }: Seen) => {
    const out: [number, number][] = []
    for (let row = Math.floor(top / SIDE); row * SIDE < top + height; row += 1)
      for (let column = Math.floor(left / SIDE); column * SIDE < left + width; column += 1) out.push([column, row])
    return out
  }

  function turnTo(id: string, at: number) {
    if (of.sheet === id && of.scale === at) return
    if (of.sheet !== id) before = last = undefined
    else if (tiles.size) before = { tiles, scale: of.scale }
    tiles = new Map()
    of = { sheet: id, scale: at }
    coming.clear()
    stale.clear()
  }

  /** The picture of a part of the page, in pixels; undefined where another is wanted by now. Throws a Refusal. */
  async function fetchPart(left: number, top: number, right: number, bottom: number) {
    const [id, at] = [of.sheet, of.scale]
    const query = new URLSearchParams({
      lifted: 'true', // they lie over it, to be lifted here
      scale: String(at),
      left: String((left + INSIDE) / at),
      top: String((top + INSIDE) / at),
      right: String((right - INSIDE) / at),
      bottom: String((bottom - INSIDE) / at),
    })
    const picture = await createImageBitmap(await takeFile(`/api/sheets/${id}/page.png?${query}`))
    return id === of.sheet && at === of.scale ? picture : undefined
  }

  /** whole: of squares, old: ink changed since it was asked for. */
  function put(picture: ImageBitmap, left: number, top: number, { whole = false, old = false }) {
    for (const [column, row] of squares({ left, top, width: picture.width, height: picture.height })) {
      const k = key(column, row)
      let tile = tiles.get(k)
      if (old && tile && !stale.has(k)) continue
      if (old) stale.add(k)
      else if (whole) stale.delete(k)
      if (!tile) {
        if (!whole) continue
        tile = { picture: new OffscreenCanvas(SIDE, SIDE), column, row }
      }
      tiles.delete(k)
      tiles.set(k, tile)
      tile.picture.getContext('2d')!.drawImage(picture, left - column * SIDE, top - row * SIDE)
    }
    while (tiles.size > MOST_TILES) tiles.delete(tiles.keys().next().value!)
  }

  /** Have what is seen; true when something came. */
  async function fill(seen: Seen, page: { width: number; height: number }): Promise<boolean> {
    const now = sheet.value
    if (!now || !scale.value || !seen.width || !seen.height) return false
    turnTo(now.id, scale.value)
    const wanted = squares(seen).filter((at) => !tiles.has(key(...at)) || stale.has(key(...at)))
    const missing = wanted.filter((at) => !coming.has(key(...at)))
    if (missing.length) {
      const part = bring(missing, page)
      for (const at of missing) coming.set(key(...at), part)
      const ended = () => missing.forEach((at) => coming.get(key(...at)) === part && coming.delete(key(...at)))
      part.then(ended, ended)
    }
    const came = await Promise.all(new Set(wanted.map((at) => coming.get(key(...at)))))
    return came.some(Boolean)
  }

  async function bring(missing: [number, number][], page: { width: number; height: number }): Promise<boolean> {
    const [mine, change] = [(asked += 1), changes]
    const [left, top] = [Math.min(...missing.map((m) => m[0])) * SIDE, Math.min(...missing.map((m) => m[1])) * SIDE]
    const right = Math.min(page.width, (Math.max(...missing.map((m) => m[0])) + 1) * SIDE)
    const bottom = Math.min(page.height, (Math.max(...missing.map((m) => m[1])) + 1) * SIDE)
    const picture = await fetchPart(left, top, right, bottom)
    if (!picture) return false
    put(picture, left, top, { whole: true, old: change !== changes })
    if (mine === asked) before = last = undefined
    return true
  }

  /** Ink changed in a box of the page, mm, or anywhere: what is seen of it comes anew, the rest when it is seen. */
  async function refresh(seen: Seen, page: { width: number; height: number }, box?: Box): Promise<void> {
    const now = sheet.value
    if (!now || !scale.value || !seen.width || !seen.height) return
    turnTo(now.id, scale.value)
    const [at, change] = [scale.value, (changes += 1)]
    coming.clear()
    const px = box
      ? [
          Math.floor((box[0] - EDGE_MM) * at),
          Math.floor((box[1] - EDGE_MM) * at),
          Math.ceil((box[2] + EDGE_MM) * at),
          Math.ceil((box[3] + EDGE_MM) * at),
        ]
      : [0, 0, page.width, page.height]
    const drawn = new Set(squares(seen).map(([column, row]) => key(column, row)))
    for (const [k, { column, row }] of [...tiles]) {
      const met =
        column * SIDE < px[2]! && (column + 1) * SIDE > px[0]! && row * SIDE < px[3]! && (row + 1) * SIDE > px[1]!
      if (met && !drawn.has(k)) tiles.delete(k)
    }
    // whole squares of what is seen, so that none is left half old
    const [low, high] = [Math.floor(seen.left / SIDE) * SIDE, Math.floor(seen.top / SIDE) * SIDE]
    const left = Math.max(low, px[0]!, 0)
    const top = Math.max(high, px[1]!, 0)
    const right = Math.min(Math.ceil((seen.left + seen.width) / SIDE) * SIDE, px[2]!, page.width)
    const bottom = Math.min(Math.ceil((seen.top + seen.height) / SIDE) * SIDE, px[3]!, page.height)
    if (right > left && bottom > top) {
      const picture = await fetchPart(left, top, right, bottom)
      // one that comes after that of a later change may lack it
      if (picture && shownChange > change) return refresh(seen, page, box)
      shownChange = change
      if (picture) put(picture, left, top, { whole: !box })
      if (picture && !box) last = undefined
    }
    await fill(seen, page)
  }

  function paint(context: CanvasRenderingContext2D, seen: Seen, colour: string) {
    context.fillStyle = colour
    context.fillRect(0, 0, seen.width, seen.height)
    if (last && sheet.value && (of.sheet === sheet.value.id || !of.sheet)) {
      const by = scale.value / last.scale
      const [x, y] = [last.left * by - seen.left, last.top * by - seen.top]
      context.drawImage(last.picture, x, y, last.picture.width * by, last.picture.height * by)
    }
    if (of.sheet !== sheet.value?.id) return
    const lay = (shown: Map<string, Tile>, by: number) => {
      const side = SIDE * by
      for (const { picture, column, row } of shown.values()) {
        const [x, y] = [column * side - seen.left, row * side - seen.top]
        if (x < seen.width && y < seen.height && x + side > 0 && y + side > 0)
          if (by === 1) context.drawImage(picture, x, y)
          else context.drawImage(picture, x, y, side, side)
      }
    }
    if (of.scale !== scale.value) lay(tiles, scale.value / of.scale)
    else {
      if (before) lay(before.tiles, of.scale / before.scale)
      lay(tiles, 1)
    }
  }

  /** Show this of the page until its squares come. */
  function showLast(picture: typeof last) {
    last = picture
  }

  return { fill, refresh, paint, showLast }
}

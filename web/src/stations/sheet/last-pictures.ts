import { createStore, del, get, keys, set } from 'idb-keyval'
import type { Seen } from './use-page'

/** What of a page was seen last in this browser, and how near. */
export interface LastPicture {
  picture: Blob
  scale: number
  left: number
  top: number
}

const MOST = 24
const QUALITY = 0.8
const shelf = createStore('gray-quill-last-pictures', 'pages')
/** Of another data folder a page may have the same id: its address is not enough. */
const nameOf = (sheetId: string, madeAt: string) => `${sheetId} ${madeAt}`

/** Keep what a canvas shows of a page; pages that were not looked at lately are let go. */
export async function keepPicture(
  canvas: HTMLCanvasElement,
  sheetId: string,
  madeAt: string,
  seen: Seen,
  scale: number,
) {
  const picture = await new Promise<Blob | null>((done) => canvas.toBlob(done, 'image/webp', QUALITY))
  if (!picture) return
  const name = nameOf(sheetId, madeAt)
  await set(name, { picture, scale, left: seen.left, top: seen.top } satisfies LastPicture, shelf)
  const others = (await keys<string>(shelf)).filter((k) => k !== name)
  for (const old of others.slice(0, Math.max(0, others.length + 1 - MOST))) await del(old, shelf)
}

export async function lastPicture(sheetId: string, madeAt: string) {
  const kept = await get<LastPicture>(nameOf(sheetId, madeAt), shelf)
  return kept && { ...kept, picture: await createImageBitmap(kept.picture) }
}

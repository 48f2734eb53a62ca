import type { SheetItem } from '@/api/client'

const PREVIEW_PX = 144 // of the longer side, on a display of one and a half pixels a CSS pixel
const LEAST_SCALE = 0.21 // that the server draws

/** The address of a whole page as it lies there, small; `px` along its longer side. It changes with what is on it. */
export function pagePicture(page: SheetItem, px = PREVIEW_PX): string {
  const scale = Math.max(LEAST_SCALE, px / Math.max(page.paper.width_mm, page.paper.height_mm))
  return `/api/sheets/${page.id}/page.png?scale=${scale.toFixed(3)}`
}

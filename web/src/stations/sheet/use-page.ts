import { useDevicePixelRatio, useElementSize } from '@vueuse/core'
import { computed, ref, type Ref } from 'vue'
import { takeFile, type Box, type SheetItem } from '@/api/client'

const MOST_PIXELS = 24_000_000
const GUTTER = 2

/** The page on the screen: how large it is, and fetching settled parts of it from the server. */
export function usePage(sheet: Ref<SheetItem | undefined>, frame: Ref<HTMLElement | null>) {
  const { width, height } = useElementSize(frame)
  const { pixelRatio } = useDevicePixelRatio()
  const zoom = ref(1)

  /** CSS pixels a millimetre: the width fills the frame at zoom 1, kept where the canvas stays affordable. */
  const cssScale = computed(() => {
    const paper = sheet.value?.paper
    if (!paper || !width.value) return 0
    const most = Math.sqrt(MOST_PIXELS / (paper.width_mm * paper.height_mm)) / pixelRatio.value
    return Math.min(((width.value - GUTTER) / paper.width_mm) * zoom.value, most)
  })
  const wholeZoom = computed(() => {
    const paper = sheet.value?.paper
    return paper && width.value
      ? Math.min(1, ((height.value - GUTTER) / paper.height_mm) * (paper.width_mm / (width.value - GUTTER)))
      : 1
  })
  const scale = computed(() => cssScale.value * pixelRatio.value)
  const size = computed(() => ({
    css: {
      width: `${(sheet.value?.paper.width_mm ?? 0) * cssScale.value}px`,
      height: `${(sheet.value?.paper.height_mm ?? 0) * cssScale.value}px`,
    },
    width: Math.round((sheet.value?.paper.width_mm ?? 0) * scale.value),
    height: Math.round((sheet.value?.paper.height_mm ?? 0) * scale.value),
  }))

  /** The settled picture of a part of the page, and where it goes in canvas pixels. Throws a Refusal. */
  async function fetchPart(box?: Box): Promise<{ picture: ImageBitmap; left: number; top: number } | undefined> {
    const now = sheet.value
    if (!now || !scale.value) return undefined
    const at = scale.value
    const edge = 1
    const [left, top, right, bottom] = box
      ? [
          Math.max(0, box[0] - edge),
          Math.max(0, box[1] - edge),
          Math.min(now.paper.width_mm, box[2] + edge),
          Math.min(now.paper.height_mm, box[3] + edge),
        ]
      : [0, 0, now.paper.width_mm, now.paper.height_mm]
    if (right <= left || bottom <= top) return undefined
    const query = new URLSearchParams({
      scale: String(at),
      left: String(left),
      top: String(top),
      right: String(right),
      bottom: String(bottom),
    })
    const answer = await takeFile(`/api/sheets/${now.id}/page.png?${query}`)
    if (at !== scale.value || now.id !== sheet.value?.id) return undefined
    return {
      picture: await createImageBitmap(answer),
      left: Math.floor(left * at),
      top: Math.floor(top * at),
    }
  }

  return { cssScale, scale, size, zoom, wholeZoom, fetchPart }
}

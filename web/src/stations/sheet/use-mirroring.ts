import { useEventListener } from '@vueuse/core'
import { watch, type Ref } from 'vue'
import type { SheetItem } from '@/api/client'
import { useInk } from '@/stores/ink'
import { useMirrorShow } from '@/stores/mirror'
import type { usePage } from './use-page'

/** The part of the page in the frame goes to those who look on, and word of ink that is kept by now. */
export function useMirroring(
  sheet: Ref<SheetItem | undefined>,
  frame: Ref<HTMLElement | null>,
  page: ReturnType<typeof usePage>,
) {
  const ink = useInk()
  const mirror = useMirrorShow()
  function sees() {
    const holder = frame.value
    const mm = page.cssScale.value
    const paper = sheet.value?.paper
    if (!holder || !mm || !paper) return
    const [left, top] = [holder.scrollLeft / mm, holder.scrollTop / mm]
    mirror.sees([
      left,
      top,
      Math.min(paper.width_mm, left + holder.clientWidth / mm),
      Math.min(paper.height_mm, top + holder.clientHeight / mm),
    ])
  }
  watch([() => mirror.shows, page.seen, page.cssScale], sees, { flush: 'post' })
  watch(
    () => ink.changed,
    () => void mirror.flush(),
  )
  useEventListener(frame, 'scroll', sees, { passive: true })
  return mirror
}

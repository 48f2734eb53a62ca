import { useEventListener } from '@vueuse/core'
import { nextTick, type Ref } from 'vue'
import type { PageView } from '@/ink'
import { LARGEST, SMALLEST } from './use-page'

interface Base {
  view: PageView
  zoom: number
  left: number
  top: number
  pageLeft: number
  pageTop: number
}

/**
 * The page moved and zoomed by fingers: while one is down the page is shifted as it is, at the end it is laid out anew
 * at its new size. Every place is reckoned from where the page lay before, so that what is taken back brings it exactly
 * there.
 */
export function usePageMoves(
  frame: Ref<HTMLElement | null>,
  sheet: Ref<HTMLElement | null>,
  zoom: Ref<number>,
  pxPerMm: () => number,
) {
  let base: Base | undefined
  let last: PageView = { scale: 1, x: 0, y: 0 }
  let ours = false

  function begin(): Base | undefined {
    const holder = frame.value
    const page = sheet.value?.getBoundingClientRect()
    if (!holder || !page) return undefined
    return {
      view: last,
      zoom: zoom.value,
      left: holder.scrollLeft,
      top: holder.scrollTop,
      pageLeft: page.left,
      pageTop: page.top,
    }
  }

  /** From the base's view to this one: a place p on the screen, in px, goes to scale p + (x, y). */
  function change(from: PageView, to: PageView): PageView {
    const scale = to.scale / from.scale
    return { scale, x: (to.x - scale * from.x) * pxPerMm(), y: (to.y - scale * from.y) * pxPerMm() }
  }

  async function moved(view: PageView, held: boolean) {
    if (view.scale === last.scale && view.x === last.x && view.y === last.y && (held || !sheet.value?.style.transform))
      return
    if (view.scale === 1 && view.x === 0 && view.y === 0 && !base) {
      last = view
      return
    }
    base ??= begin()
    last = view
    const holder = frame.value
    const page = sheet.value
    if (!base || !holder || !page) return
    const { scale, x, y } = change(base.view, view)
    ours = true
    const grown = Math.min(LARGEST, Math.max(SMALLEST, base.zoom * scale))
    if (scale === 1 && grown === zoom.value) {
      page.style.transform = ''
      holder.scrollTo(base.left - x, base.top - y)
    } else if (held) {
      // where the page's corner goes, from where layout has it now
      page.style.transform = ''
      const now = page.getBoundingClientRect()
      const size = (base.zoom * scale) / zoom.value
      page.style.transformOrigin = '0 0'
      const [dx, dy] = [scale * base.pageLeft + x - now.left, scale * base.pageTop + y - now.top]
      page.style.transform = `translate(${dx}px, ${dy}px) scale(${size})`
    } else {
      const at = base
      zoom.value = grown
      page.style.transform = ''
      await nextTick()
      const corner = page.getBoundingClientRect()
      const by = grown / at.zoom
      holder.scrollTo(
        holder.scrollLeft + corner.left - (by * at.pageLeft + x),
        holder.scrollTop + corner.top - (by * at.pageTop + y),
      )
    }
    requestAnimationFrame(() => (ours = false))
  }

  /** The page was moved by other means: from here on that is where it lay. */
  function startAnew() {
    if (!ours) base = undefined
  }
  useEventListener(frame, 'scroll', startAnew, { passive: true })

  /** The fingers' moves are counted from nothing again; the page stays where it is. */
  function reset() {
    base = undefined
    last = { scale: 1, x: 0, y: 0 }
  }

  let marked = { left: 0, top: 0, zoom: 1 }
  /** Note where the page lies, for `back`: fingers that mean something else move it all the same until they lift. */
  function mark() {
    const holder = frame.value
    if (holder) marked = { left: holder.scrollLeft, top: holder.scrollTop, zoom: zoom.value }
  }
  async function back() {
    zoom.value = marked.zoom
    await nextTick()
    frame.value?.scrollTo(marked)
  }

  return { moved, startAnew, reset, mark, back }
}

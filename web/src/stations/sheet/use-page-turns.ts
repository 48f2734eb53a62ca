import { useEventListener } from '@vueuse/core'
import type { Ref } from 'vue'
import type { PageView } from '@/ink'
import type { Place } from '@/lib/placement'
import { useFrame } from '@/stores/frame'
import { usePages } from '@/stores/pages'
import type { usePage } from './use-page'

const LEAST_MM = 8 // of a finger's way that turns
const PINCH = 1.08 // fingers that part by less mean no other size
const WHEEL_MS = 300
const SWIPE_MM = 12 // of a way on the screen that turns a page while reading

/**
 * By one view on or back, and from the end of a page to the next. On slow panels the page does not follow the fingers:
 * when they lift it is turned by one view, or laid at its new size, once.
 */
export function usePageTurns(frame: Ref<HTMLElement | null>, page: ReturnType<typeof usePage>, on: Ref<boolean>) {
  const pages = usePages()
  const desk = useFrame()
  const turn = (forward: boolean) => page.turn('y', forward) || pages.go(forward)
  /** Downward and upward go from page to page only where pages follow that way. */
  const onward = (forward: boolean) => (desk.follows === 'downward' ? turn(forward) : page.turn('y', forward))

  /** A swipe while reading: sideways to another page, upward or downward by a view. Places on the page, screen mm. */
  function swiped([x0, y0]: Place, [x1, y1]: Place): void {
    const [dx, dy] = [x1 - x0, y1 - y0]
    if (Math.max(Math.abs(dx), Math.abs(dy)) < SWIPE_MM) return
    if (Math.abs(dx) > Math.abs(dy)) pages.go(dx < 0)
    else onward(dy < 0)
  }

  let begun: PageView | undefined
  let last: PageView | undefined
  let wheeledMs = -Infinity

  function moved(view: PageView, held: boolean): void {
    if (held) {
      begun ??= view
      last = view
      return
    }
    const from = begun
    begun = undefined
    if (!from || !last || (last.x === from.x && last.y === from.y && last.scale === from.scale)) return
    const scale = view.scale / from.scale
    // what is taken back did not mean to turn
    const [dx, dy] = [view.x - from.x, view.y - from.y]
    last = undefined
    if (scale > PINCH || scale < 1 / PINCH) void page.zoomTo(page.zoom.value * scale)
    else if (Math.max(Math.abs(dx), Math.abs(dy)) >= LEAST_MM)
      if (Math.abs(dx) <= Math.abs(dy)) onward(dy < 0)
      else if (!page.turn('x', dx < 0) && desk.follows === 'sideways') pages.go(dx < 0)
  }

  useEventListener(
    frame,
    'wheel',
    (event: WheelEvent) => {
      if (!on.value || event.ctrlKey) return
      event.preventDefault()
      if (event.timeStamp - wheeledMs < WHEEL_MS || !event.deltaY) return
      wheeledMs = event.timeStamp
      onward(event.deltaY > 0)
    },
    { passive: false },
  )
  useEventListener('keydown', (event: KeyboardEvent) => {
    if (event.key !== 'PageDown' && event.key !== 'PageUp') return
    if (event.target instanceof HTMLElement && event.target.closest('input, textarea, .card, .margin')) return
    event.preventDefault()
    turn(event.key === 'PageDown')
  })

  return { moved, turn, swiped }
}

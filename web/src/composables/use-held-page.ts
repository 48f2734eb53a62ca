import { useEventListener } from '@vueuse/core'
import { useRouter } from 'vue-router'

const EDGE_PX = 24 // where systems take a swipe for "back"
const AFTER_MS = 800 // of the last report of a pen
const GLASS = '[data-layer], [data-check]'

/**
 * A hand that writes does not turn the screens' pages: swipes from the rim and pulls are held off, and the browser's
 * "back" does nothing while the nib is down and shortly after. Nothing is selected any more once it lands: the browser
 * would take what it writes for dragging that away.
 */
export function useHeldPage() {
  let nibMs = -Infinity
  const nib = (event: PointerEvent) => {
    if (event.pointerType === 'pen') nibMs = event.timeStamp
  }
  useEventListener(document, ['pointerdown', 'pointermove'], nib, { capture: true, passive: true })
  useEventListener(
    document,
    'pointerdown',
    (event) => {
      if (event.target instanceof Element && event.target.closest(GLASS)) getSelection()?.removeAllRanges()
    },
    { capture: true, passive: true },
  )
  useEventListener(
    document,
    'touchstart',
    (event: TouchEvent) => {
      const x = event.touches[0]?.clientX ?? EDGE_PX
      const onGlass = event.target instanceof Element && event.target.closest(GLASS)
      if (event.cancelable && onGlass && (x < EDGE_PX || x > window.innerWidth - EDGE_PX)) event.preventDefault()
    },
    { passive: false },
  )
  let back = false
  useEventListener(window, 'popstate', () => (back = true), { capture: true })
  useRouter().beforeEach(() => {
    const held = back && performance.now() - nibMs < AFTER_MS
    back = false
    return !held
  })
}

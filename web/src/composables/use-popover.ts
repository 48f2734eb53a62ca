import { useEventListener, useResizeObserver } from '@vueuse/core'
import { onMounted, onScopeDispose, type Ref } from 'vue'
import { useEscape } from './use-escape'

const EDGE_PX = 16
const GAP_PX = 4

/** Lay a sheet beneath what opened it, or above where there is more room, inside the window. */
function layBeneath(sheet: HTMLElement, opener: HTMLElement) {
  const from = opener.getBoundingClientRect()
  if (!from.width) return
  const { width, height } = sheet.getBoundingClientRect()
  const below = window.innerHeight - from.bottom - GAP_PX - EDGE_PX
  const above = from.top - GAP_PX - EDGE_PX
  const up = height > below && above > below
  Object.assign(sheet.style, {
    position: 'fixed',
    left: `${Math.max(EDGE_PX, Math.min(from.left, window.innerWidth - width - EDGE_PX))}px`,
    right: 'auto',
    top: up ? 'auto' : `${from.bottom + GAP_PX}px`,
    bottom: up ? `${window.innerHeight - from.top + GAP_PX}px` : 'auto',
    maxHeight: `${Math.max(below, above)}px`,
    overflowY: 'auto',
  })
}

/**
 * A little sheet that opens beneath what was pressed: Escape closes it, focus goes into it as it opens and back to what
 * opened it as it closes. One that needs the room stays where its own style lays it.
 */
export function usePopover(root: Readonly<Ref<HTMLElement | null>>, close: () => void, beneath = true) {
  const opener = document.activeElement instanceof HTMLElement ? document.activeElement : undefined
  const lay = () => beneath && root.value && opener && opener !== document.body && layBeneath(root.value, opener)
  onMounted(() => {
    lay()
    if (!root.value?.contains(document.activeElement)) root.value?.focus({ preventScroll: true })
  })
  useResizeObserver(root, lay)
  useEventListener(window, 'resize', lay)
  useEscape(close)
  onScopeDispose(() => {
    // only what was inside gives its focus back: a press elsewhere has moved it on
    if (
      !document.activeElement ||
      document.activeElement === document.body ||
      root.value?.contains(document.activeElement)
    )
      opener?.focus({ preventScroll: true })
  })
}

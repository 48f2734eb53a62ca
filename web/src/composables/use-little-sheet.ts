import { useEventListener } from '@vueuse/core'
import { onMounted, onScopeDispose, type Ref } from 'vue'

/**
 * A little sheet that opens over the frame: Escape closes it, focus goes into it as it opens and back to what opened it
 * as it closes.
 */
export function useLittleSheet(root: Readonly<Ref<HTMLElement | null>>, close: () => void) {
  const opener = document.activeElement instanceof HTMLElement ? document.activeElement : undefined
  onMounted(() => {
    if (!root.value?.contains(document.activeElement)) root.value?.focus({ preventScroll: true })
  })
  useEventListener(document, 'keydown', (event: KeyboardEvent) => {
    if (event.key !== 'Escape' || event.defaultPrevented) return
    event.preventDefault()
    close()
  })
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

import { useEventListener } from '@vueuse/core'

/** Escape closes what is open; what lies over it has closed first. */
export function useEscape(close: () => void) {
  useEventListener(document, 'keydown', (event: KeyboardEvent) => {
    if (event.key !== 'Escape' || event.defaultPrevented) return
    event.preventDefault()
    close()
  })
}

/** Escape folds what was unfolded in its place, the last of what is seen, where nothing lay over it. */
export function useEscapeFolds() {
  useEventListener(window, 'keydown', (event: KeyboardEvent) => {
    if (event.key !== 'Escape' || event.defaultPrevented) return
    const open = document.querySelectorAll<HTMLElement>('button[aria-expanded="true"]:not([data-stays-open])')
    const last = [...open].filter((button) => button.checkVisibility()).at(-1)
    if (!last) return
    event.preventDefault()
    last.focus({ preventScroll: true })
    last.click()
  })
}

/** A list that is closed already has no use for Escape: it goes to what lies around the list. */
export function useEscapePassesLists() {
  useEventListener(
    window,
    'keydown',
    (event: KeyboardEvent) => {
      const list =
        event.target instanceof Element ? event.target.closest('[role="combobox"][aria-expanded="false"]') : null
      if (event.key !== 'Escape' || !list?.parentElement) return
      event.stopImmediatePropagation()
      const { key, code } = event
      const again = new KeyboardEvent('keydown', { key, code, bubbles: true, cancelable: true })
      if (!list.parentElement.dispatchEvent(again)) event.preventDefault()
    },
    { capture: true },
  )
}

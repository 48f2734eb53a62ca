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

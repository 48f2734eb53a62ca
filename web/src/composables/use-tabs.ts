/** Arrow keys, Home and End walk along a row of tabs, as ARIA's tab pattern has it; the tab that is reached opens. */
export function walkTabs(event: KeyboardEvent) {
  const row = event.currentTarget as HTMLElement
  const tabs = [...row.querySelectorAll<HTMLElement>('[role=tab]')]
  const at = tabs.findIndex((t) => t === document.activeElement)
  if (at < 0) return
  const to = {
    ArrowRight: (at + 1) % tabs.length,
    ArrowDown: (at + 1) % tabs.length,
    ArrowLeft: (at - 1 + tabs.length) % tabs.length,
    ArrowUp: (at - 1 + tabs.length) % tabs.length,
    Home: 0,
    End: tabs.length - 1,
  }[event.key]
  if (to === undefined) return
  event.preventDefault()
  tabs[to]!.focus()
  tabs[to]!.click()
}

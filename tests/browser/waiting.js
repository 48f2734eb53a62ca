// Before any script of a page: how many of its timers are about to act, so that tests wait for what a page still means
// to do instead of for a time. Timers of more than a second are for later, not for now.
;(() => {
  const { setTimeout, clearTimeout } = window
  const soon = new Set()
  window.setTimeout = (act, ms = 0, ...rest) => {
    const id = setTimeout(
      (...given) => {
        soon.delete(id)
        act(...given)
      },
      ms,
      ...rest,
    )
    if (!(ms > 1000)) soon.add(id)
    return id
  }
  window.clearTimeout = (id) => {
    soon.delete(id)
    clearTimeout(id)
  }
  window.timersSoon = () => soon.size
})()

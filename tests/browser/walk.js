// What a walk over the controls of a view needs: each that can be seen, and what a press where it is reaches.
window.walk = {
  pressed: [],
  /** Note what is pressed instead of letting it act, and list what can be pressed inside `root`. */
  start(root, known) {
    const found = 'button, a[href], summary, [role=tab], [role=option], .el-radio-button, .el-switch, .el-select__wrapper'
    this.all = [...document.querySelector(root).querySelectorAll(found)].filter(
      (c) => c.checkVisibility({ visibilityProperty: true }) && !c.disabled && !c.closest('[aria-disabled=true]'),
    )
    // what was walked over in another view is known by its words and its kind
    const fresh = new Set()
    this.all = this.all.filter((c) => {
      const name = `${c.className} ${this.words(c)}`
      return known.includes(name) ? false : fresh.add(name)
    })
    this.note = (e) => {
      this.pressed.push(e.target)
      e.preventDefault()
      e.stopImmediatePropagation()
    }
    window.addEventListener('click', this.note, true)
    return [...fresh]
  },
  words(c) {
    return (c.getAttribute('aria-label') ?? c.textContent.trim()).slice(0, 40)
  },
  end() {
    window.removeEventListener('click', this.note, true)
  },
  /** Where a control is once it is in view; nothing where it has gone. */
  at(k) {
    const c = this.all[k]
    if (!c.isConnected) return null
    c.scrollIntoView({ block: 'center', inline: 'nearest' })
    const r = c.getClientRects()[0]
    this.pressed = []
    return r && [r.x + r.width / 2, r.y + r.height / 2]
  },
  /** What came to it of presses made in turn, and whether keys come to it: it, or what is in it, takes focus. */
  told(k) {
    const c = this.all[k]
    const inIt = c.matches('button, a, summary') ? c : (c.querySelector('input') ?? c)
    inIt.focus()
    const walked = c.closest('[role=tablist], [role=radiogroup], [role=listbox]')
    const keys = document.activeElement === inIt && (inIt.tabIndex >= 0 || !!walked)
    // a label passes its press on to what it names
    const hits = this.pressed.filter((t) => c.contains(t)).length
    return [this.words(c) || c.className, hits, keys]
  },
}

// What is wrong with the layout as it stands in this window: [kind, words, where]. Words and controls that run over the
// edge of the window, that are cut by what holds them, or that lie on each other; what has ink or is dragged and is
// smaller than it can be used; words of a chart on other words of it.
const W = innerWidth, H = innerHeight, SLACK = 1.5
const LAYER = '.choices, .out, .keys, .said, .el-popper, .scale, .values, .prompt'
const said = e => (e.textContent || e.getAttribute('aria-label') || e.tagName).trim().replace(/\s+/g, ' ').slice(0, 36)
const shown = e => e.checkVisibility({ opacityProperty: true, visibilityProperty: true }) && !e.closest('.visually-hidden, [aria-hidden=true]')
// what opens over the desk, or stays in view while the rest scrolls under it
const layered = e => {
  for (let n = e; n; n = n.parentElement) if (n.matches(LAYER) || getComputedStyle(n).position === 'sticky') return n
}
// the least an area of ink, a chart and a slider's way are of use at, CSS px
const LEAST = [['canvas:not(.swatch)', 90, 60], ['svg[role=img]', 60, 40], ['.el-slider__runway', 64, 0]]
const scrolls = v => v === 'auto' || v === 'scroll'
const cuts = v => v === 'hidden' || v === 'clip'
const inSvg = e => e instanceof SVGElement

// the part of a box that its holders let be seen, and what a holder that does not scroll cuts off
function seen(e, box, own) {
  let { left, top, right, bottom } = box, cut = ''
  for (let n = own ? e : e.parentElement; n && n !== document.body; n = n.parentElement) {
    const style = getComputedStyle(n), r = n.getBoundingClientRect()
    if (style.position === 'fixed') break
    if (style.overflowX === 'visible' && style.overflowY === 'visible') continue
    const ellipsis = style.textOverflow === 'ellipsis' && (n.title || n.closest('[title]'))
    if (cuts(style.overflowX) && !ellipsis && (right > r.right + SLACK || left < r.left - SLACK)) cut = 'cut at the side'
    if (cuts(style.overflowY) && (bottom > r.bottom + 3 || top < r.top - 3)) cut = cut || 'cut above or below'
    left = Math.max(left, r.left); right = Math.min(right, r.right)
    top = Math.max(top, r.top); bottom = Math.min(bottom, r.bottom)
  }
  return { left, top, right, bottom, cut }
}

const found = [], boxes = []
if (document.scrollingElement.scrollWidth > W + 1) found.push(['the window scrolls sideways', `${document.scrollingElement.scrollWidth} px`, ''])
for (const e of document.querySelectorAll('body *')) {
  if (!shown(e)) continue
  const style = getComputedStyle(e)
  if (scrolls(style.overflowX) && e.scrollWidth > e.clientWidth + 1 && !e.matches('.roll, .scroll, textarea'))
    found.push(['scrolls sideways', `${e.scrollWidth} in ${e.clientWidth} px`, e.className])
  for (const [what, wide, high] of LEAST) {
    if (!e.matches(what)) continue
    const r = e.getBoundingClientRect()
    if (r.width && r.height && (r.width < wide || r.height < high))
      found.push(['too small to be used', `${Math.round(r.width)} x ${Math.round(r.height)} px`, String(e.className?.baseVal ?? e.className) + ' ' + (e.ariaLabel ?? '')])
  }
  if (e.matches('svg')) {
    const words = [...e.querySelectorAll('text')].filter(t => t.textContent.trim() && t.checkVisibility({ opacityProperty: true }))
    const at = words.map(t => t.getBoundingClientRect())
    for (let i = 0; i < at.length; i++) for (let k = i + 1; k < at.length; k++) {
      const wide = Math.min(at[i].right, at[k].right) - Math.max(at[i].left, at[k].left)
      const high = Math.min(at[i].bottom, at[k].bottom) - Math.max(at[i].top, at[k].top)
      if (wide > 3 && high > 6) found.push(['words of a chart on words', `${said(words[i])} | ${said(words[k])}`, `${Math.round(wide)} x ${Math.round(high)} px`])
    }
  }
  const control = e.matches('button, a, input, select, [role=slider], [role=tab]') && !inSvg(e)
  const rects = []
  for (const n of e.childNodes) {
    if (n.nodeType !== 3 || !n.textContent.trim()) continue
    const range = document.createRange()
    range.selectNodeContents(n)
    rects.push(...range.getClientRects())
  }
  const words = rects.length
  if (control) rects.push(e.getBoundingClientRect())
  for (const [k, r] of rects.entries()) {
    if (r.width < 2 || r.height < 2) continue
    const part = seen(e, r, k < words)
    if (part.right - part.left < 1 || part.bottom - part.top < 1) {
      if (part.cut && !inSvg(e)) found.push([part.cut, said(e), e.className])
      continue
    }
    if (part.cut && !inSvg(e)) found.push([part.cut, said(e), String(e.className)])
    if (part.left < -SLACK || part.right > W + SLACK) found.push(['runs over the edge', said(e), String(e.className)])
    if (part.top < H && part.bottom > 0) boxes.push({ e, control, layer: layered(e), ...part })
  }
}
for (let i = 0; i < boxes.length; i++) {
  for (let k = i + 1; k < boxes.length; k++) {
    const a = boxes[i], b = boxes[k]
    if (a.layer || b.layer || a.e === b.e || a.e.contains(b.e) || b.e.contains(a.e)) continue
    if (inSvg(a.e) || inSvg(b.e)) continue
    const wide = Math.min(a.right, b.right) - Math.max(a.left, b.left), high = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top)
    if (wide > 3 && high > 4) found.push(['lies on', `${said(a.e)} | ${said(b.e)}`, `${Math.round(wide)} x ${Math.round(high)} px`])
  }
}
return found.slice(0, 12)

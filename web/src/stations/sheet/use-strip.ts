import { nextTick, onScopeDispose, watch, type Ref } from 'vue'
import type { SheetItem } from '@/api/client'
import type { NewStroke } from '@/stores/ink'
import { useScreen } from '@/stores/screen'
import { useStrip } from '@/stores/strip'
import type { usePage } from './use-page'

const PAUSE_MS = 350 // after the pen lifted: within a word the window stays
const INDENT = 0.06 // of the window, that is seen before a line begins
const KEPT = 0.3 // of the window, that is still seen of what was written last
const RULED = ['ruled', 'squared', 'dotted', 'columns', 'isometric']
const USUAL_PITCH_MM = 7

/** The strip's window on the page: as near as it is set, and moved on between two strokes, never under the nib. */
export function useStripWindow(
  sheet: Ref<SheetItem | undefined>,
  frame: Ref<HTMLElement | null>,
  page: ReturnType<typeof usePage>,
  writing: Ref<boolean>,
) {
  const strip = useStrip()
  const screen = useScreen()
  let before = 1
  let timer = 0
  let endMm = 0
  onScopeDispose(() => {
    clearTimeout(timer)
    strip.on = false
  })

  const pitch = () => {
    const paper = sheet.value?.paper
    const own = paper && RULED.includes(paper.ruling ?? '') ? paper.spacing_mm! : USUAL_PITCH_MM
    return strip.pitchMm || own
  }
  function look() {
    const holder = frame.value
    const scale = page.cssScale.value
    if (!holder || !scale) return
    const [x, y] = [holder.scrollLeft / scale, holder.scrollTop / scale]
    strip.windowMm = [x, y, x + holder.clientWidth / scale, y + holder.clientHeight / scale]
  }
  function goTo(xMm: number, yMm: number) {
    const scale = page.cssScale.value
    frame.value?.scrollTo({ left: xMm * scale, top: yMm * scale, behavior: 'instant' })
    look()
  }
  /** As near as is set, with a place of the page in the window's upper left corner. */
  async function magnify(corner: [number, number]) {
    const zoom = (strip.times * screen.pxPerMm * page.zoom.value) / (page.cssScale.value || 1)
    await page.zoomTo(zoom)
    await nextTick()
    goTo(...corner)
  }
  watch(
    () => strip.on,
    async (on) => {
      if (on) {
        before = page.zoom.value
        const middle = page.middle()
        await nextTick() // the strip is laid out by then
        await magnify([strip.leftMm - INDENT * width(), Math.max(0, middle[1] - pitch())])
      } else await page.zoomTo(before)
    },
  )
  watch(
    () => strip.times,
    () => strip.on && void magnify([strip.windowMm[0], strip.windowMm[1]]),
  )
  watch([page.seen, () => page.cssScale.value], () => strip.on && look(), { flush: 'post' })
  watch(
    () => strip.goes,
    (to) => to && goTo(...to),
  )

  const width = () => strip.windowMm[2] - strip.windowMm[0]

  /** A stroke was written: once the pen pauses, the window moves on where it came near its end. */
  function lifted(stroke: NewStroke) {
    if (!strip.on) return
    strip.ids = [...strip.ids, stroke.id]
    endMm = Math.max(...stroke.x_mm)
    clearTimeout(timer)
    timer = window.setTimeout(moveOn, PAUSE_MS)
  }
  function moveOn() {
    if (!strip.on || !sheet.value) return
    if (writing.value) {
      timer = window.setTimeout(moveOn, PAUSE_MS)
      return
    }
    look()
    const [left, top, right] = strip.windowMm
    if (endMm < right - strip.before * width()) return
    const lineEnds = sheet.value.paper.width_mm! - strip.rightMm
    if (right < lineEnds - 0.5) return goTo(Math.max(left, endMm - KEPT * width()), top)
    nextLine()
  }
  function nextLine() {
    const top = strip.windowMm[1] + pitch()
    strip.full = top + pitch() > (sheet.value?.paper.height_mm ?? 0)
    if (!strip.full) goTo(Math.max(0, strip.leftMm - INDENT * width()), top)
  }
  return { lifted, nextLine }
}

import { useDevicePixelRatio, useElementSize, useEventListener, useLocalStorage } from '@vueuse/core'
import { computed, nextTick, ref, shallowRef, watch, type Ref } from 'vue'
import type { Box, SheetItem } from '@/api/client'
import { usePages } from '@/stores/pages'

const GUTTER = 2
const BEYOND_PX = 160 // of the page, drawn beside what is seen, so that a quick pan shows no bare edge
const TURNS = 0.9 // of a view, so that its last line is seen again
const WHEEL_PX = 400 // of the wheel, that make the page e times as large
const ROOM_MM = 20 // round what is gone to
const MOST_SHEETS = 200 // whose place is remembered
export const SMALLEST = 0.1
export const LARGEST = 32

/** The part of the page that is drawn, in its own pixels: device pixels from the page's corner. */
export interface Seen {
  left: number
  top: number
  width: number
  height: number
}
interface Left {
  zoom: number
  x: number
  y: number
}

/**
 * The page on the screen: how large it is, what part of it is seen, and where each sheet was left in this browser. Only
 * what is seen is drawn, so the page may be as large as it likes.
 */
export function usePage(sheet: Ref<SheetItem | undefined>, frame: Ref<HTMLElement | null>) {
  const { width, height } = useElementSize(frame)
  const { pixelRatio } = useDevicePixelRatio()
  const zoom = ref(1)
  const places = useLocalStorage<Record<string, Left>>('gray-quill-places', {})

  /** CSS pixels a millimetre: the width fills the frame at zoom 1. */
  const cssScale = computed(() => {
    const paper = sheet.value?.paper
    return paper && width.value ? ((width.value - GUTTER) / paper.width_mm) * zoom.value : 0
  })
  const wholeZoom = computed(() => {
    const paper = sheet.value?.paper
    return paper && width.value
      ? Math.min(1, ((height.value - GUTTER) / paper.height_mm) * (paper.width_mm / (width.value - GUTTER)))
      : 1
  })
  const scale = computed(() => cssScale.value * pixelRatio.value)
  const size = computed(() => ({
    width: Math.round((sheet.value?.paper.width_mm ?? 0) * scale.value),
    height: Math.round((sheet.value?.paper.height_mm ?? 0) * scale.value),
  }))
  const css = computed(() => ({
    width: `${(sheet.value?.paper.width_mm ?? 0) * cssScale.value}px`,
    height: `${(sheet.value?.paper.height_mm ?? 0) * cssScale.value}px`,
  }))

  const scrolled = shallowRef({ x: 0, y: 0 })
  const look = () => {
    const holder = frame.value
    if (holder) scrolled.value = { x: holder.scrollLeft, y: holder.scrollTop }
  }
  useEventListener(frame, 'scroll', look, { passive: true })
  watch([css, width, height], () => void nextTick(look))

  const seen = computed<Seen>((before) => {
    const ratio = pixelRatio.value
    const along = (from: number, across: number, whole: number): [number, number] => {
      const low = Math.max(0, Math.min(whole, Math.floor((from - BEYOND_PX) * ratio)))
      return [low, Math.max(0, Math.min(whole, Math.ceil((from + across + BEYOND_PX) * ratio)) - low)]
    }
    const [left, w] = along(scrolled.value.x, width.value, size.value.width)
    const [top, h] = along(scrolled.value.y, height.value, size.value.height)
    const same = before && before.left === left && before.top === top && before.width === w && before.height === h
    return same ? before : { left, top, width: w, height: h }
  })
  /** Where the drawn part lies on the page, CSS pixels. */
  const seenCss = computed(() => {
    const px = (v: number) => `${v / pixelRatio.value}px`
    const { left, top, width: w, height: h } = seen.value
    return { left: px(left), top: px(top), width: px(w), height: px(h) }
  })

  /** The place in the middle of the frame, mm. */
  const middle = (): [number, number] => {
    const holder = frame.value!
    return [
      (holder.scrollLeft + holder.clientWidth / 2) / cssScale.value,
      (holder.scrollTop + holder.clientHeight / 2) / cssScale.value,
    ]
  }
  /** Magnify to `z` with a place of the page staying in the middle, or where it is in the frame (CSS pixels). */
  async function zoomTo(z: number, mm = middle(), at?: [number, number]) {
    const holder = frame.value
    if (!holder) return
    zoom.value = Math.min(LARGEST, Math.max(SMALLEST, z))
    await nextTick()
    const [x, y] = at ?? [holder.clientWidth / 2, holder.clientHeight / 2]
    holder.scrollTo(mm[0] * cssScale.value - x, mm[1] * cssScale.value - y)
    look()
  }
  /** By one view on or back, at once; false where the page ends there. */
  function turn(axis: 'x' | 'y', on: boolean): boolean {
    const holder = frame.value
    if (!holder) return false
    const at = axis === 'x' ? holder.scrollLeft : holder.scrollTop
    const by = TURNS * (axis === 'x' ? holder.clientWidth : holder.clientHeight) * (on ? 1 : -1)
    holder.scrollBy({ left: axis === 'x' ? by : 0, top: axis === 'y' ? by : 0, behavior: 'instant' })
    look()
    return Math.abs((axis === 'x' ? holder.scrollLeft : holder.scrollTop) - at) >= 1
  }

  /** Show a box of the page, mm, as large as it fits. */
  async function showBox([left, top, right, bottom]: readonly [number, number, number, number]) {
    const holder = frame.value
    if (!holder || right - left < 0.5 || bottom - top < 0.5) return
    const times = Math.min(holder.clientWidth / (right - left), holder.clientHeight / (bottom - top)) / cssScale.value
    await zoomTo(zoom.value * times, [(left + right) / 2, (top + bottom) / 2])
  }

  useEventListener(
    frame,
    'wheel',
    (event: WheelEvent) => {
      const holder = frame.value
      if (!event.ctrlKey || !holder || !cssScale.value) return
      event.preventDefault()
      const place = holder.getBoundingClientRect()
      const at: [number, number] = [event.clientX - place.left, event.clientY - place.top]
      const mm: [number, number] = [
        (holder.scrollLeft + at[0]) / cssScale.value,
        (holder.scrollTop + at[1]) / cssScale.value,
      ]
      void zoomTo(zoom.value * Math.exp(-event.deltaY / WHEEL_PX), mm, at)
    },
    { passive: false },
  )

  // each page is met again where it was left; one that was turned to, as near as the one before, at its head or foot
  const pages = usePages()
  let shown = ''
  watch(
    [() => sheet.value?.id, () => cssScale.value > 0],
    async ([id, ready]) => {
      if (!id || !ready || id === shown) return
      shown = id
      const left = places.value[id]
      const by = pages.turned
      pages.turned = undefined
      if (by) {
        await nextTick()
        frame.value?.scrollTo(frame.value.scrollLeft, by === 'on' ? 0 : frame.value.scrollHeight)
        look()
      } else if (left) await zoomTo(left.zoom, [left.x, left.y])
      else {
        zoom.value = 1
        await nextTick()
        frame.value?.scrollTo(0, 0)
        look()
      }
    },
    { immediate: true },
  )
  watch(
    () => pages.wanted,
    async (to) => {
      if (!to || to.id !== sheet.value?.id) return
      await nextTick() // the page is met where it was left first
      await showBox(withRoom(to.box))
    },
    { flush: 'post' },
  )
  /** A box with some of the page round it. */
  const withRoom = ([left, top, right, bottom]: Box): Box => [
    left - ROOM_MM,
    top - ROOM_MM,
    right + ROOM_MM,
    bottom + ROOM_MM,
  ]

  let remembering = 0
  watch([scrolled, zoom], () => {
    clearTimeout(remembering)
    remembering = window.setTimeout(() => {
      const id = sheet.value?.id
      if (!id || id !== shown || !cssScale.value || !frame.value) return
      const [x, y] = middle()
      const kept = Object.entries(places.value)
        .filter(([other]) => other !== id)
        .slice(1 - MOST_SHEETS)
      places.value = { ...Object.fromEntries(kept), [id]: { zoom: zoom.value, x, y } }
    }, 400)
  })

  return { turn, middle, cssScale, scale, css, size, zoom, wholeZoom, seen, seenCss, zoomTo, showBox }
}

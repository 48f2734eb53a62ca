import { useElementSize, useEventListener } from '@vueuse/core'
import { computed, onScopeDispose, type Ref } from 'vue'
import { readEvent, type Sample } from '@/ink'
import { useScreenSettings } from '@/stores/screen-settings'
import { useScreen } from '@/stores/screen'

/** A stroke on the glass: mm on the screen from its window's upper left. */
export interface OnGlass {
  samples: readonly Sample[]
  pointerType: string
  cancelled: boolean
}

/**
 * A field to put a pen down on, told in mm on the glass. It shows a bare path, and reads the pen as it is reported,
 * whatever is corrected.
 */
export function useField(
  canvas: Ref<HTMLCanvasElement | null>,
  lifted: (stroke: OnGlass) => void,
  options: { corrects?: boolean } = {},
) {
  const screen = useScreen()
  const settings = useScreenSettings()
  const { width, height } = useElementSize(canvas)
  const size = computed(() => ({ width: Math.round(width.value), height: Math.round(height.value) }))
  let down: { id: number; startMs: number; samples: Sample[]; drawn: number } | undefined
  let frame = 0
  onScopeDispose(() => cancelAnimationFrame(frame))

  function take(event: PointerEvent) {
    if (!down || event.pointerId !== down.id) return
    const aimed = options.corrects && settings.aim ? settings.aimed : undefined
    const capture = { left: 0, top: 0, pxPerMm: screen.pxPerMm, startMs: down.startMs, aimed }
    down.samples.push(...readEvent(event, capture, down.samples.at(-1)?.tS ?? -1))
    frame ||= requestAnimationFrame(draw)
  }
  function draw() {
    frame = 0
    const context = canvas.value?.getContext('2d')
    const place = canvas.value?.getBoundingClientRect()
    if (!down || !context || !place) return
    context.strokeStyle = getComputedStyle(canvas.value!).color
    context.lineWidth = 1.2
    context.beginPath()
    for (const s of down.samples.slice(Math.max(0, down.drawn - 1)))
      context.lineTo(s.x * screen.pxPerMm - place.left, s.y * screen.pxPerMm - place.top)
    context.stroke()
    down.drawn = down.samples.length
  }
  function clear() {
    canvas.value?.getContext('2d')?.clearRect(0, 0, canvas.value.width, canvas.value.height)
  }

  useEventListener(canvas, 'pointerdown', (event: PointerEvent) => {
    if (event.pointerType === 'touch' || (event.pointerType === 'mouse' && event.button)) return
    canvas.value?.setPointerCapture(event.pointerId)
    down = { id: event.pointerId, startMs: event.timeStamp, samples: [], drawn: 0 }
    take(event)
  })
  useEventListener(canvas, 'pointermove', take)
  useEventListener(canvas, 'pointerrawupdate', (event) => take(event as PointerEvent))
  useEventListener(canvas, ['pointerup', 'pointercancel'], (event: PointerEvent) => {
    if (!down || event.pointerId !== down.id) return
    draw()
    const { samples } = down
    down = undefined
    if (samples.length) lifted({ samples, pointerType: event.pointerType, cancelled: event.type === 'pointercancel' })
  })
  useEventListener(canvas, 'contextmenu', (event: Event) => event.preventDefault())

  /** Where a place in the field, px from its upper left, is on the glass. */
  function onGlass(x: number, y: number): [number, number] {
    const place = canvas.value!.getBoundingClientRect()
    return [(place.left + x) / screen.pxPerMm, (place.top + y) / screen.pxPerMm]
  }
  return { size, clear, onGlass }
}

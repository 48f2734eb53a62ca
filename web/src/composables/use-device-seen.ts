import { useEventListener } from '@vueuse/core'
import { ref, type Ref } from 'vue'
import type { Schemas } from '@/api/client'
import { columnsOf, type Sample } from '@/ink'

type Strokes = Schemas['StrokeColumns'][]

/**
 * What this browser tells of the device in front of the user beside positions: hover, contact size, raw updates,
 * several reports an event.
 */
export function useDeviceSeen(canvas: Ref<HTMLCanvasElement | null>) {
  const hover = ref<boolean | null>(null)
  const contactSize = ref<boolean | null>(null)
  const strokes: Strokes = []
  const raw = { updates: 0, events: 0, delays: [] as number[] }

  useEventListener(canvas, ['pointermove', 'pointerenter'], (event: PointerEvent) => {
    if (event.pointerType === 'pen' && event.buttons === 0) hover.value = true
  })
  useEventListener(canvas, 'pointerdown', (event: PointerEvent) => {
    if (event.pointerType === 'pen') hover.value ??= false
    if (event.pointerType === 'touch') contactSize.value = contactSize.value || event.width > 1 || event.height > 1
  })
  // raw updates come to secure pages only, between the moves that are handed over once a frame
  useEventListener(canvas, 'pointerrawupdate', (event: Event) => {
    raw.updates += 1
    raw.delays.push(performance.now() - event.timeStamp)
  })
  useEventListener(canvas, 'pointermove', (event: PointerEvent) => {
    if (!event.buttons) return
    raw.events += 1
  })

  function add(samples: readonly Sample[], pointerType: string) {
    if (!samples.length) return
    strokes.push({ begun_ms: null, ...columnsOf(samples, pointerType) })
    if (strokes.length > 200) strokes.shift()
  }

  /** In plain words, what this browser leaves out. */
  function words(): string[] {
    const out = []
    if (!('onpointerrawupdate' in window)) out.push('This browser gives no raw updates: positions come once a frame.')
    else if (raw.events && !raw.updates) out.push('No raw updates came.')
    if (!('getCoalescedEvents' in PointerEvent.prototype))
      out.push('This browser joins reports: only one a frame is seen.')
    return out
  }

  function clear() {
    strokes.length = 0
    raw.updates = raw.events = raw.delays.length = 0
    hover.value = contactSize.value = null
  }
  return { strokes, hover, contactSize, raw, add, words, clear }
}

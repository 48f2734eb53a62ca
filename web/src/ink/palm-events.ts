import type { Schemas } from '@/api/client'
import type { PalmEvent } from '@/ink'

/** A browser's pointer event as reports of the contact stream, in true mm of the screen; none for a mouse. */
export function palmEvent(event: PointerEvent, pxPerMm: number): PalmEvent[] {
  if (event.pointerType !== 'pen' && event.pointerType !== 'touch') return []
  const pen = event.pointerType === 'pen'
  const phase = phaseOf(event, pen)
  if (!phase) return []
  // a browser that knows no size reports 1 px
  const size = (px: number) => (!pen && (event.width > 1 || event.height > 1) ? px / pxPerMm : 0)
  return [
    {
      tMs: event.timeStamp,
      pointer: pen ? 'pen' : 'touch',
      id: pen ? 0 : event.pointerId,
      phase,
      x: event.clientX / pxPerMm,
      y: event.clientY / pxPerMm,
      width: size(event.width),
      height: size(event.height),
    },
  ]
}

function phaseOf(event: PointerEvent, pen: boolean): PalmEvent['phase'] | undefined {
  switch (event.type) {
    case 'pointerdown':
      return 'down'
    case 'pointermove':
      return pen && !event.buttons ? 'hover' : 'move'
    case 'pointerup':
      return 'up'
    case 'pointercancel':
      return 'cancel'
    case 'pointerleave':
      return pen ? 'out' : undefined
    default:
      return undefined
  }
}

/** Reports on a screen of this size, mm, as the server takes them: column by column. */
export function streamOf(events: readonly PalmEvent[], screenMm: readonly [number, number]): Schemas['StreamBody'] {
  const column = <K extends keyof PalmEvent>(k: K) => events.map((e) => e[k])
  return {
    screen_mm: [...screenMm],
    t_ms: column('tMs'),
    pointer: column('pointer'),
    id: column('id'),
    phase: column('phase'),
    x_mm: column('x'),
    y_mm: column('y'),
    width_mm: column('width'),
    height_mm: column('height'),
    force: events.map(() => 0),
  }
}

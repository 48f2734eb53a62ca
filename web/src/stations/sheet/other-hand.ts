import { useEventListener } from '@vueuse/core'

const FINGERTIP_MM = 11 // palms that touch lightly are larger, or lie where the hand rests
const LONGEST_TAP_MS = 600
const PRESSABLE = '.roll, .verbs, .steps'

interface Glass {
  pxPerMm: () => number
  nibIsNear: (nowMs: number) => boolean
  /** Whether a place on the glass, mm, lies where the writing hand rests. */
  restsAt: (x: number, y: number) => boolean
}

/**
 * A palm beside the page must not press what lies there: while the nib is near, touches press nothing, but for
 * deliberate ones of the other hand on the roll and its verbs: a fingertip, alone, short, away from the resting hand.
 */
export function useOtherHand({ pxPerMm, nibIsNear, restsAt }: Glass) {
  let landed: { id: number; x: number; y: number; sizeMm: number; ms: number; alone: boolean } | undefined
  const onGlass = new Set<number>()

  function watch(event: PointerEvent) {
    if (event.pointerType !== 'touch') return
    const { pointerId: id, timeStamp: ms } = event
    if (event.type === 'pointerdown') {
      onGlass.add(id)
      const sizeMm = Math.max(event.width, event.height) / pxPerMm()
      landed = { id, x: event.clientX / pxPerMm(), y: event.clientY / pxPerMm(), sizeMm, ms, alone: onGlass.size === 1 }
      return
    }
    onGlass.delete(id)
    if (landed?.id === id && ms - landed.ms > LONGEST_TAP_MS) landed = undefined
  }
  const deliberate = () => !!landed?.alone && landed.sizeMm <= FINGERTIP_MM && !restsAt(landed.x, landed.y)

  function press(event: MouseEvent) {
    if ((event as PointerEvent).pointerType !== 'touch' || !nibIsNear(event.timeStamp)) return
    if (event.target instanceof Element && event.target.closest(PRESSABLE) && deliberate()) return
    event.preventDefault()
    event.stopPropagation()
  }
  useEventListener(document, ['pointerdown', 'pointerup', 'pointercancel'], watch, { capture: true })
  useEventListener(document, 'click', press, { capture: true })
}

import { StorageSerializers, useLocalStorage, usePreferredReducedMotion } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed } from 'vue'
import { corrected, type Correction } from '@/ink'
import { useScreen } from './screen'

/** After how many seconds' pause of the pen the settled picture comes. */
export const SETTLES = { 'at once': 0, 'after 1 s': 1, 'after 2 s': 2, 'after 5 s': 5 } as const

/** How this screen writes, kept in this browser: what a slow panel needs is no use to a quick one. */
export const useScreenSettings = defineStore('here', () => {
  /** Ink is laid in black alone, with hard edges, until it settles. */
  const plain = useLocalStorage('gray-quill-plain', false)
  const settles = useLocalStorage<keyof typeof SETTLES>('gray-quill-settles', 'at once')
  const settleMs = computed(() => 1000 * (SETTLES[settles.value] ?? 0))
  /** The page moves by whole views. */
  const turns = useLocalStorage('gray-quill-turns', false)
  /** The system itself carries the line on to the nib, where the browser lets it. */
  /** What is taken from the reported place of a pen, as its check on crosses has found. */
  const aim = useLocalStorage<Correction | null>('gray-quill-aim', null, { serializer: StorageSerializers.object })
  const deviceId = useLocalStorage('gray-quill-device', '')
  const screen = useScreen()
  /** Where a pen's nib is, in CSS pixels of the window. */
  function aimed(event: PointerEvent): [number, number] {
    if (!aim.value || event.pointerType !== 'pen') return [event.clientX, event.clientY]
    const px = screen.pxPerMm
    const at = corrected(
      aim.value,
      event.clientX / px,
      event.clientY / px,
      event.altitudeAngle ?? Math.PI / 2,
      event.azimuthAngle ?? 0,
    )
    return [at[0] * px, at[1] * px]
  }
  const carries = useLocalStorage('gray-quill-carries', false)
  const canCarry = 'ink' in navigator
  const motion = usePreferredReducedMotion()
  const still = computed(() => motion.value === 'reduce' || document.documentElement.dataset.surface === 'e-ink')
  const slow = computed(() => plain.value && turns.value && settleMs.value > 0)
  /** All that a slow panel wants, or none of it. */
  function beSlow(on: boolean) {
    plain.value = turns.value = on
    settles.value = on ? 'after 2 s' : 'at once'
  }
  return { aim, aimed, deviceId, plain, settles, settleMs, turns, carries, canCarry, still, slow, beSlow }
})

import { ref, watch } from 'vue'
import { useFrame } from '@/stores/frame'

const PAUSE_MS = 1200

/** What may come to lie under the nib comes in a pause of writing: when it was off the page for a moment. */
export function useInAPause(wanted: () => boolean) {
  const frame = useFrame()
  const shown = ref(false)
  let liftedMs = -Infinity
  let timer: ReturnType<typeof setTimeout> | undefined
  watch(
    [wanted, () => frame.nibDown],
    ([wants, down], [, wasDown]) => {
      clearTimeout(timer)
      if (wasDown && !down) liftedMs = performance.now()
      if (!wants) shown.value = false
      else if (!down && !shown.value) {
        const left = liftedMs + PAUSE_MS - performance.now()
        if (left <= 0) shown.value = true
        else timer = setTimeout(() => (shown.value = true), left)
      }
    },
    { immediate: true },
  )
  return shown
}

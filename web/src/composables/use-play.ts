import { useMediaQuery, useRafFn } from '@vueuse/core'
import { ref, type Ref } from 'vue'

const STEP_MS = 1000

/**
 * A time that runs while it is played, from 0 to `lasts`, in ms; `slowed` times slower than it was. Steps once a second
 * where motion is unwanted and on e-ink.
 */
export function usePlay(tMs: Ref<number | null>, lasts: Ref<number>, slowed?: Ref<number>) {
  const still = useMediaQuery('(prefers-reduced-motion: reduce)')
  const steps = () => still.value || document.documentElement.dataset.surface === 'e-ink'
  const playing = ref(false)
  let waited = 0
  const { pause, resume } = useRafFn(
    ({ delta }) => {
      waited += delta
      if (steps() && waited < STEP_MS) return
      tMs.value = Math.min(lasts.value, (tMs.value ?? 0) + waited / (slowed?.value ?? 1))
      waited = 0
      if (tMs.value >= lasts.value) stop()
    },
    { immediate: false },
  )
  function stop() {
    playing.value = false
    pause()
  }
  function play() {
    if (playing.value) return stop()
    if (tMs.value === null || tMs.value >= lasts.value) tMs.value = 0
    waited = 0
    playing.value = true
    resume()
  }
  function goTo(at: number | null) {
    stop()
    tMs.value = at
  }
  return { playing, play, stop, goTo }
}

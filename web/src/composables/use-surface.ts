import { useMediaQuery } from '@vueuse/core'
import { computed, watchEffect } from 'vue'
import { useDesk } from '@/stores/desk'

/** Which surface is shown: the one chosen, or the one the screen asks for. Sets it on the document. */
export function useSurface() {
  const desk = useDesk()
  const slow = useMediaQuery('(update: slow)')
  const mono = useMediaQuery('(monochrome)')
  const contrast = useMediaQuery('(prefers-contrast: more)')
  const dark = useMediaQuery('(prefers-color-scheme: dark)')
  const surface = computed(() => {
    const chosen = desk.desk?.surface ?? 'auto'
    if (chosen !== 'auto') return chosen
    if (slow.value || mono.value || contrast.value) return 'e-ink'
    return dark.value ? 'night' : 'paper'
  })
  watchEffect(() => {
    document.documentElement.dataset.surface = surface.value
  })
  return surface
}

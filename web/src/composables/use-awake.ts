import { useWakeLock } from '@vueuse/core'
import { onScopeDispose, watch, type Ref } from 'vue'
import { useFrame } from '@/stores/frame'

const LEAST_MS = 90_000 // after the last stroke a writer may think

/** The screen stays awake while somebody writes, where the browser can do that and the writer wants it. */
export function useAwake(writing: Ref<boolean>) {
  const frame = useFrame()
  const lock = useWakeLock()
  let timer = 0
  const release = () => lock.isActive.value && void lock.release().catch(() => undefined)

  watch([writing, () => frame.awake], ([now, wanted]) => {
    clearTimeout(timer)
    if (!wanted || !lock.isSupported.value) return release()
    // asked for between strokes, never under the nib
    if (!now) {
      if (!lock.isActive.value) void lock.request('screen').catch(() => undefined)
      timer = window.setTimeout(release, LEAST_MS)
    }
  })
  onScopeDispose(() => {
    clearTimeout(timer)
    release()
  })
}

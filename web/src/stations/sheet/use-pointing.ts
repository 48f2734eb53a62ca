import { onScopeDispose, type Ref } from 'vue'
import { FadingInk, type Sample } from '@/ink'
import { useScreenSettings } from '@/stores/screen-settings'
import { usePointer } from '@/stores/pointer'
import { useMirrorShow } from '@/stores/mirror'
import type { usePage } from './use-page'

/** The pointer's fading ink on the page, and for those who look on. */
export function usePointing(canvas: Ref<HTMLCanvasElement | null>, page: ReturnType<typeof usePage>) {
  const pointer = usePointer()
  const settings = useScreenSettings()
  const mirror = useMirrorShow()
  const fading = new FadingInk(look())
  let told = 0
  let frame = 0
  onScopeDispose(() => cancelAnimationFrame(frame))

  function look() {
    const { dot, colour, sizeMm, fadesS } = pointer
    return { dot, colour, sizeMm, fadesS, still: settings.still }
  }

  /** All reports of the way so far. */
  function going(samples: readonly Sample[]) {
    if (samples.length < told) told = 0
    const at = samples.slice(told).map((s): [number, number] => [s.x, s.y])
    if (!at.length) return
    fading.look = look()
    fading.point(at, told === 0, performance.now())
    told = samples.length
    tell(at, true)
    frame ||= requestAnimationFrame(draw)
  }
  function ended() {
    told = 0
    tell([], false)
  }
  function tell(at: [number, number][], down: boolean) {
    const { dot, colour, sizeMm, fadesS } = pointer
    mirror.point(at, down, { dot, colour, size_mm: sizeMm, fades_s: fadesS })
  }
  function draw(now: number) {
    frame = 0
    const context = canvas.value?.getContext('2d')
    const { left, top } = page.seen.value
    if (context && fading.draw(context, page.scale.value, left, top, now)) frame = requestAnimationFrame(draw)
  }
  return { going, ended }
}

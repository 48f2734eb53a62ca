import { onScopeDispose, watch } from 'vue'
import type { PenPlan, Sample } from '@/ink'
import { WritingSound } from '@/lib/writing-sound'
import { useFrame } from '@/stores/frame'

const OVER_S = 0.03 // of the way, that its speed is taken from

/** The sound of writing, where it is wished: it goes with the nib and ends with it. */
export function useSound() {
  const frame = useFrame()
  let sound: WritingSound | undefined
  function goes(samples: readonly Sample[], plan: PenPlan) {
    if (frame.sound === 'off') return
    const last = samples.at(-1)
    const first = samples.findLast((s) => last!.tS - s.tS >= OVER_S) ?? samples[0]
    if (!last || !first || last.tS <= first.tS) return
    const speed = Math.hypot(last.x - first.x, last.y - first.y) / (last.tS - first.tS)
    sound ??= new WritingSound()
    sound.goes(frame.sound, frame.volume / 100, speed, last.force, plan.grain ? 1 : 0)
  }
  const stops = () => sound?.stops()
  function close() {
    sound?.close()
    sound = undefined
  }
  watch(
    () => frame.sound,
    (now) => now === 'off' && close(),
  )
  onScopeDispose(close)
  return { goes, stops }
}

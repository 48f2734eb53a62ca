import { useEventListener } from '@vueuse/core'
import { useChosen } from '@/stores/chosen'
import { useDesk } from '@/stores/desk'
import { useInk } from '@/stores/ink'
import { usePrints } from '@/stores/prints'
import { useReplay } from '@/stores/replay'
import { useStrip } from '@/stores/strip'
import { useVerb, type Verb } from '@/stores/verb'

/** Keys that say what the pen does: pressed they stay, held while it does it they end as they are let go. */
const VERB_KEYS: Record<string, Verb> = { w: 'write', r: 'rub', c: 'choose', u: 'rule', e: 'read', p: 'point' }
const CLOSER = 1.4

/** The sheet's keys, as KeyList tells them, and the two steps its margin has buttons for. */
export function useSheetKeys(closer: (times: number) => void) {
  const desk = useDesk()
  const chosen = useChosen()
  const ink = useInk()
  const verb = useVerb()
  const prints = usePrints()
  const replay = useReplay()
  const strip = useStrip()
  const undo = () => desk.sheet && desk.attempt(() => ink.undo(desk.sheet!.id))
  const redo = () => desk.sheet && desk.attempt(() => ink.redo(desk.sheet!.id))
  async function cut() {
    await chosen.takeAlong()
    await chosen.remove()
  }

  /** What a key with Ctrl does now; nothing where it is the browser's. */
  function deedOf(key: string, shift: boolean): (() => unknown) | undefined {
    if (key === 'z') return shift ? redo : undo
    if (shift) return undefined
    if (key === 'a' && chosen.choosing) return () => desk.attempt(() => chosen.like(true))
    if (key === 'v' && chosen.bundle) return () => desk.attempt(chosen.putDown)
    if (key === 'c' && chosen.ids.length) return () => desk.attempt(chosen.takeAlong)
    if (key === 'x' && chosen.ids.length) return () => desk.attempt(cut)
    return undefined
  }

  useEventListener('keyup', (event: KeyboardEvent) => VERB_KEYS[event.key.toLowerCase()] && verb.letGo())
  useEventListener('keydown', (event: KeyboardEvent) => {
    if (event.target instanceof HTMLElement && event.target.closest('input, textarea')) return
    const key = event.key.toLowerCase()
    if (event.ctrlKey || event.metaKey) {
      const deed = deedOf(key, event.shiftKey)
      if (!deed) return
      event.preventDefault()
      return void deed()
    }
    if (event.key === 'Escape' && !event.defaultPrevented) {
      if (replay.on || strip.on) event.preventDefault()
      if (replay.on) return replay.close()
      if (strip.on) return void (strip.on = false)
      verb.now = 'write'
      prints.moving = undefined
    }
    if (event.key === 'Delete' && chosen.any) void desk.attempt(() => chosen.remove())
    if (key === '+' || key === '=') closer(CLOSER)
    if (key === '-') closer(1 / CLOSER)
    if (VERB_KEYS[key] && !event.repeat && !event.altKey) verb.press(VERB_KEYS[key])
  })
  return { undo, redo }
}

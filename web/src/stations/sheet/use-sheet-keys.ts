import { useEventListener } from '@vueuse/core'
import { useClipboard } from '@/stores/clipboard'
import { useSelection } from '@/stores/selection'
import { useDesk } from '@/stores/desk'
import { useInk } from '@/stores/ink'
import { useUnderlay } from '@/stores/underlay'
import { useReplay } from '@/stores/replay'
import { useStrip } from '@/stores/strip'
import { useTool, type PenTool } from '@/stores/tool'

/** Keys that say what the pen does: pressed they stay, held while it does it they end as they are let go. */
const VERB_KEYS: Record<string, PenTool> = { w: 'write', r: 'rub', c: 'choose', u: 'rule', e: 'read', p: 'point' }
const CLOSER = 1.4

/** The sheet's keys, as KeyList tells them, and the two steps its margin has buttons for. */
export function useSheetKeys(closer: (times: number) => void) {
  const desk = useDesk()
  const selection = useSelection()
  const clipboard = useClipboard()
  const ink = useInk()
  const tool = useTool()
  const underlay = useUnderlay()
  const replay = useReplay()
  const strip = useStrip()
  const undo = () => desk.sheet && desk.attempt(() => ink.undo(desk.sheet!.id))
  const redo = () => desk.sheet && desk.attempt(() => ink.redo(desk.sheet!.id))
  async function cut() {
    await clipboard.takeAlong()
    await selection.remove()
  }

  /** What a key with Ctrl does now; nothing where it is the browser's. */
  function commandOf(key: string, shift: boolean): (() => unknown) | undefined {
    if (key === 'z') return shift ? redo : undo
    if (shift) return undefined
    if (key === 'a' && selection.choosing) return () => desk.attempt(() => selection.like(true))
    if (key === 'v' && clipboard.bundle) return () => desk.attempt(clipboard.putDown)
    if (key === 'c' && selection.ids.length) return () => desk.attempt(clipboard.takeAlong)
    if (key === 'x' && selection.ids.length) return () => desk.attempt(cut)
    return undefined
  }

  useEventListener('keyup', (event: KeyboardEvent) => VERB_KEYS[event.key.toLowerCase()] && tool.letGo())
  useEventListener('keydown', (event: KeyboardEvent) => {
    if (event.target instanceof HTMLElement && event.target.closest('input, textarea')) return
    const key = event.key.toLowerCase()
    if (event.ctrlKey || event.metaKey) {
      const command = commandOf(key, event.shiftKey)
      if (!command) return
      event.preventDefault()
      return void command()
    }
    if (event.key === 'Escape' && !event.defaultPrevented) {
      if (replay.on || strip.on) event.preventDefault()
      if (replay.on) return replay.close()
      if (strip.on) return void (strip.on = false)
      tool.now = 'write'
      underlay.moving = undefined
    }
    if (event.key === 'Delete' && selection.any) void desk.attempt(() => selection.remove())
    if (key === '+' || key === '=') closer(CLOSER)
    if (key === '-') closer(1 / CLOSER)
    if (VERB_KEYS[key] && !event.repeat && !event.altKey) tool.press(VERB_KEYS[key])
  })
  return { undo, redo }
}

import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { useSelection } from './selection'
import { useDesk } from './desk'
import { useFrame } from './frame'
import { useInk } from './ink'
import { usePages } from './pages'
import { usePalm } from './palm'
import { useTool } from './tool'

export type Side = 'left' | 'right' | 'up' | 'down'
/** What a button of the pen, a tap or swipe of fingers or a key can be set to do. */
export const GESTURE_ACTIONS = {
  nothing: 'nothing',
  undo: 'undo',
  redo: 'redo',
  pen: 'the last pen',
  rub: 'rub out',
  choose: 'choose',
  lock: 'lock the page, or let it move',
  roll: 'fold the roll, or open it',
  full: 'fill the screen, or not',
  like: 'choose all like these',
  next: 'the next page',
  before: 'the page before',
} as const
export type GestureAction = keyof typeof GESTURE_ACTIONS
/** What can be set. All but the eraser's end do nothing until they are set. */
export const TRIGGERS = {
  eraser: 'the eraser end of the pen',
  barrel: 'the barrel button of the pen',
  one: 'a tap of one finger',
  two: 'a tap of two fingers',
  three: 'a tap of three fingers',
  four: 'a tap of four fingers',
} as const
const FINGERS = ['one', 'two', 'three', 'four'] as const
const SIDES: readonly Side[] = ['left', 'right', 'up', 'down']
/** Swipes that can be set, by how many fingers go where. */
export const SWIPES = FINGERS.flatMap((fingers) =>
  SIDES.map((side) => {
    const where = side === 'up' || side === 'down' ? side : `to the ${side}`
    return {
      trigger: `${fingers} ${side}` as const,
      words: `${fingers} finger${fingers === 'one' ? '' : 's'} ${where}`,
    }
  }),
)
export type Trigger = keyof typeof TRIGGERS | (typeof SWIPES)[number]['trigger']
/** Those that happen while the pen goes, and so can say what its way does. */
export const HELD: readonly Trigger[] = ['eraser', 'barrel']

export const useGestureActions = defineStore('gesture-actions', () => {
  const desk = useDesk()
  const ink = useInk()
  const tool = useTool()
  const frame = useFrame()
  const palm = usePalm()
  const selection = useSelection()
  const pages = usePages()
  const set = useLocalStorage<Partial<Record<Trigger, GestureAction>>>('gray-quill-deeds', { eraser: 'rub' })
  const actionOf = (trigger: Trigger): GestureAction => set.value[trigger] ?? 'nothing'
  /** Own keys, each a single letter or sign, by what they do. */
  const keys = useLocalStorage<Partial<Record<GestureAction, string>>>('gray-quill-deed-keys', {})

  function perform(action: GestureAction | undefined) {
    const sheet = desk.sheet?.id
    switch (action) {
      case 'undo':
        return void (sheet && desk.attempt(() => ink.undo(sheet)))
      case 'redo':
        return void (sheet && desk.attempt(() => ink.redo(sheet)))
      case 'pen':
        return void (desk.penBefore && desk.takePen(desk.penBefore))
      case 'rub':
      case 'choose':
        return tool.press(tool.now === action ? 'write' : action)
      case 'lock':
        palm.pageLock = !palm.pageLock
        return
      case 'roll':
        frame.folded = !frame.folded
        return
      case 'full':
        return void (document.fullscreenElement
          ? document.exitFullscreen()
          : document.documentElement.requestFullscreen())
      case 'like':
        return void (selection.ids.length && desk.attempt(() => selection.like(false)))
      case 'next':
      case 'before':
        return void pages.go(action === 'next')
      default:
    }
  }
  /** What a tap of so many fingers does, or their swipe to a side. */
  function of(count: number, side?: Side): GestureAction {
    const fingers = FINGERS[count - 1]
    return fingers ? actionOf(side ? `${fingers} ${side}` : fingers) : 'nothing'
  }
  const byKey = (key: string) =>
    perform((Object.keys(keys.value) as GestureAction[]).find((action) => keys.value[action] === key && key !== ''))

  return { set, actionOf, keys, perform, of, byKey }
})

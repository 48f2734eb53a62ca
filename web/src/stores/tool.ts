import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { PenItem, Schemas } from '@/api/client'

/** What the pen does on the sheet. */
export const PEN_TOOLS = {
  write: 'write',
  rub: 'rub',
  choose: 'choose',
  rule: 'rule',
  read: 'read',
  point: 'point',
} as const
export type PenTool = keyof typeof PEN_TOOLS
/** Sizes of an eraser that are one press away, mm across. */
/** What an eraser may touch. */
export const KINDS = ['ink', 'washes', 'figures', 'fills'] as const
export type Kind = (typeof KINDS)[number]
export type Eraser = Required<Schemas['Eraser']>
export const ERASERS_MM = [1.5, 4, 10] as const

export const useTool = defineStore('tool', () => {
  const now = ref<PenTool>('write')
  /** Widths, colours and opacities of the pen stand in the margin. */
  const setsPen = useLocalStorage('gray-quill-write-sets-pen', false)
  /** The next way goes round what is wanted nearer. */
  const boxing = ref(false)
  let before: PenTool = 'write'
  let used = false
  /** Across, mm: on the page, or as it is seen on the screen. */
  const eraserMm = useLocalStorage('gray-quill-eraser-mm', 4)
  const asSeen = useLocalStorage('gray-quill-eraser-as-seen', false)
  const takes = useLocalStorage<'rubbed' | 'strokes' | 'ringed'>('gray-quill-eraser-takes', 'rubbed')
  const touches = useLocalStorage<Kind[]>('gray-quill-eraser-touches-kinds', [...KINDS])
  /** Ink of all layers, or of the one that is written on. */
  const layers = useLocalStorage<'all' | 'this'>('gray-quill-eraser-layers', 'all')
  const lockedToo = useLocalStorage('gray-quill-locked-too', false)
  /** A way that chooses is drawn as a box, from one of its corners to the other. */
  const boxes = useLocalStorage('gray-quill-chooses-by-box', false)
  /** A ring chooses words it mostly holds, what it touches, what lies wholly inside, or what its edge cuts off. */
  const chooses = useLocalStorage<'held' | 'touched' | 'inside' | 'cut'>('gray-quill-ring-takes', 'held')
  const words = useLocalStorage('gray-quill-chooses-words', false)
  /** Pens of which a stroke held still at its end becomes the clean figure it means, or does not: all do at first. */
  const tidying = useLocalStorage<Record<string, boolean>>('gray-quill-write-tidies-with', {})
  const tidies = (pen?: PenItem) => !!pen && (tidying.value[pen.id] ?? !pen.recipe.wash?.hold_straight)
  /** It happened once, and was told how to have it off. */
  const tidied = useLocalStorage('gray-quill-write-tidied', false)
  /** A ring held still at its end chooses what it holds. */
  const rings = useLocalStorage('gray-quill-write-rings', false)
  /** The pen is as broad on the screen however near the page is: for corrections. */
  const widthAsSeen = useLocalStorage('gray-quill-width-as-seen', false)
  /** A scribble over ink rubs it out, itself with it. */
  const scribbles = useLocalStorage('gray-quill-write-scribbles', false)
  /** What became of the last stroke, where it did not simply become ink. */
  const said = ref('')
  /** One rub, and the pen writes again. */
  const once = useLocalStorage('gray-quill-eraser-once', false)

  /** The eraser as it is set, to be kept, and one that was. */
  const eraser = computed<Eraser>(() => ({
    takes: takes.value,
    of: KINDS.filter((kind) => touches.value.includes(kind)),
    layers: layers.value,
    locked_too: lockedToo.value,
    size_mm: eraserMm.value,
    as_seen: asSeen.value,
  }))
  function takeEraser(kept: Schemas['Eraser']) {
    takes.value = kept.takes ?? 'rubbed'
    touches.value = [...(kept.of ?? KINDS)]
    layers.value = kept.layers ?? 'all'
    lockedToo.value = !!kept.locked_too
    eraserMm.value = kept.size_mm
    asSeen.value = !!kept.as_seen
    if (now.value !== 'rub') press('rub')
  }
  const isEraser = (kept: Schemas['Eraser']) =>
    now.value === 'rub' &&
    (Object.keys(eraser.value) as (keyof Eraser)[]).every(
      (key) => JSON.stringify(kept[key]) === JSON.stringify(eraser.value[key]),
    )

  /** A tool is taken: it lasts. Held down while the pen does it, it ends as it is let go. */
  function press(taken: PenTool) {
    if (now.value !== taken) before = now.value
    else if (taken === 'write') setsPen.value = !setsPen.value
    now.value = taken
    used = false
  }
  function letGo() {
    if (used) now.value = before
    used = false
  }
  /** The pen did what the tool is for. */
  function did(taken: PenTool) {
    used = true
    if (taken === 'rub' && once.value && now.value === 'rub') now.value = 'write'
  }

  return {
    widthAsSeen,
    scribbles,
    said,
    tidying,
    tidies,
    tidied,
    rings,
    boxing,
    layers,
    lockedToo,
    boxes,
    chooses,
    words,
    now,
    setsPen,
    eraserMm,
    asSeen,
    takes,
    touches,
    eraser,
    takeEraser,
    isEraser,
    once,
    press,
    letGo,
    did,
  }
})

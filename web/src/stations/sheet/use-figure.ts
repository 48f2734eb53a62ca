import { nextTick, onScopeDispose, ref } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { applied, HERE, sized, type Place, type Placement } from '@/lib/placement'
import { useSelection } from '@/stores/selection'
import { useDesk } from '@/stores/desk'
import { useInk, type NewStroke } from '@/stores/ink'
import { useTool } from '@/stores/tool'
import type { Sample } from '@/ink'

const HOLD_MS = 500 // a rest at the end this long, inside a circle this large, asks for what the stroke means
const HOLD_MM = 0.8
const LEAST_MM = 6
const MOST_OF_WAY = 500
const SIZES_MM = 2 // the nib goes so far from where it rested before it sizes and turns
const [LEAST_SIZE, MOST_SIZE] = [0.2, 5]
const OPEN_SHARE = 0.2 // a way whose ends lie nearer than this share of its length is a ring

/**
 * A stroke held still at its end: what it means is shown while the pen is down, and comes true when it lifts then. A
 * clean figure is sized and turned by going on; a ring chooses the ink it holds.
 */
export function useFigure() {
  const desk = useDesk()
  const ink = useInk()
  const tool = useTool()
  const selection = useSelection()
  /** What is meant, where it would lie now. */
  const shown = ref<{ kind: string; ring: number[][] }>()
  let found: { ring: Place[]; anchor: Place; held: Place } | undefined
  let held: Schemas['StrokeMet'][] = []
  let placement: Placement = HERE
  let rest: { x: number; y: number } | undefined
  let timer = 0
  let asked = 0

  function forget() {
    clearTimeout(timer)
    asked += 1
    rest = found = shown.value = undefined
    held = []
    placement = HERE
  }
  onScopeDispose(forget)
  const tidies = () => tool.tidies(desk.pen)

  /** The nib writes on: where it stays for a while, what the stroke means so far is looked for. */
  function wrote(samples: readonly Sample[]) {
    const last = samples.at(-1)
    if (!last || !(tidies() || tool.rings)) return
    if (samples.length === 1) forget()
    if (rest && Math.hypot(last.x - rest.x, last.y - rest.y) <= HOLD_MM) return
    forget()
    rest = { x: last.x, y: last.y }
    timer = window.setTimeout(() => void look(samples), HOLD_MS)
  }

  async function look(samples: readonly Sample[]) {
    const every = Math.ceil(samples.length / MOST_OF_WAY)
    const way = samples.filter((_, k) => k % every === 0).map((s): [number, number] => [s.x, s.y])
    const long = way.slice(1).reduce((sum, p, k) => sum + Math.hypot(p[0] - way[k]![0], p[1] - way[k]![1]), 0)
    const [first, last] = [way[0]!, way.at(-1)!]
    if (way.length < 5 || long < LEAST_MM) return
    const mine = (asked += 1)
    if (tool.rings && Math.hypot(last[0] - first[0], last[1] - first[1]) <= OPEN_SHARE * long) {
      const params = { path: { sheet_id: desk.sheet!.id } }
      const body: Schemas['SelectBody'] = { way, takes: 'held', words: false, locked_too: false }
      const met = await take(api.POST('/api/sheets/{sheet_id}/strokes/met', { params, body })).catch(() => undefined)
      if (mine !== asked) return
      if (met?.strokes.length) {
        held = met.strokes
        shown.value = { kind: 'choice', ring: [...way, first] }
        return
      }
    }
    if (!tidies()) return
    const meant = await take(api.POST('/api/figure', { body: { way } })).catch(() => undefined)
    if (mine !== asked || !meant?.figure) return
    const ring = meant.figure.ring_mm as [number, number][]
    found = { ring, anchor: meant.anchor_mm as [number, number], held: last }
    shown.value = { kind: meant.figure.kind, ring }
  }

  /** The nib goes on from where it rested: the figure is sized and turned about its anchor. */
  function size({ x, y }: Sample) {
    if (!found || !shown.value) return
    const { ring, anchor, held: from } = found
    if (placement === HERE && Math.hypot(x - from[0], y - from[1]) < SIZES_MM) return
    const [was, now] = [[from[0] - anchor[0], from[1] - anchor[1]] as const, [x - anchor[0], y - anchor[1]] as const]
    const times = Math.hypot(...now) / Math.max(Math.hypot(...was), 0.1)
    const angle = Math.atan2(now[1], now[0]) - Math.atan2(was[1], was[0])
    placement = sized(anchor, Math.min(MOST_SIZE, Math.max(LEAST_SIZE, times)), angle)
    shown.value = { kind: shown.value.kind, ring: ring.map((p) => applied(placement, p)) }
  }

  /** A stroke was lifted, and is being kept: clean, where its figure was shown. Undone, it is as it was drawn. */
  async function lifted(sheetId: string, stroke: NewStroke, kept: Promise<void>) {
    const [body, kind] = [found && { placement }, shown.value?.kind]
    forget()
    tool.said = ''
    await kept
    if (!body) return scribbled(sheetId, stroke)
    const params = { path: { sheet_id: sheetId, stroke_id: stroke.id } }
    const done = await desk.attempt(() =>
      ink.mend(sheetId, () => take(api.POST('/api/sheets/{sheet_id}/strokes/{stroke_id}/figure', { params, body }))),
    )
    if (!done || tool.tidied) return
    tool.tidied = true
    tool.setsPen = true // where it is turned off
    tool.said =
      `Held still at its end, what you drew became a clean ${kind}. Undo has it as drawn; ` +
      '“A figure held still turns clean”, below, has it off.'
  }

  /** A ring was lifted that chooses: it is no ink. */
  async function choose() {
    const strokes = held
    forget()
    tool.press('choose')
    await nextTick()
    selection.chooseThese(strokes)
  }

  /** A scribble over ink takes it away, and goes itself; undo brings both back. */
  async function scribbled(sheetId: string, stroke: NewStroke) {
    if (!tool.scribbles || stroke.x_mm.length < 8) return
    const params = { path: { sheet_id: sheetId, stroke_id: stroke.id } }
    const done = await desk.attempt(() =>
      ink.mend(sheetId, () => take(api.POST('/api/sheets/{sheet_id}/strokes/{stroke_id}/scribble', { params }))),
    )
    const gone = (done?.away.length ?? 1) - 1
    if (gone > 0) tool.said = `${gone} ${gone === 1 ? 'stroke' : 'strokes'} scribbled out. Undo brings them back.`
  }

  return { shown, wrote, size, lifted, rung: () => held.length > 0, choose, forget }
}

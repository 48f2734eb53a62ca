import { onScopeDispose, ref } from 'vue'
import { api, take } from '@/api/client'
import { useDesk } from '@/stores/desk'
import { useInk, type NewStroke } from '@/stores/ink'
import { useVerb } from '@/stores/verb'
import type { Sample } from '@/ink'

const HOLD_MS = 500 // a rest at the end this long, inside a circle this large, asks for a clean figure
const HOLD_MM = 0.8
const LEAST_MM = 6
const MOST_OF_WAY = 500

/** A stroke held still at its end: the figure it means is shown while the hand rests, and stays when it lifts then. */
export function useFigure() {
  const desk = useDesk()
  const ink = useInk()
  const verb = useVerb()
  /** The figure meant, while the hand still rests. */
  const shown = ref<{ kind: string; ring: number[][] }>()
  let rest: { x: number; y: number } | undefined
  let timer = 0
  let asked = 0

  function forget() {
    clearTimeout(timer)
    asked += 1
    rest = undefined
    shown.value = undefined
  }
  onScopeDispose(forget)

  /** The nib writes on: where it stays for a while, the figure so far is looked for. */
  function wrote(samples: readonly Sample[]) {
    const last = samples.at(-1)
    if (!verb.tidies || !last) return
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
    if (way.length < 5 || long < LEAST_MM) return
    const mine = (asked += 1)
    const found = await take(api.POST('/api/figure', { body: { way } })).catch(() => undefined)
    if (mine === asked && found?.figure) shown.value = { kind: found.figure.kind, ring: found.figure.ring_mm }
  }

  /** A stroke was lifted, and is being kept: clean, where its figure was shown. Undone, it is as it was drawn. */
  async function lifted(sheetId: string, stroke: NewStroke, kept: Promise<void>) {
    const meant = shown.value
    forget()
    verb.said = ''
    await kept
    if (!meant) return scribbled(sheetId, stroke)
    const params = { path: { sheet_id: sheetId, stroke_id: stroke.id } }
    await desk.attempt(() =>
      ink.mend(sheetId, () => take(api.POST('/api/sheets/{sheet_id}/strokes/{stroke_id}/figure', { params }))),
    )
  }

  /** A scribble over ink takes it away, and goes itself; undo brings both back. */
  async function scribbled(sheetId: string, stroke: NewStroke) {
    if (!verb.scribbles || stroke.x_mm.length < 8) return
    const params = { path: { sheet_id: sheetId, stroke_id: stroke.id } }
    const done = await desk.attempt(() =>
      ink.mend(sheetId, () => take(api.POST('/api/sheets/{sheet_id}/strokes/{stroke_id}/scribble', { params }))),
    )
    const gone = (done?.away.length ?? 1) - 1
    if (gone > 0) verb.said = `${gone} ${gone === 1 ? 'stroke' : 'strokes'} scribbled out. Undo brings them back.`
  }

  return { shown, wrote, lifted, forget }
}

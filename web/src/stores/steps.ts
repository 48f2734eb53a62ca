import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed } from 'vue'
import { api, take, type Box, type Schemas, type SheetItem } from '@/api/client'

type InkOf = Schemas['PenOfInk']
/**
 * What takes a change of a sheet's ink back: strokes into the bin or out of it, some for others, the pens that drew
 * them before, the layers there were, or how strokes were arranged.
 */
export type Step =
  | { ids: string[]; binned: boolean }
  | { inks: InkOf[] }
  | { away: string[]; back: string[] }
  | { layers: Schemas['LayersBody'] }
  | { arranged: Schemas['ArrangeBody'] }
interface Steps {
  past: Step[]
  future: Step[]
}

interface Made {
  /** What takes it back. */
  back: Step
  /** Where the page changed; nothing where all of it may have. */
  box?: Box
  sheet: SheetItem
}

export const NOT_ARRANGED: Schemas['ArrangeBody'] = { locked: {}, grouped: {}, places: {}, to_end: null, ids: [] }
const MOST_STEPS = 200
const MOST_SHEETS = 30

/** Undo and redo of each sheet, also after a reload. Taking a step back gives the step that redoes it. */
export const useSteps = defineStore('steps', () => {
  const sheets = useLocalStorage('gray-quill-steps', new Map<string, Steps>())
  const of = (sheetId: string | undefined): Steps => {
    if (sheetId && !sheets.value.has(sheetId)) sheets.value.set(sheetId, { past: [], future: [] })
    return sheets.value.get(sheetId ?? '') ?? { past: [], future: [] }
  }
  const undoable = computed(() => (sheetId?: string) => !!of(sheetId).past.length)
  const redoable = computed(() => (sheetId?: string) => !!of(sheetId).future.length)

  /** Note what takes back a change that was just made. */
  function note(sheetId: string, step: Step) {
    const here = of(sheetId)
    here.past = [...here.past, step].slice(-MOST_STEPS)
    here.future = []
    for (const id of [...sheets.value.keys()].slice(0, -MOST_SHEETS)) if (id !== sheetId) sheets.value.delete(id)
  }

  /** A stroke that is nowhere it could be taken from is no step. */
  function strike(sheetId: string, strokeId: string) {
    const here = of(sheetId)
    here.past = here.past.filter((s) => !('ids' in s) || s.ids[0] !== strokeId)
  }

  /** Make the change a step stands for. */
  async function make(sheetId: string, step: Step): Promise<Made> {
    const params = { path: { sheet_id: sheetId } }
    if ('inks' in step) {
      const done = await take(api.PUT('/api/sheets/{sheet_id}/strokes/pens', { params, body: { inks: step.inks } }))
      return {
        back: { inks: done.was as InkOf[] },
        box: (done.box_mm ?? undefined) as Box | undefined,
        sheet: done.sheet,
      }
    }
    if ('layers' in step) {
      const done = await take(api.PUT('/api/sheets/{sheet_id}/layers', { params, body: step.layers }))
      return { back: { layers: done.was }, sheet: done.sheet }
    }
    if ('arranged' in step) {
      const done = await take(api.PUT('/api/sheets/{sheet_id}/strokes/arrange', { params, body: step.arranged }))
      return {
        back: { arranged: { ...NOT_ARRANGED, ...done.was } },
        box: (done.box_mm ?? undefined) as Box | undefined,
        sheet: done.sheet,
      }
    }
    if ('away' in step) {
      const done = await take(api.PUT('/api/sheets/{sheet_id}/strokes/swap', { params, body: step }))
      return { back: { away: step.back, back: step.away }, box: done.box_mm as Box, sheet: done.sheet }
    }
    const done = await take(api.PUT('/api/sheets/{sheet_id}/strokes/bin', { params, body: step }))
    return { back: { ids: step.ids, binned: !step.binned }, box: done.box_mm as Box, sheet: done.sheet }
  }

  /** Take the last step back, or make the one taken back again, unless its ink is still on its way. */
  async function move(sheetId: string, back: boolean, onItsWay: (id: string) => boolean) {
    const { past, future } = of(sheetId)
    const [from, to] = back ? [past, future] : [future, past]
    const step = from.at(-1)
    if (!step || ('ids' in step && step.ids.some(onItsWay))) return undefined
    const done = await make(sheetId, step)
    from.splice(from.indexOf(step), 1)
    to.push(done.back)
    return done
  }

  return { undoable, redoable, note, strike, make, move }
})

import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed } from 'vue'
import { api, Refusal, take, type Box, type Schemas, type SheetItem } from '@/api/client'
import { useDesk } from './desk'

type InkOf = Schemas['PenOfInk']
/**
 * What takes a change of a sheet's ink back: strokes into the bin or out of it, some for others, the pens that drew
 * them before, the layers there were, how strokes were arranged, what lay under the ink, or what covered it; or several
 * of these that were done as one.
 */
export type Step =
  | { ids: string[]; binned: boolean }
  | { inks: InkOf[] }
  | { away: string[]; back: string[] }
  | { layers: Schemas['LayersBody'] }
  | { arranged: Schemas['ArrangeBody'] }
  | { prints: Schemas['Prints'] }
  | { covers: Schemas['Covers'] }
  | { several: Step[] }
interface Steps {
  past: Step[]
  future: Step[]
  /** How often they changed. */
  count?: number
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
const SOON_MS = 300
const MOST_LETTERS = 1_000_000 // of the steps of one sheet

/**
 * Undo and redo of each sheet: kept with it on the server, so that any window can take them, and here as far as the
 * server was not reached. Taking a step back gives the step that redoes it.
 */
export const useJournal = defineStore('steps', () => {
  const desk = useDesk()
  const sheets = useLocalStorage('gray-quill-steps', new Map<string, Steps>())
  const of = (sheetId: string | undefined): Steps => {
    if (sheetId && !sheets.value.has(sheetId)) sheets.value.set(sheetId, { past: [], future: [] })
    return sheets.value.get(sheetId ?? '') ?? { past: [], future: [] }
  }
  const undoable = computed(() => (sheetId?: string) => !!of(sheetId).past.length)
  const redoable = computed(() => (sheetId?: string) => !!of(sheetId).future.length)

  /** Have what other windows did to a sheet. */
  async function look(sheetId: string): Promise<void> {
    const kept = await take(api.GET('/api/sheets/{sheet_id}/steps', { params: { path: { sheet_id: sheetId } } })).catch(
      () => undefined,
    )
    if (kept && kept.count > (of(sheetId).count ?? 0)) sheets.value.set(sheetId, kept as Steps)
  }

  const dirty = new Set<string>()
  let timer = 0
  /** The steps of a sheet changed: they are kept with it soon. */
  function changed(sheetId: string) {
    of(sheetId).count = (of(sheetId).count ?? 0) + 1
    dirty.add(sheetId)
    clearTimeout(timer)
    timer = window.setTimeout(() => {
      for (const id of dirty) void keep(id)
      dirty.clear()
    }, SOON_MS)
  }
  async function keep(sheetId: string) {
    const here = of(sheetId)
    while (JSON.stringify(here).length > MOST_LETTERS && here.past.length > 1) here.past = here.past.slice(1)
    const params = { path: { sheet_id: sheetId } }
    const body = { past: here.past, future: here.future, count: here.count! } as Schemas['SheetSteps']
    await take(api.PUT('/api/sheets/{sheet_id}/steps', { params, body })).catch(async (error) => {
      if (!(error instanceof Refusal) || error.code !== 'stale') return // they stay here, and go with the next
      const last = here.past.at(-1)
      await look(sheetId)
      const theirs = of(sheetId)
      if (last && JSON.stringify(theirs.past.at(-1)) !== JSON.stringify(last)) note(sheetId, last)
    })
  }

  /** Note what takes back a change that was just made. */
  function note(sheetId: string, step: Step) {
    const here = of(sheetId)
    here.past = [...here.past, step].slice(-MOST_STEPS)
    here.future = []
    changed(sheetId)
    for (const id of [...sheets.value.keys()].slice(0, -MOST_SHEETS)) if (id !== sheetId) sheets.value.delete(id)
  }

  /** A stroke that is nowhere it could be taken from is no step. */
  function strike(sheetId: string, strokeId: string) {
    const here = of(sheetId)
    here.past = here.past.filter((s) => !('ids' in s) || s.ids[0] !== strokeId)
    changed(sheetId)
  }

  /** The page was turned: what lay under or over its ink before would lie wrongly. */
  function turned(sheetId: string) {
    const here = of(sheetId)
    const lies = (s: Step): boolean => ('several' in s ? s.several.every(lies) : !('prints' in s) && !('covers' in s))
    here.past = here.past.filter(lies)
    here.future = here.future.filter(lies)
    changed(sheetId)
  }

  /** Make the change a step stands for. */
  async function make(sheetId: string, step: Step): Promise<Made> {
    const params = { path: { sheet_id: sheetId } }
    if ('several' in step) return makeAll(sheetId, step.several)
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
      return { back: { layers: { ...done.was, saw: null } }, sheet: done.sheet }
    }
    if ('arranged' in step) {
      const done = await take(api.PUT('/api/sheets/{sheet_id}/strokes/arrange', { params, body: step.arranged }))
      return {
        back: { arranged: { ...NOT_ARRANGED, ...done.was } },
        box: (done.box_mm ?? undefined) as Box | undefined,
        sheet: done.sheet,
      }
    }
    if ('prints' in step) {
      const before = desk.desk?.sheets.find((s) => s.id === sheetId)?.prints ?? []
      const sheet = await take(api.PUT('/api/sheets/{sheet_id}/prints', { params, body: step.prints }))
      return { back: { prints: { ...step.prints, saw: null, prints: before as Schemas['Print'][] } }, sheet }
    }
    if ('covers' in step) {
      const before = desk.desk?.sheets.find((s) => s.id === sheetId)?.covers ?? []
      const sheet = await take(api.PUT('/api/sheets/{sheet_id}/covers', { params, body: step.covers }))
      return { back: { covers: { ...step.covers, saw: null, covers: before as Schemas['Cover'][] } }, sheet }
    }
    if ('away' in step) {
      const done = await take(api.PUT('/api/sheets/{sheet_id}/strokes/swap', { params, body: step }))
      return { back: { away: step.back, back: step.away }, box: done.box_mm as Box, sheet: done.sheet }
    }
    const done = await take(api.PUT('/api/sheets/{sheet_id}/strokes/bin', { params, body: step }))
    return { back: { ids: step.ids, binned: !step.binned }, box: done.box_mm as Box, sheet: done.sheet }
  }

  /** One after the other; where one is refused those before it are taken back. */
  async function makeAll(sheetId: string, all: Step[]): Promise<Made> {
    const done: Made[] = []
    try {
      for (const step of all) {
        if (done.length) desk.replaceSheet(done.at(-1)!.sheet)
        done.push(await make(sheetId, step))
      }
    } catch (error) {
      for (const { back } of done.reverse()) desk.replaceSheet((await make(sheetId, back)).sheet)
      throw error
    }
    return { back: { several: done.map((d) => d.back).reverse() }, sheet: done.at(-1)!.sheet }
  }

  /** Take the last step back, or make the one taken back again, unless its ink is still on its way. */
  async function move(sheetId: string, back: boolean, onItsWay: (id: string) => boolean) {
    const { past, future } = of(sheetId)
    const [from, to] = back ? [past, future] : [future, past]
    const step = from.at(-1)
    if (!step || ('ids' in step && step.ids.some(onItsWay))) return undefined
    const done = await make(sheetId, step).catch((error) => {
      // ink that is not there any more cannot be taken back: the step before it can
      if (error instanceof Refusal && [404, 409].includes(error.status)) {
        from.splice(from.indexOf(step), 1)
        changed(sheetId)
      }
      throw error
    })
    from.splice(from.indexOf(step), 1)
    to.push(done.back)
    changed(sheetId)
    return done
  }

  return { undoable, redoable, look, note, strike, turned, make, move }
})

import { createStore, del, entries, get, set } from 'idb-keyval'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, away, Refusal, take, type Box, type PenItem, type Schemas, type SheetItem } from '@/api/client'
import { useDesk } from './desk'
import { notKept } from './draft'
import { useJournal, type Step } from './undo-journal'

export type NewStroke = Schemas['NewStroke']
/** A stroke that the server has not confirmed: on its way, or refused. */
export interface Waiting {
  sheetId: string
  sheetName: string
  stroke: NewStroke
  refused?: { code: string; reason: string }
  /** Its InkML was taken out, so that it may be let go. */
  takenOut?: boolean
}
/** Refused strokes of one sheet that were refused for the same reason. */
export interface Refused {
  sheetId: string
  sheetName: string
  code: string
  reason: string
  strokes: NewStroke[]
  takenOut: boolean
}

const RETRY_MS = 2500
const BATCH = 50
const ARRIVES_MS = 3000
const pause = (ms: number) => new Promise((done) => setTimeout(done, ms))
/** What is in the way of keeping, by the server's code for it. */
const IN_THE_WAY: Record<string, string> = {
  away: 'the server is not reached: writing goes on here',
  disk_full: 'the disk is full: writing goes on in this browser',
  read_only: 'the data folder can only be read: writing goes on in this browser',
  folder_gone: 'the data folder is gone: writing goes on in this browser',
  disk_failed: 'the disk does not answer: writing goes on in this browser',
  damaged: 'the database is damaged: writing goes on in this browser',
}
const store = createStore('gray-quill', 'waiting-strokes')
const plain = (w: Waiting) => JSON.parse(JSON.stringify(w)) as Waiting
const counted = (n: number) => `${n} ${n === 1 ? 'stroke' : 'strokes'}`

/**
 * Ink on its way to the server. A stroke is put into this browser's own database before it is sent and leaves it only
 * when the server has confirmed it, so neither a lost connection nor a killed server loses ink. One that is refused
 * stays, with the reason, until the writer says where it goes.
 */
export const useInk = defineStore('ink', () => {
  const waiting = ref(new Map<string, Waiting>())
  const journal = useJournal()
  const desk = useDesk()
  /**
   * The part of a sheet whose settled ink changed last; box undefined means all of it. written: by what was just
   * written here, and nothing else.
   */
  const changed = shallowRef<{ sheetId: string; box?: Box; written?: boolean }>()
  /** What is in the way of sending. */
  const inTheWay = ref('')
  /** This browser keeps nothing: what waits lives in this window only. */
  const fragile = ref(false)
  let sending = false
  let line: Promise<unknown> = Promise.resolve()
  /** Changes of ink go to the server one after another, so that each answer tells whether another window was there. */
  function inLine<T>(change: () => Promise<T>): Promise<T> {
    const mine = line.then(change, change)
    line = mine
    return mine
  }

  const unsent = computed(() => [...waiting.value.values()].filter((w) => !w.refused))
  const refused = computed<Refused[]>(() => {
    const groups = new Map<string, Refused>()
    for (const w of waiting.value.values()) {
      if (!w.refused) continue
      const key = [w.sheetId, w.refused.code, w.refused.reason].join('\n')
      const group = groups.get(key) ?? { ...w, ...w.refused, strokes: [], takenOut: true }
      group.strokes.push(w.stroke)
      group.takenOut &&= !!w.takenOut
      groups.set(key, group)
    }
    return [...groups.values()]
  })
  const refusals = computed(() => waiting.value.size - unsent.value.length)
  /** So many refused strokes the writer sees to later. */
  const later = ref(0)
  watch(refusals, (now) => (later.value = Math.min(later.value, now)))
  const asks = computed(() => refusals.value > later.value)
  const words = computed(() => {
    const n = unsent.value.length
    if (n && fragile.value) return `${counted(n)} waiting in this window only: do not close it`
    if (n && inTheWay.value) return `${inTheWay.value}, ${counted(n)} ${n === 1 ? 'waits' : 'wait'}`
    if (n) return `${counted(n)} waiting for the server`
    if (!refusals.value && away.value) return IN_THE_WAY.away!
    return refusals.value ? `${counted(refusals.value)} refused, kept in this browser` : 'all ink kept'
  })

  async function put(w: Waiting) {
    waiting.value.set(w.stroke.id, w)
    try {
      await set(w.stroke.id, plain(w), store)
    } catch {
      fragile.value = true
    }
  }

  async function keep(sheetId: string, sheetName: string, stroke: NewStroke): Promise<void> {
    journal.note(sheetId, { ids: [stroke.id], binned: true })
    await put({ sheetId, sheetName, stroke })
    void send()
  }

  /** Send what is waiting, oldest first, until none is left or the server does not answer. */
  async function send(): Promise<void> {
    if (sending) return
    sending = true
    try {
      for (let next = batch(); next.length; next = batch()) if (!(await sent(next))) return
    } finally {
      sending = false
    }
  }

  function batch(): Waiting[] {
    const first = unsent.value[0]
    return unsent.value.filter((w) => w.sheetId === first?.sheetId).slice(0, BATCH)
  }

  /** Send some strokes of one sheet; false when they have to wait. */
  async function sent(some: Waiting[]): Promise<boolean> {
    const sheetId = some[0]!.sheetId
    try {
      const answer = await inLine(() =>
        take(
          api.POST('/api/sheets/{sheet_id}/strokes', {
            params: { path: { sheet_id: sheetId } },
            body: { strokes: some.map((w) => w.stroke) },
          }),
        ),
      )
      inTheWay.value = ''
      const others = desk.inkMoved(answer.sheet, answer.answers.some((told) => told.state === 'kept') ? 1 : 0)
      // answers come in the order sent
      for (const [k, told] of answer.answers.entries()) {
        if (told.state === 'refused') await refuse(some[k]!, told)
        else await forget(some[k]!.stroke.id)
      }
      const kept = answer.answers.some((told) => told.state !== 'refused')
      const box = others ? undefined : ((answer.box_mm ?? undefined) as Box)
      if (kept || others) changed.value = { sheetId, box, written: !others }
      return true
    } catch (error) {
      const refusal = error instanceof Refusal ? error : undefined
      const final = refusal && refusal.status >= 400 && refusal.status < 500 && refusal.status !== 429
      if (final && some.length > 1 && (refusal.status === 413 || refusal.status === 422)) {
        for (const one of some) if (!(await sent([one]))) return false
        return true
      }
      if (final) {
        for (const w of some) await refuse(w, { code: refusal.code, reason: refusal.message })
        return true
      }
      inTheWay.value = IN_THE_WAY[refusal?.code ?? ''] ?? ''
      setTimeout(() => void send(), RETRY_MS)
      return false
    }
  }

  function refuse(w: Waiting, { code, reason }: { code: string; reason: string }) {
    journal.strike(w.sheetId, w.stroke.id)
    return put({ ...w, refused: { code, reason } })
  }

  async function forget(id: string) {
    waiting.value.delete(id)
    await del(id, store).catch(() => undefined)
  }

  /** Those of a group that no other window has dealt with meanwhile. */
  async function stillThere(group: Refused): Promise<Waiting[]> {
    const found: Waiting[] = []
    for (const { id } of group.strokes) {
      const known = fragile.value ? waiting.value.get(id) : await get<Waiting>(id, store)
      if (known) found.push(known)
      else waiting.value.delete(id)
    }
    return found
  }

  /** Send refused strokes again as they are. */
  async function retry(group: Refused) {
    for (const w of await stillThere(group)) await put({ ...w, refused: undefined })
    await send()
  }

  /** Put refused strokes on another sheet, under new ids, with `pen` where theirs is not there any more. */
  async function place(group: Refused, sheet: { id: string; name: string }, pen?: { id: string; revision: number }) {
    for (const w of await stillThere(group)) {
      const stroke = { ...w.stroke, id: crypto.randomUUID() as string }
      if (pen) Object.assign(stroke, { pen_id: pen.id, revision: pen.revision, draft: null })
      await put({ sheetId: sheet.id, sheetName: sheet.name, stroke })
      await forget(w.stroke.id)
      journal.note(sheet.id, { ids: [stroke.id], binned: true })
    }
    changed.value = { sheetId: group.sheetId }
    await send()
  }

  /** Note that the InkML of refused strokes was taken out. */
  async function tookOut(group: Refused) {
    for (const w of await stillThere(group)) await put({ ...w, takenOut: true })
  }

  /** Let refused strokes go, once they were taken out. */
  async function letGo(group: Refused) {
    for (const w of await stillThere(group)) if (w.takenOut) await forget(w.stroke.id)
    changed.value = { sheetId: group.sheetId }
  }

  /** Strokes a closed or reloaded page left behind are sent again; the server takes each id once. */
  async function resume(): Promise<void> {
    for (const [id, w] of await entries<string, Waiting>(store).catch(() => [])) {
      waiting.value.set(id, { ...w, sheetName: w.sheetName ?? w.sheetId })
    }
    if (unsent.value.length) void send()
  }

  /**
   * A palm's stroke taken back: it never was, so it is not a step to undo either. One that is still on its way is
   * binned once it arrived.
   */
  async function withdraw(sheetId: string, id: string): Promise<void> {
    journal.strike(sheetId, id)
    while (waiting.value.has(id)) {
      if (waiting.value.get(id)!.refused) return forget(id)
      await pause(50)
    }
    made(await inLine(() => journal.make(sheetId, { ids: [id], binned: true })))
  }

  /** Ink strokes of a sheet again as a pen writes now, all of its own where none are named. Tells how many changed. */
  async function inkAgain(sheetId: string, pen: PenItem, ids?: readonly string[]): Promise<number> {
    const inks = [{ pen_id: pen.id, revision: pen.newest, draft: notKept(pen), ids: ids ? [...ids] : null }]
    const params = { path: { sheet_id: sheetId } }
    return inked(sheetId, () => take(api.PUT('/api/sheets/{sheet_id}/strokes/pens', { params, body: { inks } })))
  }
  /** Ink strokes of a sheet again in another colour, each in its own pen. Tells how many changed. */
  async function recolour(sheetId: string, ids: readonly string[], colour: string): Promise<number> {
    const [params, body] = [{ path: { sheet_id: sheetId } }, { ids: [...ids], colour }]
    return inked(sheetId, () => take(api.PUT('/api/sheets/{sheet_id}/strokes/colour', { params, body })))
  }
  /** One step of undo. */
  async function inked(sheetId: string, work: () => Promise<Schemas['InkedAgain']>): Promise<number> {
    const done = await inLine(work)
    if (done.was.length) {
      journal.note(sheetId, { inks: done.was as Schemas['PenOfInk'][] })
      made({ sheet: done.sheet, box: (done.box_mm ?? undefined) as Box | undefined })
    }
    return done.strokes
  }

  /** Change the layers of a sheet or how its ink is arranged; one step of undo. */
  async function change(sheetId: string, step: Step): Promise<void> {
    const done = await inLine(() => journal.make(sheetId, seenNow(sheetId, step)))
    journal.note(sheetId, done.back)
    made(done)
  }

  /** What lies on the page is laid anew on the page as it is seen when the step's turn comes. */
  function seenNow(sheetId: string, step: Step): Step {
    const saw = desk.desk?.sheets.find((s) => s.id === sheetId)?.version ?? null
    if ('prints' in step) return { prints: { ...step.prints, saw } }
    return 'covers' in step ? { covers: { ...step.covers, saw } } : step
  }

  /** Once what was written has arrived, or does not: rub or place ink of a sheet, and do this too; one step of undo. */
  async function mend<T extends Schemas['Rubbed']>(
    sheetId: string,
    change: () => Promise<T>,
    also: Step[] = [],
  ): Promise<T> {
    const until = performance.now() + ARRIVES_MS
    while (unsent.value.some((w) => w.sheetId === sheetId) && performance.now() < until) await pause(30)
    const done = await inLine(change)
    if (done.away.length || done.back.length) {
      const back: Step = { away: done.back, back: done.away }
      made({ sheet: done.sheet, box: (done.box_mm ?? undefined) as Box | undefined })
      journal.note(sheetId, also.length ? await withThese(sheetId, back, also) : back)
    }
    return done
  }

  /** Do these too; what takes them back together with what was done before them, or that alone if they are refused. */
  async function withThese(sheetId: string, before: Step, also: Step[]): Promise<Step> {
    const done = await desk.attempt(() => inLine(() => journal.make(sheetId, { several: also })))
    if (!done) return before
    made({ sheet: done.sheet })
    return { several: [...('several' in done.back ? done.back.several : [done.back]), before] }
  }

  async function step(sheetId: string, back: boolean): Promise<void> {
    const done = await inLine(() => journal.move(sheetId, back, (id) => waiting.value.has(id)))
    if (done) made(done)
  }

  function made({ sheet, box }: { sheet: SheetItem; box?: Box }) {
    changed.value = { sheetId: sheet.id, box: desk.inkMoved(sheet, 1) ? undefined : box }
  }

  return {
    waiting,
    refused,
    refusals,
    later,
    asks,
    changed,
    words,
    keep,
    resume,
    retry,
    place,
    tookOut,
    letGo,
    withdraw,
    inLine,
    made,
    inkAgain,
    recolour,
    mend,
    change,
    showAgain: (sheetId: string) => (changed.value = { sheetId }),
    undo: (sheetId: string) => step(sheetId, true),
    redo: (sheetId: string) => step(sheetId, false),
  }
})

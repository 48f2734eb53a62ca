import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import {
  api,
  away,
  Refusal,
  take,
  type Box,
  type DeviceItem,
  type HandItem,
  type PenItem,
  type Schemas,
  type SheetItem,
} from '@/api/client'
import { takeUpDrafts } from './draft'

type SheetChange = Partial<Omit<Schemas['SheetChange'], 'saw'>>
const ASK_AGAIN_MS = 2500
/** What all pages of a sheet have in common. */
/** Lists of the desk that several windows may change at once. */
const LISTS = ['palette', 'rolls', 'erasers', 'papers'] as const
const SHARED = ['name', 'note', 'hand_id', 'device_id', 'pen_id'] as const
export type Surface = 'auto' | 'paper' | 'night' | 'e-ink'

/** The desk: which sheet lies on it, who writes on what with which pen, and what there is to choose from. */
export const useDesk = defineStore('desk', () => {
  const desk = ref<Schemas['Desk']>()
  const trouble = ref('')
  /** A change of the sheet that another window has overtaken, until the writer says which of the two counts. */
  const clash = ref<{ words: string; change: SheetChange; now: SheetItem }>()

  /** What another window did meanwhile, in words. */
  const news = ref('')
  /** Counts how often everything was looked at again: what is shown may be older. */
  const looked = ref(0)
  /** Which part of the page on the desk may be older, mm; undefined where any may. */
  const lookedBox = shallowRef<Box>()
  const penBefore = ref<string>()

  const sheet = computed<SheetItem | undefined>(() => desk.value?.sheets.find((s) => s.id === desk.value?.sheet_id))
  const hand = computed<HandItem | undefined>(() => desk.value?.hands.find((h) => h.id === sheet.value?.hand_id))
  const device = computed<DeviceItem | undefined>(() =>
    desk.value?.devices.find((d) => d.id === sheet.value?.device_id),
  )
  const pen = computed<PenItem | undefined>(() => desk.value?.pens.find((p) => p.id === sheet.value?.pen_id))
  const roll = computed(() => (desk.value?.pens ?? []).filter((p) => p.roll_place !== null))
  /** Stations lie on the side the hand does not cover. */
  const stationSide = computed<'left' | 'right'>(() => {
    const set = desk.value?.side
    if (set === 'left' || set === 'right') return set
    return hand.value?.hand.side === 'left' ? 'right' : 'left'
  })

  /** What is declared of a reading, by where it is read and its key. */
  const reading = (group: string, key: string): Schemas['Reading'] | undefined => desk.value?.readings[group]?.[key]

  /** Run something that may be refused; the refusal is shown in the frame. */
  async function attempt<T>(work: () => Promise<T>): Promise<T | undefined> {
    trouble.value = ''
    try {
      return await work()
    } catch (error) {
      tell(error)
      if (error instanceof Refusal && error.code === 'stale') await lookAgain() // it is told, and seen as it is now
      return undefined
    }
  }

  /** Say a refusal in the frame. A server that does not answer is asked until it does; then all is looked at again. */
  function tell(error: unknown) {
    const said = (trouble.value = error instanceof Error ? error.message : String(error))
    if (error instanceof Refusal && error.code === 'away') setTimeout(() => void isBack(said), ASK_AGAIN_MS)
  }

  async function isBack(said: string) {
    if (desk.value && said !== trouble.value) return
    try {
      await lookAgain()
      if (away.value) throw new Error(said)
      if (said === trouble.value) trouble.value = ''
      lookedBox.value = undefined
      looked.value += 1
    } catch {
      if (!desk.value) trouble.value = said // whatever was tried meanwhile: without a desk there is nothing to do
      setTimeout(() => void isBack(said), ASK_AGAIN_MS)
    }
  }

  const load = () =>
    attempt(async () => {
      await takeUp(await take(api.GET('/api/desk')))
    })
  async function takeUp(now: Schemas['Desk']) {
    desk.value = now
    await takeUpDrafts(now.pens)
  }

  /** Look again at what is kept, and say what another window has changed. */
  async function lookAgain(boxes: Record<string, Box | null> = {}) {
    const before = desk.value
    const now = await take(api.GET('/api/desk'))
    if (before !== desk.value) return
    if (!before) return await takeUp(now) // the first answer did not come
    const mine = now.sheets.some((s) => s.id === before.sheet_id) ? before.sheet_id : now.sheet_id
    desk.value = { ...now, sheet_id: mine }
    await takeUpDrafts(now.pens)
    const pens = now.pens.filter((p) => (before.pens.find((b) => b.id === p.id)?.newest ?? p.newest) < p.newest)
    const told = pens.map((p) => `${p.recipe.name} is kept as revision ${p.newest} now`)
    const [was, is] = [before, now].map((d) => d.sheets.find((s) => s.id === mine))
    if (was && is && was.version < is.version) told.unshift(`“${is.name}” is changed`)
    if (was && is && was.ink < is.ink) {
      told.unshift(`“${is.name}” was written on`)
      lookedBox.value = boxes[mine ?? ''] ?? undefined
      looked.value += 1
    }
    if (told.length) news.value = `In another window ${told.join(', and ')}. You see it as it is now.`
  }

  /** A sheet as an answer to `mine` own changes tells it. Says and returns whether another window changed its ink. */
  function inkMoved(now: SheetItem, mine: number): boolean {
    const before = desk.value?.sheets.find((s) => s.id === now.id)
    replaceSheet(now)
    if (!before || now.ink <= before.ink + mine) return false
    news.value = `“${now.name}” was written on in another window too. You see it as it is now.`
    return true
  }

  /**
   * Change who, what or which paper the sheet is for. Where it was changed elsewhere meanwhile, the change is made on
   * top if it is about something else; otherwise the writer is asked.
   */
  const changeSheet = (change: SheetChange, which?: SheetItem) =>
    attempt(async () => {
      const seen = which ?? sheet.value
      if (!seen) return
      try {
        await sendChange(seen, change)
      } catch (error) {
        if (!(error instanceof Refusal) || error.code !== 'stale') throw error
        const { sheet: now } = await take(
          api.GET('/api/sheets/{sheet_id}', { params: { path: { sheet_id: seen.id } } }),
        )
        replaceSheet(now)
        const touched = Object.keys(change).filter((key) => key !== 'reach') as (keyof SheetChange & keyof SheetItem)[]
        const same = touched.every((key) => JSON.stringify(now[key]) === JSON.stringify(seen[key]))
        if (same) await sendChange(now, change)
        else clash.value = { words: `${nameOf(now)} was changed in another window meanwhile.`, change, now }
      }
    })

  async function sendChange(from: SheetItem, change: SheetChange) {
    const body = { ...change, saw: from.version } as Schemas['SheetChange']
    const now = await take(api.PATCH('/api/sheets/{sheet_id}', { params: { path: { sheet_id: from.id } }, body }))
    replaceSheet(now)
    // its other pages share all but their paper and bookmark; each counted the change
    const { name, note, hand_id, device_id, pen_id } = now
    const shared = SHARED.some((key) => key in change)
    for (const s of desk.value?.sheets ?? []) {
      if (!shared || s.sheaf !== now.sheaf || s.id === now.id) continue
      Object.assign(s, { name, note, hand_id, device_id, pen_id, version: s.version + 1 })
    }
    if (change.reach && change.reach !== 'page') {
      const { pages } = await take(api.GET('/api/sheets/{sheet_id}/pages', { params: { path: { sheet_id: from.id } } }))
      pages.forEach(replaceSheet)
    }
  }

  const nameOf = (s: SheetItem) => `“${s.name}”`

  function settleClash(mine: boolean) {
    const { change, now } = clash.value!
    clash.value = undefined
    if (mine) void attempt(() => sendChange(now, change))
  }

  function replaceSheet(changed: SheetItem) {
    if (!desk.value) return
    const rest = desk.value.sheets.filter((s) => s.id !== changed.id)
    const at = desk.value.sheets.findIndex((s) => s.id === changed.id)
    rest.splice(at < 0 ? 0 : at, 0, changed)
    desk.value.sheets = rest
  }

  /** Take another pen; the one before can be gone back to. */
  function takePen(id: string) {
    penBefore.value = sheet.value?.pen_id
    return changeSheet({ pen_id: id })
  }

  /** A sheet went into the bin: another one lies on the desk, if there is one. */
  async function dropSheet(sheaf: string) {
    if (!desk.value) return
    const gone = sheet.value?.sheaf === sheaf
    desk.value.sheets = desk.value.sheets.filter((s) => s.sheaf !== sheaf)
    const next = desk.value.sheets[0]
    if (gone && next) await openSheet(next.id)
  }

  const openSheet = (id: string) =>
    attempt(async () => {
      await take(api.PATCH('/api/desk', { body: { sheet_id: id } as Schemas['DeskChange'] }))
      if (desk.value) desk.value.sheet_id = id
    })

  /** Put down a new sheet like the one on the desk, with the pen last used. */
  const putDown = (kind: 'free' | 'test' | 'strip', paper?: Schemas['Paper']) =>
    attempt(async () => {
      const like = sheet.value
      const first = desk.value
      if (!first) return
      const taken = new Set(first.sheets.map((s) => s.name))
      const word = { free: 'Sheet', test: 'Test sheet', strip: 'Force strip' }[kind]
      let count = 1
      while (taken.has(`${word} ${count}`)) count += 1
      const body: Schemas['NewSheet'] = {
        id: `sheet-${crypto.randomUUID().slice(0, 13)}`,
        kind,
        name: `${word} ${count}`,
        paper: paper ?? first.new_paper ?? like?.paper ?? first.first_paper,
        hand_id: like?.hand_id ?? first.hands[0]!.id,
        device_id: like?.device_id ?? first.devices[0]!.id,
        pen_id: like?.pen_id ?? first.pens[0]!.id,
      }
      replaceSheet(await take(api.POST('/api/sheets', { body })))
      await openSheet(body.id)
    })

  const setSurface = (surface: Surface) =>
    attempt(async () => {
      if (desk.value) desk.value.surface = surface
      await take(api.PATCH('/api/desk', { body: { surface } as Schemas['DeskChange'] }))
    })

  const setSide = (side: 'hand' | 'left' | 'right') =>
    attempt(async () => {
      if (desk.value) desk.value.side = side
      await take(api.PATCH('/api/desk', { body: { side } as Schemas['DeskChange'] }))
    })

  /** Put these pens on the roll in this order. */
  const orderRoll = async (ids: string[]) => {
    const before = (desk.value?.pens ?? []).filter((p) => p.roll_place !== null)
    const saw = before.sort((a, b) => a.roll_place! - b.roll_place!).map((p) => p.id)
    await take(api.PUT('/api/desk/roll', { body: { pen_ids: ids, saw } }))
    if (!desk.value) return
    for (const p of desk.value.pens) p.roll_place = ids.includes(p.id) ? ids.indexOf(p.id) : null
    desk.value.pens.sort((a, b) => (a.roll_place ?? 99) - (b.roll_place ?? 99))
  }

  /** Keep the pens now at hand as this roll, and take the next one. */
  const nextRoll = () =>
    attempt(async () => {
      const now = desk.value
      if (!now) return
      const at = Math.max(
        0,
        now.rolls.findIndex((r) => r.name === now.roll),
      )
      const rolls = now.rolls.map((r, k) => (k === at ? { ...r, pen_ids: roll.value.map((p) => p.id) } : r))
      const next = rolls[(at + 1) % rolls.length]!
      const there = next.pen_ids.filter((id) => now.pens.some((p) => p.id === id))
      await orderRoll(there.length ? there : roll.value.map((p) => p.id))
      await keepDesk({ rolls, roll: next.name })
    })

  /** Remember something of the desk on the server; what other windows changed of its lists meanwhile stays. */
  async function keepDesk(change: Partial<Schemas['DeskChange']>) {
    const lists = LISTS.filter((key) => key in change && desk.value)
    const saw = Object.fromEntries(lists.map((key) => [key, desk.value![key]]))
    const body = { ...change, ...(lists.length ? { saw } : {}) } as Schemas['DeskChange']
    const { desk: lying } = await take(api.PATCH('/api/desk', { body }))
    if (desk.value) Object.assign(desk.value, change, lying)
  }

  function replacePen(changed: PenItem) {
    if (!desk.value) return
    const at = desk.value.pens.findIndex((p) => p.id === changed.id)
    if (at < 0) desk.value.pens.push(changed)
    else desk.value.pens[at] = changed
  }

  return {
    desk,
    trouble,
    tell,
    news,
    looked,
    lookedBox,
    lookAgain,
    inkMoved,
    penBefore,
    takePen,
    clash,
    settleClash,
    sheet,
    hand,
    device,
    pen,
    roll,
    stationSide,
    reading,
    attempt,
    load,
    changeSheet,
    openSheet,
    dropSheet,
    putDown,
    setSurface,
    setSide,
    orderRoll,
    nextRoll,
    keepDesk,
    replacePen,
    replaceSheet,
  }
})

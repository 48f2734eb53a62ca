import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { api, take, type Box, type Schemas, type SheetItem } from '@/api/client'
import { useDesk } from './desk'
import { useJournal } from './undo-journal'

/** The pages of the sheet on the desk: going from one to another, and adding, ordering, turning and binning them. */
export const usePages = defineStore('pages', () => {
  const desk = useDesk()
  const here = computed(() => desk.sheet)
  const pages = computed<SheetItem[]>(() => pagesOf(here.value?.sheaf))
  /** Pages of this sheet in the bin, once they were asked for. */
  const binned = shallowRef<SheetItem[]>([])
  /** The page of each sheet that lay on the desk last, in this browser. */
  const last = useLocalStorage<Record<string, string>>('gray-quill-last-pages', {})
  /** The page was gone to by turning: it is met at its head, or coming back at its foot. */
  const turned = ref<'on' | 'back'>()

  function pagesOf(sheaf: string | undefined): SheetItem[] {
    return (desk.desk?.sheets ?? []).filter((s) => s.sheaf === sheaf).sort((a, b) => a.page - b.page)
  }

  async function open(id: string, by?: 'on' | 'back') {
    turned.value = by
    await desk.openSheet(id)
    const page = here.value
    if (page) last.value = { ...last.value, [page.sheaf]: page.id }
  }
  /** Open a sheet at the page it was left at. */
  const openSheet = (sheaf: string) => {
    const there = pagesOf(sheaf)
    const page = there.find((p) => p.id === last.value[sheaf]) ?? there[0]
    return page ? open(page.id) : Promise.resolve()
  }
  /** To the page after or before; false where there is none. */
  function go(on: boolean): boolean {
    const next = pages.value.find((p) => p.page === (here.value?.page ?? 0) + (on ? 1 : -1))
    if (next) void open(next.id, on ? 'on' : 'back')
    return !!next
  }

  /** A box of a page that is to be shown, mm, once that page lies on the desk. */
  const wanted = shallowRef<{ id: string; box: Box }>()
  async function show(id: string, box: Box) {
    if (id !== here.value?.id) await open(id)
    wanted.value = { id, box }
  }

  /** Show a sheet's pages as an answer tells them. */
  function takeUp(told: Schemas['Pages']) {
    binned.value = told.binned
    if (!desk.desk) return
    const gone = new Set(told.binned.map((p) => p.id))
    desk.desk.sheets = desk.desk.sheets.filter((s) => !gone.has(s.id))
    for (const page of told.pages) desk.replaceSheet(page)
  }
  const params = (id: string) => ({ path: { sheet_id: id } })
  const look = (id = here.value?.id) =>
    desk.attempt(async () => id && takeUp(await take(api.GET('/api/sheets/{sheet_id}/pages', { params: params(id) }))))

  /** Put a page down after this one, empty or a copy of it, and go to it. */
  const add = (after: SheetItem, copy_ink = false) =>
    desk.attempt(async () => {
      const id = `page-${crypto.randomUUID().slice(0, 13)}`
      takeUp(
        await take(
          api.POST('/api/sheets/{sheet_id}/pages', { params: params(after.id), body: { id, copy_ink, paper: null } }),
        ),
      )
      await open(id, 'on')
    })
  const order = (ids: string[]) =>
    desk.attempt(async () => {
      const body = { ids, saw: pages.value.map((p) => p.id) }
      const asked = api.PUT('/api/sheets/{sheet_id}/pages', { params: params(ids[0]!), body })
      takeUp(await take(asked))
    })
  const bin = (page: SheetItem, away: boolean) =>
    desk.attempt(async () => {
      const beside = pages.value.find((p) => p.page === page.page + 1) ?? pages.value[page.page - 2]
      const told = await take(
        api.PUT('/api/sheets/{sheet_id}/page/bin', { params: params(page.id), body: { binned: away } }),
      )
      if (away && page.id === here.value?.id && beside) await open(beside.id)
      takeUp(told)
    })
  const turn = (page: SheetItem) =>
    desk.attempt(async () => {
      takeUp(await take(api.POST('/api/sheets/{sheet_id}/page/turn', { params: params(page.id) })))
      useJournal().turned(page.id)
    })

  return { pages, pagesOf, binned, turned, wanted, show, open, openSheet, go, look, add, order, bin, turn }
})

import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import type { Place } from '@/lib/placement'
import { useDesk } from './desk'
import { useInk } from './ink'
import { useJournal } from './undo-journal'

export type Print = Required<Schemas['Print']>

/** Pictures and pages of documents under the ink of the page on the desk. */
export const useUnderlay = defineStore('underlay', () => {
  const desk = useDesk()
  const ink = useInk()
  const journal = useJournal()
  const all = computed(() => (desk.sheet?.prints ?? []) as Print[])
  /** Ink that lies on a print goes with it. */
  const carries = ref(false)
  /** The print that the pen moves, and by how much it has so far, mm. */
  const moving = ref<string>()
  const by = shallowRef<Place>([0, 0])

  watch(
    () => desk.sheet?.id,
    () => (moving.value = undefined),
  )

  const path = () => ({ path: { sheet_id: desk.sheet!.id } })
  /** One step of undo. */
  const set = (prints: Print[]) =>
    desk.attempt(() => ink.change(desk.sheet!.id, { prints: { prints, carries: carries.value, saw: null } }))
  const change = (id: string, part: Partial<Print>) => set(all.value.map((p) => (p.id === id ? { ...p, ...part } : p)))
  const lay = (id: string, how: Schemas['LayAnew']['how']) =>
    desk.attempt(async () => {
      const body = { id, how, carries: carries.value }
      const before = all.value
      const sheetId = desk.sheet!.id
      ink.made({ sheet: await take(api.POST('/api/sheets/{sheet_id}/prints/laid', { params: path(), body })) })
      journal.note(sheetId, { prints: { prints: before, carries: carries.value, saw: null } })
    })
  const drop = (id: string) => set(all.value.filter((p) => p.id !== id))

  /** The outline of the print that is being moved, as a ring on the page. */
  const outline = computed(() => {
    const p = all.value.find((one) => one.id === moving.value)
    if (!p) return undefined
    const [x, y] = [p.left_mm + by.value[0], p.top_mm + by.value[1]]
    const [r, b] = [x + p.width_mm, y + p.height_mm]
    return {
      kind: 'picture',
      ring: [
        [x, y],
        [r, y],
        [r, b],
        [x, b],
        [x, y],
      ] as Place[],
    }
  })
  function put([dx, dy]: Place) {
    const p = all.value.find((one) => one.id === moving.value)
    by.value = [0, 0]
    if (p && Math.hypot(dx, dy) > 0.2) void change(p.id, { left_mm: p.left_mm + dx, top_mm: p.top_mm + dy })
  }

  /** Bring a picture or document in: under the ink of this page, or as a sheet of its own. Its pages, as told. */
  async function bringIn(file: File, becomes: 'print' | 'sheet') {
    const told = await take(
      api.POST('/api/sheets/{sheet_id}/originals', {
        params: { ...path(), query: { becomes, name: file.name.replace(/\.[^.]+$/, '').slice(0, 80) || 'Brought in' } },
        body: '',
        bodySerializer: () => file,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    )
    if (becomes === 'print') journal.note(desk.sheet!.id, { prints: { prints: all.value, carries: false, saw: null } })
    for (const page of told.pages) {
      if (page.id === desk.sheet?.id) ink.made({ sheet: page })
      else desk.replaceSheet(page)
    }
    return told.pages
  }

  return { all, carries, moving, by, outline, set, change, lay, drop, put, bringIn }
})

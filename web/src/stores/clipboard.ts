import { StorageSerializers, useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { api, Refusal, take, takeFile } from '@/api/client'
import { moved } from '@/lib/placement'
import { useDesk } from './desk'
import { useInk } from './ink'
import { useSelection } from './selection'
import { useTool } from './tool'
import { useJournal } from './undo-journal'

interface Bundle {
  sheetId: string
  ids: string[]
}
const BESIDE_MM = 6 // a copy lies this far down and aside

/** Ink taken along from one sheet to another, and laid on the browser's clipboard as a picture. */
export const useClipboard = defineStore('clipboard', () => {
  const desk = useDesk()
  const ink = useInk()
  const selection = useSelection()
  const tool = useTool()
  const journal = useJournal()
  const bundle = useLocalStorage<Bundle | null>('gray-quill-taken-along', null, {
    serializer: StorageSerializers.object,
  })

  /** Take the chosen ink along, and lay it as pictures on the clipboard, where the browser lets us. */
  async function takeAlong(): Promise<void> {
    const sheetId = desk.sheet?.id
    if (!sheetId || !selection.ids.length) return
    bundle.value = { sheetId, ids: selection.ids }
    const n = `${selection.ids.length} ${selection.ids.length === 1 ? 'stroke' : 'strokes'}`
    const picture = (form: 'svg' | 'png') =>
      takeFile(`/api/sheets/${sheetId}/strokes/file`, { ids: bundle.value!.ids, form, dpi: 300 })
    const types: Record<string, Promise<Blob>> = { 'image/png': picture('png') }
    if (ClipboardItem.supports?.('image/svg+xml')) types['image/svg+xml'] = picture('svg')
    try {
      await navigator.clipboard.write([new ClipboardItem(types)])
      tool.said = `${n} taken along, and on the clipboard as a picture of 300 dots an inch.`
    } catch {
      tool.said = `${n} taken along. This browser gives no picture to the clipboard here.`
    }
  }

  /** Put the ink that was taken along on this sheet, where it lay on its own, or beside it. */
  async function putDown(): Promise<void> {
    const [kept, sheetId] = [bundle.value, desk.sheet?.id]
    if (!kept || !sheetId) return
    selection.choosing = true
    const aside = kept.sheetId === sheetId ? BESIDE_MM : 0
    const body = { ids: kept.ids, placement: moved(aside, aside), wider: true, copy_ink: true, to_sheet: sheetId }
    const params = { path: { sheet_id: kept.sheetId } }
    const done = await ink
      .inLine(() => take(api.POST('/api/sheets/{sheet_id}/strokes/place', { params, body })))
      .catch((error) => {
        if (error instanceof Refusal && error.status < 500) bundle.value = null // it is not there any more
        throw error
      })
    journal.note(sheetId, { away: done.back, back: [] })
    ink.showAgain(sheetId)
    selection.chooseThese(done.strokes)
  }

  return { bundle, takeAlong, putDown }
})

import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useDesk } from './desk'
import { useUnderlay } from './underlay'

/** Files that may become sheets, by the endings of their names. */
export const FILES = '.inkml,.xml,.svg,.csv,.tsv,.pdf,.png,.jpg,.jpeg,.ora,.zip'
/** Which column of a table is what, and its units. */
interface Meaning {
  x: string
  y: string
  stroke: string
  t: string
  force: string
  altitude: string
  azimuth: string
  length_unit: string
  time_unit: string
}
const raw = (file: File, type: string) => ({
  body: '' as never,
  bodySerializer: () => file,
  headers: { 'Content-Type': type },
})

/** Files that come in as sheets. A table waits until it is said what its columns mean. */
export const useBringIn = defineStore('bring-in', () => {
  const desk = useDesk()
  const table = shallowRef<{ file: File; look: Schemas['CsvLook'] }>()
  const path = () => ({ sheet_id: desk.sheet!.id })
  const nameOf = (file: File) => file.name.replace(/\.[^.]+$/, '').slice(0, 80) || 'Brought in'

  async function open(sheet: Schemas['Sheet'], passedOver: string[] = []) {
    desk.replaceSheet(sheet)
    if (passedOver.length) desk.news = `Not understood, and passed over: ${passedOver.slice(0, 6).join(', ')}.`
    await desk.openSheet(sheet.id)
  }
  async function archive(file: File) {
    const came = await take(api.POST('/api/archive', raw(file, 'application/zip')))
    await desk.load()
    desk.news = [came.words, ...came.left_out.map((words) => `Left out: ${words}.`)].slice(0, 8).join(' ')
  }

  /** Bring a file in; false while a table waits for its meaning. */
  async function bring(file: File): Promise<boolean> {
    const ending = /\.(\w+)$/.exec(file.name.toLowerCase())?.[1] ?? ''
    const params = { path: path(), query: { name: nameOf(file) } }
    if (ending === 'zip') await archive(file)
    else if (ending === 'csv' || ending === 'tsv') {
      table.value = { file, look: await take(api.POST('/api/csv/look', raw(file, 'text/csv'))) }
      return false
    } else if (ending === 'svg') {
      const came = await take(api.POST('/api/sheets/{sheet_id}/svg', { params, ...raw(file, 'image/svg+xml') }))
      await open(came.sheet, came.passed_over)
    } else if (ending === 'ora') {
      const asked = api.POST('/api/sheets/{sheet_id}/openraster', { params, ...raw(file, 'image/openraster') })
      const came = await take(asked)
      await open(came.sheet, came.passed_over)
    } else if (ending === 'inkml' || ending === 'xml') {
      const asked = { params: { path: path() }, ...raw(file, 'application/inkml+xml') }
      await open(await take(api.POST('/api/sheets/{sheet_id}/file', asked)))
      await desk.lookAgain()
    } else {
      const [first] = await useUnderlay().bringIn(file, 'sheet')
      if (first) await desk.openSheet(first.id)
    }
    return true
  }

  /** Take the table that waits, its columns meaning this. */
  async function takeTable(meaning: Meaning) {
    const { file } = table.value!
    const query = { ...meaning, name: nameOf(file) }
    const params = { path: path(), query }
    const came = await take(api.POST('/api/sheets/{sheet_id}/csv', { params, ...raw(file, 'text/csv') }))
    await open(came.sheet, came.passed_over)
  }

  return { table, bring, takeTable }
})

import { useDebounceFn, useLocalStorage } from '@vueuse/core'
import { computed, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useSelection } from '@/stores/selection'
import { useDesk } from '@/stores/desk'
import { notKept } from '@/stores/draft'

/** Notes the margin shows, and the kind of place on the ink each one's line ends at. */
const NOTES: [key: string, anchor?: string][] = [
  ['light and firm', 'width'],
  ['drag', 'trail'],
  ['tips', 'tips'],
  ['force'],
  ['wobble'],
]
type Scope = 'pen' | 'line' | 'all'
export const SCOPES = { pen: 'this pen', line: 'last line', all: 'all', chosen: 'chosen' } as const
const revisionOf = (revision: number) => (revision > 0 ? `revision ${revision}` : 'changes not kept')

/** What the ink of the sheet shows: of the pen in hand, the last line, all of it, or what is chosen. */
export function useReadings() {
  const desk = useDesk()
  const selection = useSelection()
  const scope = useLocalStorage<Scope>('gray-quill-readings-of', 'pen')
  const read = shallowRef<Schemas['ReadReply']>()
  const before = shallowRef<Schemas['Note'][]>([])

  function speakOf(of: keyof typeof SCOPES) {
    selection.choosing = of === 'chosen'
    if (of !== 'chosen') scope.value = of
  }
  const reads = useLatest(
    ({ id, of }: { id: string; of: Scope | string[] }) => {
      const path = { sheet_id: id }
      return typeof of === 'string'
        ? take(api.GET('/api/sheets/{sheet_id}/readings', { params: { path, query: { of } } }))
        : take(api.POST('/api/sheets/{sheet_id}/readings', { params: { path }, body: { ids: of } }))
    },
    (answer) => {
      // numbers of before and after are laid side by side for the same strokes only
      before.value = read.value?.traces === answer.traces ? read.value.notes : []
      read.value = answer
    },
  )
  const want = () =>
    desk.sheet && void reads.want({ id: desk.sheet.id, of: selection.ids.length ? selection.ids : scope.value })
  watch(
    () => desk.sheet?.id,
    (id) => {
      read.value = undefined
      before.value = []
      reads.forget()
      if (id) want()
    },
    { immediate: true },
  )
  watch([scope, () => desk.pen?.id, () => selection.ids], () => {
    if (read.value) want()
  })

  const notes = computed(() =>
    NOTES.flatMap(([key, anchor]) => {
      const note = read.value?.notes.find((n) => n.key === key)
      if (!note) return []
      const old = before.value.find((n) => n.key === key)
      return [{ note, anchor, was: old && old.words !== note.words ? `was ${old.words}` : '' }]
    }),
  )
  /** Which ink was read, by pen and revision. */
  const inks = computed(() =>
    (read.value?.of ?? []).map((o) => {
      const strokes = `${o.strokes} ${o.strokes === 1 ? 'stroke' : 'strokes'}`
      return { key: `${o.pen_id} ${o.revision}`, words: `${strokes} in ${o.name}, ${revisionOf(o.revision)}` }
    }),
  )
  /** Ink of the pen in hand that it would draw otherwise now; of what is chosen, any that it did not draw so. */
  const older = computed(() => {
    const pen = desk.pen
    const otherwise = (o: Schemas['InkShare']) => o.revision !== pen?.revision || (pen && !!notKept(pen))
    return (read.value?.of ?? []).some((o) => (o.pen_id === pen?.id ? otherwise(o) : selection.ids.length > 0))
  })
  const reports = computed(() => read.value?.notes.find((n) => n.key === 'reports')?.words)

  return { scope, speakOf, read, busy: reads.busy, readSoon: useDebounceFn(want, 350), notes, inks, older, reports }
}

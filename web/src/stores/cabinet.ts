import { defineStore } from 'pinia'
import { computed, reactive, ref, shallowRef } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from './desk'

export type Thing = Schemas['Thing']
/** How many things a page of the list shows: a list that scrolls without end is no help on e-ink. */
export const PAGE = 24
type Use = 'any' | 'used' | 'unused'

/** What is looked for among everything kept, what was found, and the one thing that is looked at. */
export const useCabinet = defineStore('cabinet', () => {
  const desk = useDesk()
  const info = shallowRef<Schemas['CabinetInfo']>()
  const wanted = reactive({ words: '', kind: '', since: '', until: '', use: 'any' as Use, binned: false, first: 0 })
  const found = shallowRef<Schemas['Found']>()
  const foundFor = ref('')
  const looked = useLatest(
    (query: typeof wanted) => take(api.GET('/api/cabinet', { params: { query: { ...query, most: PAGE } } })),
    (answer, query) => {
      found.value = answer
      foundFor.value = JSON.stringify(query)
    },
  )
  /** What is shown was found for other words than stand there now. */
  const stale = computed(() => looked.busy.value || foundFor.value !== JSON.stringify(wanted))
  const look = () => void looked.want({ ...wanted })

  const detail = shallowRef<Schemas['ThingDetail']>()
  const details = useLatest(
    (query: { kind: string; id: string }) => take(api.GET('/api/cabinet/thing', { params: { query } })),
    (answer) => (detail.value = answer),
  )
  const openThing = (kind: string, id: string) => details.want({ kind, id })
  const close = () => {
    details.forget()
    detail.value = undefined
  }

  async function need() {
    if (!info.value) info.value = await desk.attempt(() => take(api.GET('/api/cabinet/kinds')))
    look()
  }
  const kindOf = (kind: string) => info.value?.kinds.find((k) => k.name === kind)

  /** What was changed shows in the list, in what is looked at, and in the frame. */
  async function changed(thing?: Thing) {
    if (thing) stamps.set(keyOf(thing), (stamps.get(keyOf(thing)) ?? 0) + 1)
    look()
    if (thing) await openThing(thing.kind, thing.id)
    else close()
    await desk.load()
  }
  /** How often each thing was changed here: it may look otherwise then. */
  const stamps = reactive(new Map<string, number>())
  const keyOf = ({ kind, id }: Pick<Thing, 'kind' | 'id'>) => `${kind} ${id}`
  /** Where the core draws a thing. */
  const pictureOf = (thing: Thing) => {
    const query = new URLSearchParams({ kind: thing.kind, id: thing.id })
    const times = stamps.get(keyOf(thing))
    return `/api/cabinet/picture.png?${query}${times ? `&times=${times}` : ''}`
  }

  return {
    info,
    wanted,
    found,
    stale,
    look,
    detail,
    busy: details.busy,
    openThing,
    close,
    need,
    kindOf,
    changed,
    pictureOf,
  }
})

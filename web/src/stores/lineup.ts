import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useDesk } from './desk'

export type Run = Schemas['LineupRun']
/** A criterion of one's own, scored by hand: points by candidate. */
export interface Own {
  name: string
  points: Record<string, number>
  note: string
}

/** What is lined up and what counts: kept in this browser; what was measured stays until the page is closed. */
export const useLineup = defineStore('lineup', () => {
  const desk = useDesk()
  const info = shallowRef<Schemas['LineupInfo']>()
  const pens = useLocalStorage<string[]>('gray-quill-lineup-pens', [])
  const hands = useLocalStorage<string[]>('gray-quill-lineup-hands', [])
  const devices = useLocalStorage<string[]>('gray-quill-lineup-devices', [])
  /** On the writing of the sheet on the desk, rather than a simulated hand's. */
  const own = useLocalStorage('gray-quill-lineup-own', false)
  const weights = useLocalStorage<Record<string, number>>('gray-quill-lineup-weights', {})
  const musts = useLocalStorage<{ criterion: string; bound: number }[]>('gray-quill-lineup-musts', [])
  const scored = useLocalStorage<Own[]>('gray-quill-lineup-own-criteria', [])
  const byKind = useLocalStorage('gray-quill-lineup-by-kind', false)
  /** The judging that is going on in this window, kept so that it can be left and gone on with. */
  const judging = useLocalStorage('gray-quill-judging', '')
  const glass = useLocalStorage('gray-quill-lineup-glass', '')
  const tip = useLocalStorage('gray-quill-lineup-tip', '')
  const run = shallowRef<Run>()
  const runId = ref('')
  const verdict = ref('')
  /** One of each kind of pen, where they are ranked by kind. */
  const families = ref<Record<string, string>>({})
  const kept = shallowRef<Schemas['LineupHead'][]>([])
  /** The kept line-up that is laid out, and what moved since it was kept. */
  const keptAs = ref('')
  const moved = shallowRef<{ name: string; told: Schemas['MovedSince']; leftOut: string[] }>()
  const chosen = computed(() => pens.value.filter((id) => desk.desk?.pens.some((p) => p.id === id)))

  const needKept = () =>
    desk.attempt(async () => {
      kept.value = (await take(api.GET('/api/lineup/kept'))).lineups
    })
  /** Lay out what was measured, or so much of it as there is. */
  async function lay(id: string) {
    laid(id, await measured(id))
  }
  const measured = (id: string) => take(api.GET('/api/lineup/runs/{job_id}', { params: { path: { job_id: id } } }))
  function laid(id: string, found: Run) {
    run.value = found
    runId.value = id
    keptAs.value = ''
    moved.value = undefined
  }
  /** A kept line-up as it was, with what counted then. */
  async function openKept(one: Schemas['LineupHead']) {
    const told = await take(api.POST('/api/lineup/kept/{kept_id}/open', { params: { path: { kept_id: one.id } } }))
    await lay(told.run_id)
    weights.value = normal({ ...told.set.weights })
    musts.value = (told.set.musts ?? []).map((m) => ({ ...m }))
    scored.value = (told.set.own ?? []).map((o) => ({ ...o, note: o.note ?? '' }))
    byKind.value = !!told.set.by_kind
    verdict.value = told.set.verdict ?? ''
    families.value = { ...told.set.families }
    keptAs.value = one.id
  }
  /** What was measured again, beside what was kept. */
  async function laidAgain(id: string, one: Schemas['LineupHead'], leftOut: string[]) {
    await lay(id)
    const params = { path: { job_id: id }, query: { kept_id: one.id } }
    moved.value = { name: one.name, told: await take(api.GET('/api/lineup/runs/{job_id}/moved', { params })), leftOut }
  }

  async function need() {
    if (info.value) return
    await desk.attempt(async () => {
      info.value = await take(api.GET('/api/lineup'))
    })
    if (!Object.keys(weights.value).length) preset(first())
  }
  const first = () => Object.keys(info.value?.presets ?? {})[0]
  function preset(name: string | undefined) {
    const known = info.value?.presets[name ?? '']
    if (known) weights.value = normal({ ...known })
  }
  /** Weights as shares of one bar. */
  function normal(given: Record<string, number>): Record<string, number> {
    const whole = Object.values(given).reduce((sum, w) => sum + w, 0)
    return whole ? Object.fromEntries(Object.entries(given).map(([k, w]) => [k, w / whole])) : given
  }
  /** The preset these weights are, if they are one. */
  const presetNow = computed(
    () =>
      Object.entries(info.value?.presets ?? {}).find(([, known]) => {
        const shares = normal({ ...known })
        const [a, b] = [Object.keys(shares), Object.keys(weights.value)]
        return a.length === b.length && a.every((k) => Math.abs(shares[k]! - (weights.value[k] ?? -1)) < 1e-6)
      })?.[0],
  )
  /** A criterion comes in with an even share, or goes; the others keep theirs between them. */
  const add = (key: string) => {
    const n = Object.keys(weights.value).length
    weights.value = normal({ ...weights.value, [key]: n ? 1 / n : 1 })
  }
  const drop = (key: string) =>
    (weights.value = normal(Object.fromEntries(Object.entries(weights.value).filter(([k]) => k !== key))))
  /** Move a share from one to the other. */
  function move(from: string, to: string, by: number) {
    const now = weights.value
    const part = Math.max(-now[to]!, Math.min(now[from]!, by))
    weights.value = { ...now, [from]: now[from]! - part, [to]: now[to]! + part }
  }
  watch(scored, (all) => {
    const names = new Set([...all.map((o) => o.name), ...(info.value?.criteria.map((c) => c.key) ?? [])])
    for (const key of Object.keys(weights.value)) if (!names.has(key)) drop(key)
  })

  const labelOf = (key: string) => info.value?.criteria.find((c) => c.key === key)?.reading.label ?? key
  return {
    info,
    pens,
    hands,
    devices,
    own,
    weights,
    musts,
    scored,
    byKind,
    judging,
    glass,
    tip,
    run,
    runId,
    verdict,
    families,
    kept,
    keptAs,
    moved,
    chosen,
    needKept,
    lay,
    measured,
    laid,
    openKept,
    laidAgain,
    need,
    preset,
    presetNow,
    add,
    drop,
    move,
    labelOf,
  }
})

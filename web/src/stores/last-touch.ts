import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import type { PalmEvent, PalmTouch } from '@/ink'
import { streamOf } from '@/ink/palm-events'
import { useDesk } from './desk'
import { usePalm } from './palm'

const KEPT_MS = 8_000 // of what was felt, before the newest report
const MOST = 6_000 // reports

/** What was felt on the sheet's glass a moment ago, and what the palm rules made of the last touch. */
export const useLastTouch = defineStore('last-touch', () => {
  const desk = useDesk()
  const palm = usePalm()
  let felt: PalmEvent[] = []
  const contact = ref<number>()
  const why = shallowRef<Schemas['Why']>()
  /** Of which touch something was told, what, and under which id. */
  const told = shallowRef<{ contact: number; id: string; palm: boolean }>()

  function feel(e: PalmEvent) {
    felt.push(e)
    if (felt.length > MOST || felt[0]!.tMs < e.tMs - 2 * KEPT_MS) felt = felt.filter((f) => f.tMs >= e.tMs - KEPT_MS)
  }
  const decided = (touch: PalmTouch) => (contact.value = touch.id)

  /** What was felt as a stream: what landed before it began is left out. */
  function stream(): Schemas['StreamBody'] | undefined {
    const from = (felt.at(-1)?.tMs ?? 0) - KEPT_MS
    const down = new Set<number>()
    const rows: PalmEvent[] = []
    for (const e of felt) {
      if (e.tMs < from) continue
      if (e.pointer === 'touch') {
        if (e.phase === 'down' ? down.has(e.id) : !down.has(e.id)) continue
        if (e.phase === 'down') down.add(e.id)
        else if (e.phase !== 'move') down.delete(e.id)
      }
      rows.push({ ...e, tMs: Math.max(rows.at(-1)?.tMs ?? 0, e.tMs - from) })
    }
    const plan = palm.plan
    if (!plan) return undefined
    return streamOf(rows, [plan.widthMm, plan.heightMm])
  }

  const about = () => {
    const found = stream()
    const of = contact.value
    return found && palm.pair && of !== undefined && found.id.includes(of)
      ? { ...palm.pair, stream: found, contact: of }
      : undefined
  }

  /** Ask why the last touch was decided so. */
  async function ask() {
    why.value = undefined
    const body = about()
    const rules = palm.plan?.rules
    if (!body || !rules) return
    why.value = await desk.attempt(() => take(api.POST('/api/palm/why', { body: { ...body, rules } })))
  }

  /** Say what the last touch was: the next search of rules uses it. */
  async function tell(isPalm: boolean) {
    const body = about()
    if (!body) return
    const kept = await desk.attempt(() => take(api.POST('/api/palm/told', { body: { ...body, palm: isPalm } })))
    if (!kept) return
    told.value = { contact: body.contact, id: kept.id, palm: isPalm }
    palm.told = kept.told
  }

  async function takeBack() {
    const { pair } = palm
    const last = told.value
    if (!pair || !last) return
    const path = { params: { path: { told_id: last.id } }, body: { ...pair, binned: true } }
    const now = await desk.attempt(() => take(api.PUT('/api/palm/told/{told_id}/bin', path)))
    if (!now) return
    told.value = undefined
    palm.told = now.told
  }

  const toldNow = computed(() => (told.value && told.value.contact === contact.value ? told.value : undefined))
  return { contact, why, toldNow, feel, decided, ask, tell, takeBack }
})

import { defineStore } from 'pinia'
import { ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useDesk } from './desk'

export const WAYS = { time: 'as it was written', stroke: 'stroke by stroke', steady: 'steadily' } as const
export type Way = keyof typeof WAYS

/** The page's ink coming about again: whether it does, how, and at which moment it stands. */
export const useReplay = defineStore('replay', () => {
  const desk = useDesk()
  const on = ref(false)
  const by = ref<Way>('time')
  /** ms of the replay. */
  const at = ref(0)
  const told = shallowRef<Schemas['Replay']>()
  const lasts = ref(0)

  async function begin() {
    const sheet = desk.sheet
    if (!sheet) return
    const params = { path: { sheet_id: sheet.id }, query: { by: by.value } }
    told.value = await take(api.GET('/api/sheets/{sheet_id}/replay', { params }))
    lasts.value = 1000 * told.value.lasts_s
    at.value = 0
    on.value = true
  }
  const open = () => desk.attempt(begin)
  const close = () => (on.value = false)
  watch(by, () => on.value && void open())
  watch([() => desk.sheet?.id, () => desk.sheet?.ink], close)

  return { on, by, at, told, lasts, open, close }
})

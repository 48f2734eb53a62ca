import { useLocalStorage, useWindowSize } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import type { PalmPlan } from '@/ink'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from './desk'
import { useScreen } from './screen'

/** Rules and posture of the sentence's hand on its device, and the plan that protects the sheet from palms. */
export const usePalm = defineStore('palm', () => {
  const desk = useDesk()
  const screen = useScreen()
  const { width, height } = useWindowSize()
  const setting = ref<Schemas['PalmSetting']>()
  /** How many decisions the writer knew better. */
  const told = ref(0)
  /** What tells the look of a hand; the same for all. */
  const trees = shallowRef<Schemas['Trees']>()
  /** Once a pen was seen in this browser, fingers move the page instead of writing on it. */
  const penSeen = useLocalStorage('gray-quill-pen-seen', false)
  const fingerInk = useLocalStorage<'auto' | 'on' | 'off'>('gray-quill-finger-ink', 'auto')
  const pageLock = useLocalStorage('gray-quill-page-lock', false)
  const pair = computed(() =>
    desk.sheet ? { hand_id: desk.sheet.hand_id, device_id: desk.sheet.device_id } : undefined,
  )

  const asked = useLatest(
    async (of: { hand_id: string; device_id: string }) => {
      trees.value ??= await take(api.GET('/api/palm/trees'))
      return take(api.GET('/api/palm/setting', { params: { query: of } }))
    },
    (answer) => {
      setting.value = answer
      told.value = answer.told
    },
  )
  watch(
    pair,
    (now, before) => {
      if (now && !(now.hand_id === before?.hand_id && now.device_id === before.device_id)) void asked.want(now)
    },
    { immediate: true },
  )

  const fingerWrites = computed(() => {
    if (fingerInk.value !== 'auto') return fingerInk.value === 'on'
    return setting.value?.kept ? setting.value.rules.finger_ink : !penSeen.value
  })
  const plan = computed<PalmPlan | undefined>(
    () =>
      setting.value &&
      trees.value && {
        rules: {
          ...setting.value.rules,
          finger_ink: fingerWrites.value,
          page_lock: pageLock.value || setting.value.rules.page_lock,
        },
        zone: setting.value.zone,
        limits: setting.value.limits,
        trees: trees.value,
        widthMm: width.value / screen.pxPerMm,
        heightMm: height.value / screen.pxPerMm,
      },
  )

  /** Keep rules, and a posture where one was measured, for this hand on this device. */
  async function keep(rules: Schemas['Rules'], posture?: Schemas['Posture'] | null) {
    if (!pair.value) return
    setting.value = await take(
      api.PUT('/api/palm/setting', {
        body: {
          ...pair.value,
          rules,
          posture: posture ?? setting.value?.posture ?? null,
          saw: setting.value?.kept ? setting.value.rules : null,
        },
      }),
    )
    fingerInk.value = 'auto'
  }

  return { setting, told, trees, pair, plan, penSeen, fingerInk, fingerWrites, pageLock, keep }
})

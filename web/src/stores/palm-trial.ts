import { useDebounceFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { callsForAttention } from '@/lib/readings'
import { useDesk } from './desk'
import { usePalm } from './palm'

export type Rules = Schemas['Rules']
const MOST_TAKES = 5

/**
 * The Palm trial on the desk: drills that were done, by the simulated hand or a real one, and the rules they are judged
 * with.
 */
export const usePalmTrial = defineStore('palm-trial', () => {
  const desk = useDesk()
  const palm = usePalm()
  const info = shallowRef<Schemas['PalmInfo']>()
  const rules = ref<Rules>()
  const zone = shallowRef<Schemas['Zone']>()
  const posture = shallowRef<Schemas['Posture']>()
  const seed = ref(1)
  const own = shallowRef<Schemas['OwnPart'][]>([])
  const azimuthsDeg = shallowRef<number[]>([])
  const reply = shallowRef<Schemas['JudgedRun']>()
  const before = shallowRef<Schemas['JudgedRun']>()
  const sweep = shallowRef<Schemas['Recommended']>()
  const drill = ref('')
  const shownTake = ref(1)
  /** Whether the simulated hand does the drills of the hard set. */
  const hard = ref(false)

  const body = computed<Schemas['RunBody'] | undefined>(
    () =>
      palm.pair &&
      rules.value && {
        ...palm.pair,
        rules: rules.value,
        zone: zone.value ?? null,
        drills: [],
        hard: hard.value,
        seed: seed.value,
        own: own.value,
      },
  )
  /** How many readings of an outcome deserve attention. */
  const faults = (o: Schemas['Outcome']) =>
    Object.entries(desk.desk?.readings.palm ?? {}).filter(([key, known]) =>
      callsForAttention(known, o[key as keyof Schemas['Outcome']] as number),
    ).length
  const asked = useLatest(
    (b: Schemas['RunBody']) => take(api.POST('/api/palm/judge', { body: b })),
    (answer) => {
      before.value = reply.value
      reply.value = answer
      // what went wrong most is looked at first
      if (!answer.drills.some((d) => d.drill === drill.value))
        drill.value = [...answer.drills].sort((a, b) => faults(b.outcome) - faults(a.outcome))[0]?.drill ?? ''
    },
    undefined,
    { follow: true },
  )
  const runSoon = useDebounceFn(() => body.value && void asked.want(body.value), 120)
  watch(body, () => void runSoon())

  watch(
    () => palm.setting,
    (setting) => {
      if (!setting) return
      rules.value = { ...setting.rules }
      posture.value = setting.posture ?? undefined
      zone.value = setting.zone
    },
    { immediate: true },
  )
  watch(
    () => `${palm.pair?.hand_id}/${palm.pair?.device_id}`,
    () => {
      sweep.value = undefined
      own.value = []
      azimuthsDeg.value = []
      before.value = undefined
    },
  )

  /** Take a drill that a real hand did; done more than MOST_TAKES times, the first of them goes. */
  function did(part: Schemas['OwnPart'], azimuths: number[]) {
    const before = own.value.filter((p) => p.drill === part.drill)
    own.value = [...own.value.filter((p) => before.length < MOST_TAKES || p !== before[0]), part]
    azimuthsDeg.value = [...azimuthsDeg.value, ...azimuths]
  }

  async function load() {
    info.value ??= await desk.attempt(() => take(api.GET('/api/palm')))
  }
  const set = (name: string, value: unknown) => {
    if (rules.value) rules.value = { ...rules.value, [name]: value } as Rules
  }
  const takes = computed(() => reply.value?.parts.filter((p) => p.drill === drill.value) ?? [])
  const part = computed(() => takes.value.find((p) => p.take === shownTake.value) ?? takes.value[0])
  const changed = computed(
    () =>
      JSON.stringify(rules.value) !== JSON.stringify(palm.setting?.rules) ||
      posture.value !== (palm.setting?.posture ?? undefined),
  )

  return {
    info,
    rules,
    zone,
    posture,
    seed,
    own,
    azimuthsDeg,
    reply,
    before,
    sweep,
    drill,
    shownTake,
    takes,
    hard,
    body,
    part,
    changed,
    busy: asked.busy,
    load,
    did,
    set,
  }
})

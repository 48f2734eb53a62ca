import { useDebounceFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import { api, isNoInk, take, type Recipe, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import type { PenPlan } from '@/ink'
import { useDesk } from '@/stores/desk'
import { useInk } from '@/stores/ink'
import { usePlans } from '@/stores/plans'

const RINGED_MM = 0.05 // corners lost by less are not ringed on the ink

/**
 * Plan and readings of a recipe on the writer's ink. The plan follows at once; numbers wait until the hand rests, so
 * that they never hold up a picture.
 */
export function useReadings(
  recipe: Ref<Recipe | undefined>,
  source: Ref<Schemas['Source']>,
  inked: Readonly<Ref<boolean>>,
) {
  const desk = useDesk()
  const ink = useInk()
  const plans = usePlans()
  const notes = shallowRef<Schemas['Note'][]>([])
  /** Page positions of the corners most lost, to be shown on the ink. */
  const corners = shallowRef<number[][]>([])
  const plan = shallowRef<PenPlan>()
  const empty = computed(() => !inked.value)
  const absent = shallowRef<string[]>([])
  const waits = ref(false)
  const failed = (error: Error) => {
    if (!isNoInk(error)) desk.tell(error)
  }
  const reads = useLatest(
    (now: Recipe) => take(api.POST('/api/pen/readings', { body: { recipe: now, source: source.value } })),
    (answer) => {
      notes.value = answer.notes
      corners.value =
        (answer.readings?.corner_loss_mm ?? 0) > RINGED_MM ? (answer.anchors.corner ?? []).slice(0, 6) : []
      absent.value = answer.absent ?? []
    },
    failed,
    { follow: true },
  )
  const compiled = useLatest(
    (now: Recipe) => plans.compile(now, desk.sheet!.paper.colour),
    (made) => (plan.value = made),
    failed,
    { follow: true },
  )
  const readSoon = useDebounceFn((now: Recipe) => {
    waits.value = false
    if (inked.value) void reads.want(now)
  }, 120)

  watch(
    [recipe, source, inked, () => ink.changed],
    () => {
      if (!recipe.value || !desk.sheet) return
      void compiled.want(recipe.value)
      waits.value = inked.value
      if (!inked.value) {
        reads.forget()
        notes.value = []
        corners.value = []
      } else void readSoon(recipe.value)
    },
    { immediate: true },
  )
  return { notes, corners, plan, empty, absent, busy: computed(() => waits.value || reads.busy.value) }
}

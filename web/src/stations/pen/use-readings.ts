import { useDebounceFn } from '@vueuse/core'
import { ref, shallowRef, watch, type Ref } from 'vue'
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
export function useReadings(recipe: Ref<Recipe | undefined>, source: Ref<Schemas['Source']>) {
  const desk = useDesk()
  const ink = useInk()
  const plans = usePlans()
  const notes = shallowRef<Schemas['Note'][]>([])
  /** Page positions of the corners most lost, to be shown on the ink. */
  const corners = shallowRef<number[][]>([])
  const plan = shallowRef<PenPlan>()
  const empty = ref(false)
  const failed = (error: Error) => {
    if (isNoInk(error)) empty.value = true
    else desk.tell(error)
  }
  const reads = useLatest(
    (now: Recipe) => take(api.POST('/api/pen/readings', { body: { recipe: now, source: source.value } })),
    (answer) => {
      notes.value = answer.notes
      corners.value =
        (answer.readings?.corner_loss_mm ?? 0) > RINGED_MM ? (answer.anchors.corner ?? []).slice(0, 6) : []
      empty.value = false
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
  const readSoon = useDebounceFn((now: Recipe) => void reads.want(now), 120)

  watch(
    [recipe, source, () => ink.changed],
    () => {
      if (!recipe.value || !desk.sheet) return
      void compiled.want(recipe.value)
      void readSoon(recipe.value)
    },
    { immediate: true },
  )
  return { notes, corners, plan, empty, busy: reads.busy }
}

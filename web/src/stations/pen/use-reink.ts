import { useDebounceFn } from '@vueuse/core'
import { ref, shallowRef, watch, type Ref } from 'vue'
import { api, take, type Recipe, type Schemas } from '@/api/client'
import { useLatest } from '@/components/use-latest'
import type { PenPlan } from '@/ink'
import { useDesk } from '@/stores/desk'
import { usePlans } from '@/stores/plans'

/** A picture and where it lies in its strip, in device pixels. */
export interface Picture { image: string; left: number; top: number; width: number; height: number }

/**
 * The writer's own line drawn with a recipe: picture, plan and readings. The picture follows the recipe at once, one request in
 * flight, and so does the plan; readings follow when it rests.
 */
export function useReink(recipe: Ref<Recipe | undefined>, size: Ref<{ width: number; height: number }>) {
  const desk = useDesk()
  const plans = usePlans()
  const picture = shallowRef<Picture>()
  const readings = shallowRef<Record<string, number>>()
  const plan = shallowRef<PenPlan>()
  const empty = ref(false)

  const source = () => ({ sheet_id: desk.sheet!.id, part: 'line' as const, stroke_ids: null })
  const failed = (error: Error) => {
    if (/no ink on this sheet/.test(error.message)) empty.value = true
    else desk.trouble = error.message
  }

  const pictures = useLatest(
    (now: Recipe) => take(api.POST('/api/preview', { body: { recipe: now, source: source(), width_px: size.value.width, height_px: size.value.height } })),
    (answer) => {
      picture.value = { image: answer.image, left: answer.left_px, top: answer.top_px, width: answer.width_px, height: answer.height_px }
      empty.value = false
    },
    failed,
  )
  const reads = useLatest(
    (now: Recipe) => take(api.POST('/api/readings', { body: { recipe: now, source: source() } })),
    (answer: Schemas['ReadReply']) => (readings.value = answer.readings),
    failed,
  )
  const compiled = useLatest((now: Recipe) => plans.compile(now, desk.sheet!.paper.colour), (made) => (plan.value = made), failed)

  // numbers wait until the hand rests, so that they never hold up the picture
  const readSoon = useDebounceFn((now: Recipe) => void reads.want(now), 120)

  function refresh() {
    if (!recipe.value || !desk.sheet || size.value.width < 50) return
    void pictures.want(recipe.value)
    void compiled.want(recipe.value)
    readSoon(recipe.value)
  }
  watch([recipe, () => size.value.width, () => size.value.height, () => desk.sheet?.id], refresh, { immediate: true })
  return { picture, readings, plan, empty, refresh }
}

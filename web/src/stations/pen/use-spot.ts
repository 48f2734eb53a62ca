import { useDebounceFn } from '@vueuse/core'
import { ref, shallowRef, watch, type Ref } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'

interface Place {
  x_mm: number
  y_mm: number
}

/** The spot of the ink that was pressed: where it lies, what made its width, and whether its card is shown. */
export function useSpot(source: Ref<Schemas['Source']>, group: Ref<string>, inked: Readonly<Ref<boolean>>) {
  const desk = useDesk()
  const draft = useDraft()
  const place = shallowRef<Place>()
  const spot = shallowRef<Schemas['Spot']>()
  /** The card lies over the chart of the group until it is put away. */
  const shown = ref(false)
  const spots = useLatest(
    (at: Place) => take(api.POST('/api/pen/spot', { body: { recipe: draft.recipe!, source: source.value, ...at } })),
    (answer) => (spot.value = answer),
    () => (spot.value = undefined),
  )
  watch([group, () => source.value.sheet_id, () => desk.pen?.id], () => (shown.value = false))
  watch([() => source.value.sheet_id, () => source.value.part, inked], () => (place.value = spot.value = undefined))
  const again = useDebounceFn(() => place.value && draft.recipe && void spots.want(place.value), 250)
  watch(
    () => draft.recipe,
    () => void again(),
  )

  /** Pressing the ink marks the spot and brings its card into view. */
  async function press(at: Place) {
    place.value = at
    shown.value = true
    await spots.want(at)
  }
  return { spot, place, shown, press }
}

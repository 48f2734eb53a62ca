import { useDebounceFn } from '@vueuse/core'
import { shallowRef, watch, type Ref } from 'vue'
import { api, take, type Recipe, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'

/** Readings of the pen as it is set that differ from another one's, laid beside it. */
export function useDifferences(source: Ref<Schemas['Source']>) {
  const desk = useDesk()
  const draft = useDraft()
  const against = shallowRef<Recipe>()
  const differing = shallowRef<Schemas['Difference'][]>()
  const asked = useLatest(
    (body: Schemas['DifferBody']) => take(api.POST('/api/pen/differences', { body })),
    (answer) => (differing.value = answer.differences),
    () => (differing.value = undefined),
  )
  const askSoon = useDebounceFn(() => {
    if (against.value && draft.recipe)
      return void asked.want({ one: draft.recipe, other: against.value, source: source.value })
    asked.forget()
    differing.value = undefined
  }, 250)
  watch([() => draft.recipe, against], () => void askSoon())
  const named = (d: Schemas['Difference']) => desk.reading('ink', d.reading)!
  return { against, differing, named }
}

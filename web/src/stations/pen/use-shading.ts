import { createSharedComposable, useDebounceFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { useInk } from '@/stores/ink'

/** The pen on the shading bench; one request for all that show a part of it. */
export const useShading = createSharedComposable(() => {
  const desk = useDesk()
  const draft = useDraft()
  const ink = useInk()
  const reply = shallowRef<Schemas['ShadingReply']>()
  const ownSheet = ref<string>()
  /** Test sheets may hold shading of the writer's own. */
  const sheets = computed(() => (desk.desk?.sheets ?? []).filter((s) => s.prompts === 'test' && s.strokes))
  const asked = useLatest(
    (body: Schemas['ShadingBody']) => take(api.POST('/api/pen/shading', { body })),
    (a) => (reply.value = a),
    (error) => {
      desk.tell(error)
      ownSheet.value = undefined
    },
  )
  const askSoon = useDebounceFn(() => {
    if (draft.recipe && desk.sheet)
      void asked.want({ recipe: draft.recipe, sheet_id: desk.sheet.id, own_sheet_id: ownSheet.value ?? null })
  }, 120)
  watch([() => draft.recipe, () => desk.sheet, ownSheet, () => ink.changed], () => void askSoon(), { immediate: true })
  return { reply, ownSheet, sheets, busy: asked.busy }
})

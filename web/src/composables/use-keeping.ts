import { computed, ref } from 'vue'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'

/** Keep the pen in hand as it is set; justKept: that was done here just now, so ink of before may be inked again. */
export function useKeeping() {
  const desk = useDesk()
  const draft = useDraft()
  const keptHere = ref('')
  const now = () => `${desk.pen?.id} ${desk.pen?.revision}`
  async function keep() {
    await draft.keep(draft.note.trim())
    if (!draft.changed) keptHere.value = now()
  }
  return { keep, justKept: computed(() => !draft.changed && keptHere.value === now()) }
}

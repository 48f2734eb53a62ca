import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take } from '@/api/client'
import { useDesk } from './desk'

/** Strokes chosen on the sheet: touched, crossed or ringed with the pen, until something else is read. */
export const useChosen = defineStore('chosen', () => {
  const desk = useDesk()
  /** The pen chooses instead of writing. */
  const choosing = ref(false)
  /** Path of each chosen stroke by its id, page mm. */
  const paths = shallowRef(new Map<string, number[][]>())
  const ids = computed(() => [...paths.value.keys()])
  watch([() => desk.sheet?.id, choosing], () => (paths.value = new Map()))

  /** What a way meets is chosen; where all of it was already, it is let go. */
  async function along(sheetId: string, way: number[][]): Promise<void> {
    const { strokes } = await take(
      api.POST('/api/sheets/{sheet_id}/strokes/met', {
        params: { path: { sheet_id: sheetId } },
        body: { way: way as [number, number][] },
      }),
    )
    if (!choosing.value || sheetId !== desk.sheet?.id) return
    const now = new Map(paths.value)
    if (strokes.every((s) => now.has(s.id))) for (const s of strokes) now.delete(s.id)
    else for (const s of strokes) now.set(s.id, s.path)
    paths.value = now
  }

  return { choosing, paths, ids, along }
})

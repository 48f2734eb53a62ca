import { shallowRef, watch, type Ref } from 'vue'
import type { Recipe, SheetItem } from '@/api/client'
import { useChosen } from '@/stores/chosen'
import { useDesk } from '@/stores/desk'
import type { NewStroke } from '@/stores/ink'
import { usePlans } from '@/stores/plans'
import type { WrittenWith } from './use-writing'

const MOST_OF_WAY = 4000

/** What a way that chooses ink is drawn with, while the pen chooses, and what becomes of it. */
export function useChooser(sheet: Ref<SheetItem | undefined>) {
  const desk = useDesk()
  const chosen = useChosen()
  const plans = usePlans()
  const chooser = shallowRef<WrittenWith>()
  const ways = new Set<string>()

  watch(
    [() => chosen.choosing, () => sheet.value?.paper],
    async ([choosing, paper]) => {
      chooser.value = undefined
      if (!choosing || !paper) return
      const body = { colour: sheet.value!.paper_is_dark ? '#a9d6ce' : '#2e5e5a', width_mm: 0.4 }
      const plan = await desk.attempt(() => plans.planOf({ format: 'gray-quill/pen@1', body } as Recipe, paper))
      if (plan && chosen.choosing) chooser.value = { plan, id: '', revision: 0, draft: null }
    },
    { immediate: true },
  )

  /** Choose what a way meets. */
  function choose({ id, x_mm, y_mm }: NewStroke) {
    ways.add(id)
    const every = Math.ceil(x_mm.length / MOST_OF_WAY)
    const way = x_mm.map((x, k) => [x, y_mm[k]!]).filter((_, k) => k % every === 0)
    if (sheet.value) void desk.attempt(() => chosen.along(sheet.value!.id, way))
  }

  return { chooser, choose, drew: (id: string) => ways.has(id) }
}

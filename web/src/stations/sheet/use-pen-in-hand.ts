import { computed, shallowRef, watch, type Ref } from 'vue'
import type { SheetItem } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { asSet, notKept } from '@/stores/draft'
import { useScreenSettings } from '@/stores/screen-settings'
import { usePlans } from '@/stores/plans'
import { useScreen } from '@/stores/screen'
import { useTool } from '@/stores/tool'
import type { WrittenWith } from './writing-options'

const [LEAST_MM, MOST_MM] = [0.05, 20] // of a pen's width

/** The pen as it writes here: as it is set, or as broad on the screen as it would be at true size; and its plan. */
export function usePenInHand(sheet: Ref<SheetItem | undefined>, cssScale: Ref<number>) {
  const desk = useDesk()
  const settings = useScreenSettings()
  const plans = usePlans()
  const screen = useScreen()
  const tool = useTool()
  /** The pen that writes, as it is set now. */
  const writes = shallowRef<WrittenWith>()

  const inHand = computed(() => {
    const pen = desk.pen
    if (!pen || !cssScale.value) return undefined
    const recipe = asSet(pen)
    if (!tool.widthAsSeen || !recipe.body) return { pen, recipe, draft: notKept(pen) }
    const mm = ((recipe.body.width_mm ?? 0.5) * screen.pxPerMm) / cssScale.value
    const scaled = {
      ...recipe,
      body: { ...recipe.body, width_mm: Number(Math.min(MOST_MM, Math.max(LEAST_MM, mm)).toPrecision(2)) },
    }
    return { pen, recipe: scaled, draft: scaled }
  })
  const compiled = useLatest(
    async ({
      pen,
      recipe,
      draft,
      paper,
      plain,
    }: NonNullable<typeof inHand.value> & { paper: SheetItem['paper']; plain: boolean }) => ({
      plan: await plans.planOf(recipe, paper, plain),
      id: pen.id,
      revision: pen.revision,
      draft,
      recipe,
    }),
    (made) => (writes.value = made),
  )
  watch(
    [
      () => JSON.stringify(inHand.value?.recipe),
      () => desk.pen?.id,
      () => desk.pen?.revision,
      () => sheet.value?.paper,
      () => settings.plain,
    ],
    () => {
      writes.value = undefined
      compiled.forget()
      if (inHand.value && sheet.value)
        void compiled.want({ ...inHand.value, paper: sheet.value.paper, plain: settings.plain })
    },
    { immediate: true },
  )
  return { inHand, writes }
}

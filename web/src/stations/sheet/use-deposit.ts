import { shallowRef, watch, type Ref } from 'vue'
import { takeFile, type Box, type Recipe, type Schemas, type SheetItem } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import type { Deposit, PenPlan } from '@/ink'
import { useInk } from '@/stores/ink'
import type { Seen } from './use-page'

const INSIDE = 0.01 // px, as in use-tiles.ts

interface Wanted {
  id: string
  recipe: Recipe
  scale: number
  seen: Seen
}

/** What the ink that is seen left for the pen in use, for live ink to start from; none for pens that do not ask. */
export function useDeposit(
  sheet: Ref<SheetItem | undefined>,
  pen: Ref<{ plan: PenPlan; recipe: Recipe } | undefined>,
  scale: Ref<number>,
  seen: Ref<Seen>,
) {
  const ink = useInk()
  const deposit = shallowRef<Deposit>()
  const asks = (plan: PenPlan) => (plan.grain && !plan.hollow && !plan.wet && !plan.spray) || plan.even > 0

  async function have({ id, recipe, scale: at, seen: { left, top, width, height } }: Wanted): Promise<Deposit> {
    const edge = (px: number, inward: number) => (px + inward * INSIDE) / at
    const box_mm: Box = [edge(left, 1), edge(top, 1), edge(left + width, -1), edge(top + height, -1)]
    const body: Schemas['DepositBody'] = { recipe, scale: at, box_mm }
    const answer = await takeFile(`/api/sheets/${id}/deposit.png`, body)
    const picture = await createImageBitmap(answer, { colorSpaceConversion: 'none' })
    const canvas = new OffscreenCanvas(picture.width, picture.height).getContext('2d', { willReadFrequently: true })!
    canvas.drawImage(picture, 0, 0)
    const { data } = canvas.getImageData(0, 0, picture.width, picture.height)
    return { scale: at, left, top, width: picture.width, height: picture.height, data }
  }
  // without it live ink starts from bare paper, and is right as soon as it has settled
  const latest = useLatest(
    have,
    (found) => (deposit.value = found),
    () => (deposit.value = undefined),
  )

  watch(
    [sheet, pen, scale, seen, () => ink.changed],
    () => {
      const now = pen.value
      const id = sheet.value?.id
      if (!now || !id || !asks(now.plan) || !scale.value || !seen.value.width) {
        latest.forget()
        deposit.value = undefined
        return
      }
      void latest.want({ id, recipe: now.recipe, scale: scale.value, seen: seen.value })
    },
    { immediate: true },
  )
  return deposit
}

import { computed, type Ref } from 'vue'
import type { SheetItem } from '@/api/client'
import { samplesOf } from '@/ink'
import { useInk } from '@/stores/ink'

const ROUND_MM = 1

/** Where refused ink lies on a sheet, mm. */
export function useRefusedBoxes(sheet: Ref<SheetItem | undefined>) {
  const ink = useInk()
  return computed(() =>
    ink.refused
      .filter((group) => group.sheetId === sheet.value?.id)
      .flatMap((group) => group.strokes)
      .map((stroke) => samplesOf(stroke))
      .filter((samples) => samples.length)
      .map((samples) => {
        const [x, y] = [samples.map((s) => s.x), samples.map((s) => s.y)]
        const [left, top] = [Math.min(...x) - ROUND_MM, Math.min(...y) - ROUND_MM]
        return { left, top, width: Math.max(...x) + ROUND_MM - left, height: Math.max(...y) + ROUND_MM - top }
      }),
  )
}

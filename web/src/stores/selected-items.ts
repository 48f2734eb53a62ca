import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import type { Box } from '@/api/client'
import { around } from '@/lib/boxes'
import { carriedBox, type Placement } from '@/lib/placement'
import { holds, isTouch } from '@/lib/rings'
import { useCovers } from './covers'
import { useUnderlay } from './underlay'
import type { Step } from './undo-journal'

/** What lies over and under ink: both have an id, a corner and a size. */
interface Thing {
  id: string
  left_mm: number
  top_mm: number
  width_mm: number
  height_mm: number
}
export const boxOf = (t: Thing): Box => [t.left_mm, t.top_mm, t.left_mm + t.width_mm, t.top_mm + t.height_mm]

/** Covers and pictures a ring took, or a touch: they are carried, copied and taken away with the ink chosen. */
export const useSelectedItems = defineStore('selected-items', () => {
  const covers = useCovers()
  const underlay = useUnderlay()
  const ids = shallowRef(new Set<string>())
  const loose = computed(() => underlay.all.filter((p) => !p.tiled))
  const chosenCovers = computed(() => covers.all.filter((c) => ids.value.has(c.id)))
  const chosenPrints = computed(() => loose.value.filter((p) => ids.value.has(p.id)))
  const all = computed((): Thing[] => [...chosenCovers.value, ...chosenPrints.value])
  const box = computed<Box | undefined>(() =>
    all.value.map(boxOf).reduce<Box | undefined>((whole, b) => (whole ? around(whole, b) : b), undefined),
  )
  const words = computed(() =>
    [count(chosenCovers.value.length, 'cover'), count(chosenPrints.value.length, 'picture')].filter(Boolean),
  )

  /** What lies wholly inside a ring, or the cover that is touched; let go where all of it was chosen already. */
  function along(way: readonly [number, number][]): Thing[] {
    const [x, y] = way[0]!
    return isTouch(way)
      ? covers.all.filter(
          (c) => !covers.lifted.has(c.id) && x > boxOf(c)[0] && x < boxOf(c)[2] && y > boxOf(c)[1] && y < boxOf(c)[3],
        )
      : [...covers.all, ...loose.value].filter((t) => holds(way, boxOf(t)))
  }
  /** Whether all of it was chosen before. */
  const has = (met: readonly Thing[]) => met.every((t) => ids.value.has(t.id))
  function turn(met: readonly Thing[], on: boolean) {
    const now = new Set(ids.value)
    for (const t of met)
      if (on) now.add(t.id)
      else now.delete(t.id)
    ids.value = now
  }

  /** Steps that put each of the chosen where a placement takes it, or a copy of it there. */
  function placed(placement: Placement, copy: boolean): Step[] {
    const fresh = new Map(all.value.map((t) => [t.id, copy ? freshId(t.id) : t.id]))
    const there = <T extends Thing>(t: T): T => {
      const [left, top, right, bottom] = carriedBox(boxOf(t), placement).box
      const at = { left_mm: left, top_mm: top, width_mm: right - left, height_mm: bottom - top }
      return { ...t, ...at, id: fresh.get(t.id)! }
    }
    const turns = carriedBox([0, 0, 1, 1], placement).turns
    const steps = changed(
      (every) => put(every, chosenCovers.value.map(there), copy),
      (every) =>
        put(
          every,
          chosenPrints.value.map((p) => ({ ...there(p), quarter_turns: (p.quarter_turns + turns) % 4 })),
          copy,
        ),
    )
    if (copy) ids.value = new Set(fresh.values())
    return steps
  }
  const gone = (): Step[] => {
    const left = <T extends Thing>(every: T[]) => every.filter((t) => !ids.value.has(t.id))
    return changed(left, left)
  }
  function changed(
    ofCovers: (all: typeof covers.all) => typeof covers.all,
    ofPrints: (all: typeof underlay.all) => typeof underlay.all,
  ): Step[] {
    const steps: Step[] = []
    if (chosenCovers.value.length) steps.push({ covers: { covers: ofCovers(covers.all), saw: null } })
    if (chosenPrints.value.length) steps.push({ prints: { prints: ofPrints(underlay.all), carries: false, saw: null } })
    return steps
  }

  return { ids, all, box, words, along, has, turn, placed, gone, letGo: () => (ids.value = new Set()) }
})

const count = (n: number, word: string) => (n ? `${n} ${word}${n === 1 ? '' : 's'}` : '')
const freshId = (id: string) => `${id.split('-')[0]}-${crypto.randomUUID().slice(0, 13)}`
/** All of them, with those changed in place of what they were, or beside them. */
function put<T extends Thing>(every: T[], now: T[], copy: boolean): T[] {
  if (copy) return [...every, ...now]
  return every.map((t) => now.find((n) => n.id === t.id) ?? t)
}

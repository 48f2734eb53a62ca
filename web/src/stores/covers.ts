import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import type { Box, Schemas } from '@/api/client'
import { useDesk } from './desk'
import { useInk } from './ink'

export type Cover = Required<Schemas['Cover']>
const ROOM_MM = 1 // round what is covered

/** Strips over ink of the page on the desk; a press lifts one, another lays it again. */
export const useCovers = defineStore('covers', () => {
  const desk = useDesk()
  const ink = useInk()
  const all = computed(() => (desk.sheet?.covers ?? []) as Cover[])
  /** Those that are lifted, in this window. */
  const lifted = ref(new Set<string>())
  watch(
    () => desk.sheet?.id,
    () => (lifted.value = new Set()),
  )

  /** One step of undo. */
  const set = (covers: Cover[]) =>
    desk.attempt(() => ink.change(desk.sheet!.id, { covers: { covers, saw: null } as Schemas['Covers'] }))
  const cover = ([left, top, right, bottom]: Box) =>
    set([
      ...all.value,
      {
        id: `cover-${crypto.randomUUID().slice(0, 13)}`,
        left_mm: left - ROOM_MM,
        top_mm: top - ROOM_MM,
        width_mm: right - left + 2 * ROOM_MM,
        height_mm: bottom - top + 2 * ROOM_MM,
      },
    ])
  const drop = (gone: (c: Cover) => boolean) => {
    const left = all.value.filter((c) => !gone(c))
    return left.length < all.value.length ? set(left) : Promise.resolve()
  }
  /** Take away those that an eraser of this radius goes over. */
  const rub = (way: [number, number][], radius: number) =>
    drop(({ left_mm: x0, top_mm: y0, width_mm: w, height_mm: h }) =>
      way.some(([x, y]) => x > x0 - radius && x < x0 + w + radius && y > y0 - radius && y < y0 + h + radius),
    )
  function press(id: string) {
    const now = new Set(lifted.value)
    if (!now.delete(id)) now.add(id)
    lifted.value = now
  }
  const liftAll = (up: boolean) => (lifted.value = new Set(up ? all.value.map((c) => c.id) : []))

  return { all, lifted, cover, rub, press, liftAll, take: () => drop(() => true) }
})

import { defineStore } from 'pinia'
import { computed, shallowRef, watch } from 'vue'
import { api, take, type Box, type Recipe, type Schemas } from '@/api/client'
import type { Sample } from '@/ink'
import { useDesk } from './desk'
import { useInk } from './ink'

type Lines = Schemas['ShownLines']
const nothing = () =>
  ({ pens: {}, plain: false, ink: [], lifted: [], kept: [], dropped: [], point: null, view: null }) as Required<Lines>
const [MOST_SAMPLES, MOST_STROKES] = [1500, 12] // of one message
export const epochMs = () => performance.timeOrigin + performance.now()

/** Showing a sheet to others: its link, and what the nib does, sent on as fast as the server takes it. */
export const useMirrorShow = defineStore('show', () => {
  const desk = useDesk()
  const ink = useInk()
  const stage = shallowRef<Schemas['StageReply']>()
  const shows = computed(() => !!stage.value?.open && stage.value.sheet_id === desk.sheet?.id)
  let number = Math.floor(epochMs()) % 1e9 // others may still have strokes of this page's last visit
  let told = 0
  let writing = false
  let queue = nothing()
  let busy = false
  const brought = new Map<string, string>()
  /** Strokes that lifted and are not kept yet, by the ids they are kept under. */
  const under = new Map<string, number>()
  /** The server's clock is so far ahead of this one, by the quickest answer so far. */
  let clock = { ahead: 0, tripMs: Infinity }

  const look = () =>
    desk.attempt(async () => {
      stage.value = await take(api.GET('/api/stage'))
    })
  const show = (whole: boolean) =>
    desk.attempt(async () => {
      if (!desk.sheet) return
      brought.clear()
      stage.value = await take(api.POST('/api/stage', { body: { sheet_id: desk.sheet.id, whole } }))
    })
  // those who look on turn to another page of the sheet with who shows it
  watch(
    () => desk.sheet?.id,
    (id) => {
      const shown = desk.desk?.sheets.find((s) => s.id === stage.value?.sheet_id)
      if (id && stage.value?.open && shown && shown.id !== id && shown.sheaf === desk.sheet?.sheaf)
        void show(stage.value.whole)
    },
  )
  const withdraw = () =>
    desk.attempt(async () => {
      stage.value = await take(api.DELETE('/api/stage'))
    })

  /** The name others know a pen by; it is brought to them first. */
  function penOf(recipe: Recipe, plain: boolean): string {
    const is = `${JSON.stringify(recipe)}${plain}`
    const known = brought.get(is)
    if (known) return known
    const key = `pen-${brought.size + 1}-${Math.floor(epochMs())}`
    brought.set(is, key)
    queue.pens[key] = recipe
    queue.plain = plain
    return key
  }

  /** A stroke goes on: all its reports so far. */
  function wrote(samples: readonly Sample[], recipe: Recipe, plain: boolean) {
    if (!shows.value) return
    if (!writing || samples.length < told) {
      writing = true
      number += 1
      told = 0
    }
    const fresh = samples.slice(told, told + MOST_SAMPLES)
    if (!fresh.length) return
    told += fresh.length
    const pen = penOf(recipe, plain)
    const rows = fresh.map((s) => [s.tS, s.x, s.y, s.force, s.altitude, s.azimuth])
    const made_ms = epochMs() + clock.ahead
    const last = queue.ink.at(-1)
    // while a message is on its way the next one grows
    if (last?.number === number && last.samples.length + rows.length <= MOST_SAMPLES) {
      last.samples.push(...rows)
      last.made_ms = made_ms
    } else if (queue.ink.length < MOST_STROKES) queue.ink.push({ number, pen, samples: rows, made_ms })
    void flush()
  }
  /** It lifted, and is kept under this id; or it turned out to be no ink. */
  function lifted(id: string | undefined) {
    if (!writing) return
    writing = false
    if (id) {
      queue.lifted.push(number)
      under.set(id, number)
    } else queue.dropped.push(number)
    void flush()
  }
  function point(at: [number, number][], down: boolean, look: Omit<Schemas['ShownPoint'], 'at' | 'down'>) {
    if (!shows.value) return
    const before = queue.point?.at ?? []
    queue.point = { ...look, at: [...before, ...at].slice(-MOST_SAMPLES), down }
    void flush()
  }
  function sees(view: Box) {
    if (!shows.value) return
    queue.view = view
    void flush()
  }

  async function flush() {
    if (busy) return
    busy = true
    try {
      while (shows.value) {
        for (const [id, n] of under) {
          if (ink.waiting.has(id)) continue
          queue.kept.push(n)
          under.delete(id)
        }
        const now = queue
        if (JSON.stringify(now) === JSON.stringify(nothing())) break
        queue = nothing()
        const from = epochMs()
        const { now_ms } = await take(api.POST('/api/stage/lines', { body: now }))
        const trip = epochMs() - from
        if (trip < clock.tripMs) clock = { ahead: now_ms - (from + epochMs()) / 2, tripMs: trip }
      }
    } catch {
      queue = nothing()
      brought.clear()
      await look() // withdrawn elsewhere, or the server is away
    } finally {
      busy = false
    }
  }

  return { stage, shows, look, show, withdraw, wrote, lifted, point, sees, flush }
})

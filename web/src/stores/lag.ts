import { defineStore } from 'pinia'
import { computed, ref, shallowRef, triggerRef } from 'vue'
import type { Schemas } from '@/api/client'
import { useDesk } from './desk'

interface Measured {
  live?: Schemas['Live']
  filmed?: Schemas['Filmed']
  reading?: Schemas['FilmReading']
  /** Where the ink ended in the frames of the drill, and how far the pen looked ahead in it. */
  shown?: Schemas['ShownReply'] & { aheadMs: number }
  /** A session of hidden delays that goes on. */
  feel?: { seed: number; turns: Schemas['Turn'][] }
  /** The film that can be stepped through. */
  film?: string
}

/**
 * What the Lag station was asked, and what was measured here and filmed. It stays while other stations are looked at;
 * each pen on each device has its own.
 */
export const useLag = defineStore('lag', () => {
  const desk = useDesk()
  const speed = ref(60)
  const about = computed(() => `${desk.pen?.id}/${desk.pen?.revision}/${desk.device?.id}`)
  const measured = shallowRef(new Map<string, Measured>())
  const of = <K extends keyof Measured>(key: K) =>
    computed<Measured[K]>({
      get: () => measured.value.get(about.value)?.[key],
      set: (value) => {
        measured.value.set(about.value, { ...measured.value.get(about.value), [key]: value })
        triggerRef(measured)
      },
    })
  /** What was written in the drill, and what this browser leaves out. */
  const seen = shallowRef<Schemas['Seen']>()
  const seenWords = ref<string[]>([])
  /** Whose reports are looked at: the sheet's strokes', the stand-in's, or this device's. */
  const inspected = ref<'sheet' | 'stand-in' | 'here'>('sheet')
  const [live, filmed, reading] = [of('live'), of('filmed'), of('reading')]
  const [film, shown, feel] = [of('film'), of('shown'), of('feel')]
  return { speed, about, live, filmed, reading, film, shown, feel, seen, seenWords, inspected }
})

import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import type { Schemas } from '@/api/client'

/**
 * What the Lag station was asked, and what was measured here and filmed; it stays while other stations are looked at.
 */
export const useLag = defineStore('lag', () => {
  const speed = ref(60)
  const lookAhead = ref(0)
  const live = shallowRef<Schemas['Live']>()
  const filmed = shallowRef<Schemas['Filmed']>()
  const reading = shallowRef<Schemas['FilmReading']>()
  /** The film that can be stepped through. */
  const film = ref<string>()
  /** What was written in the drill, and what this browser leaves out. */
  const seen = shallowRef<Schemas['Seen']>()
  const seenWords = ref<string[]>([])
  return { speed, lookAhead, live, filmed, reading, film, seen, seenWords }
})

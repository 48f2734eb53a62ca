import { ref } from 'vue'

/** Work that is done once however often it is asked for: while it goes on, asking again does nothing. */
export function useOnce<A extends unknown[]>(work: (...given: A) => Promise<unknown> | unknown) {
  const busy = ref(false)
  async function run(...given: A): Promise<void> {
    if (busy.value) return
    busy.value = true
    try {
      await work(...given)
    } finally {
      busy.value = false
    }
  }
  return { run, busy }
}

import { onScopeDispose, ref } from 'vue'

/**
 * At most one request in flight; while it is, only the newest wish is remembered and asked next. Late answers of an
 * ended scope are dropped. `ask` resolves with the answer; `done` gets it.
 */
export function useLatest<Wish, Answer>(
  ask: (wish: Wish) => Promise<Answer>,
  done: (answer: Answer, wish: Wish) => void,
  failed: (error: Error) => void,
) {
  const busy = ref(false)
  let next: { wish: Wish } | undefined
  let over = false

  async function want(wish: Wish) {
    next = { wish }
    if (busy.value) return
    busy.value = true
    while (next && !over) {
      const now: Wish = next.wish
      next = undefined
      try {
        const answer = await ask(now)
        if (!over) done(answer, now)
      } catch (error) {
        if (!over) failed(error as Error)
      }
    }
    busy.value = false
  }

  onScopeDispose(() => {
    over = true
  })
  return { want, busy }
}

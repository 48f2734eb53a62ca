import { onScopeDispose, ref } from 'vue'
import { useDesk } from '@/stores/desk'

/**
 * The one way to ask the server again and again: at most one request in flight; while it is, only the newest wish is
 * remembered and asked next. A late answer is dropped: one that a newer wish has overtaken, that was forgotten, or
 * whose scope has ended. `ask` resolves with the answer, `done` gets it, `failed` a refusal (shown in the frame by
 * default).
 *
 * @param options.follow pictures that follow a dragged control: answers on the way are shown too. @default false
 */
export function useLatest<Wish, Answer>(
  ask: (wish: Wish) => Promise<Answer>,
  done: (answer: Answer, wish: Wish) => void,
  failed: (error: Error) => void = (error) => (useDesk().trouble = error.message),
  options: { follow?: boolean } = {},
) {
  const busy = ref(false)
  let next: { wish: Wish; number: number } | undefined
  let newest = 0
  let forgotten = 0
  let over = false
  const late = (number: number) => over || number <= forgotten || (!options.follow && number < newest)

  async function want(wish: Wish) {
    next = { wish, number: ++newest }
    if (busy.value) return
    busy.value = true
    while (next && !over) {
      const now: { wish: Wish; number: number } = next
      next = undefined
      try {
        const answer = await ask(now.wish)
        if (!late(now.number)) done(answer, now.wish)
      } catch (error) {
        if (!late(now.number)) failed(error as Error)
      }
    }
    busy.value = false
  }

  /** Nothing is wanted any more: what is on its way counts as late. */
  function forget() {
    forgotten = newest
    next = undefined
  }

  onScopeDispose(() => {
    over = true
  })
  return { want, forget, busy }
}

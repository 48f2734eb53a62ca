import { onScopeDispose, ref } from 'vue'
import { useDesk } from '@/stores/desk'

/**
 * The one way to ask the server again and again: at most one request in flight; while it is, only the newest wish is
 * remembered and asked next. A late answer is dropped: one that a newer wish has overtaken, that was forgotten, or
 * whose scope has ended. `ask` resolves with the answer, `done` gets it, `failed` a refusal (shown in the frame by
 * default).
 *
 * @param options.follow pictures that follow a dragged control: answers on the way are shown too, as long as the same
 * sheet, pen, hand and device are on the desk. @default false
 */
export function useLatest<Wish, Answer>(
  ask: (wish: Wish) => Promise<Answer>,
  done: (answer: Answer, wish: Wish) => void,
  failed: (error: Error) => void = (error) => useDesk().tell(error),
  options: { follow?: boolean } = {},
) {
  const busy = ref(false)
  interface Asked {
    wish: Wish
    number: number
    about: string
  }
  let next: Asked | undefined
  let newest = 0
  let forgotten = 0
  let over = false
  const onDesk = () => {
    const sheet = useDesk().sheet
    return [sheet?.id, sheet?.pen_id, sheet?.hand_id, sheet?.device_id].join()
  }
  const overtaken = (asked: Asked) => asked.number < newest && !(options.follow && asked.about === onDesk())
  const late = (asked: Asked) => over || asked.number <= forgotten || overtaken(asked)

  async function want(wish: Wish) {
    next = { wish, number: ++newest, about: onDesk() }
    if (busy.value) return
    busy.value = true
    while (next && !over) {
      const now: Asked = next
      next = undefined
      try {
        const answer = await ask(now.wish)
        if (!late(now)) done(answer, now.wish)
      } catch (error) {
        if (!late(now)) failed(error as Error)
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

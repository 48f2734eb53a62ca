import { api, take, type Recipe } from '@/api/client'
import { say } from '@/lib/numbers'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'

const MOST_LETTERS = 60 // of a pen's name

/** Make a pen of its own of what the pen in hand writes now, and take it. */
export function useOwnPen() {
  const desk = useDesk()
  const draft = useDraft()

  /** What tells it from the pen it comes from, in a word. */
  function differs(now: Recipe): string {
    const [was, is] = [draft.kept?.body, now.body]
    const spot = desk.desk?.palette.find((s) => s.colour === is?.colour?.toLowerCase())
    if (is?.colour !== was?.colour) return spot?.name ?? is?.colour ?? 'copy'
    return is && is.width_mm !== was?.width_mm ? `${say(is.width_mm!)} mm` : 'copy'
  }
  /** A name that no pen has yet. */
  function named(now: Recipe): string {
    const taken = new Set(desk.desk?.pens.map((p) => p.recipe.name))
    const end = `, ${differs(now)}`
    for (let n = 1; ; n += 1) {
      const tail = n > 1 ? `${end} ${n}` : end
      const name = `${now.name.slice(0, MOST_LETTERS - tail.length)}${tail}`
      if (!taken.has(name)) return name
    }
  }

  /** back: the pen it comes from is as it was kept again. */
  return (back = false) =>
    desk.attempt(async () => {
      const [from, recipe] = [draft.pen!, draft.recipe!]
      const made = await take(
        api.POST('/api/pens', {
          body: {
            id: `pen-${crypto.randomUUID().slice(0, 13)}`,
            recipe: { ...recipe, name: named(recipe) },
            note: `from ${from.recipe.name}`,
            on_roll: true,
          },
        }),
      )
      desk.replacePen(made)
      if (back) draft.replace(from.recipe)
      draft.done()
      await desk.changeSheet({ pen_id: made.id })
    })
}

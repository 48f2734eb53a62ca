import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import { api, Refusal, take, type PenItem, type Recipe } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from './desk'

interface Draft {
  recipe: Recipe
  past: Recipe[]
  future: Recipe[]
}

/** Drafts by pen, whichever station tunes them. */
const drafts = ref(new Map<string, Draft>())

/** The pen the sentence names, being tuned. */
export const useDraft = defineStore('draft', () => draftOf(computed(() => useDesk().pen)))

/** A pen being tuned: a draft beside its kept revision, with its own undo. Switching pens keeps each pen's draft. */
export function draftOf(pen: Ref<PenItem | undefined>) {
  const desk = useDesk()
  const revisions = shallowRef<PenItem[]>([])
  /** The path being dragged: changes to it are one step of undo until `done`, or until another path is changed. */
  let dragged: string | undefined

  const kept = computed<Recipe | undefined>(() => pen.value?.recipe)
  const draft = computed(() => (pen.value ? drafts.value.get(pen.value.id) : undefined))
  const recipe = computed<Recipe | undefined>(() => draft.value?.recipe ?? kept.value)
  const changed = computed(() => !!draft.value && JSON.stringify(draft.value.recipe) !== JSON.stringify(kept.value))
  const next = computed(() => (pen.value?.newest ?? 0) + 1)
  const undoable = computed(() => !!draft.value?.past.length)
  const redoable = computed(() => !!draft.value?.future.length)

  const histories = useLatest(
    (id: string) => take(api.GET('/api/pens/{pen_id}/revisions', { params: { path: { pen_id: id } } })),
    (answer) => (revisions.value = answer.pens),
  )
  watch(
    pen,
    (now, before) => {
      if (!now || (before && before.id === now.id && before.revision === now.revision && revisions.value.length)) return
      void histories.want(now.id)
    },
    { immediate: true },
  )

  function open(): Draft | undefined {
    if (!pen.value) return undefined
    let now = drafts.value.get(pen.value.id)
    if (!now) {
      drafts.value.set(pen.value.id, { recipe: pen.value.recipe, past: [], future: [] })
      now = drafts.value.get(pen.value.id)
    }
    return now
  }

  /**
   * Change the value at a path like "press.floor" or "body.line.pattern". All changes until `done` are one step of
   * undo.
   */
  function set(path: string, value: unknown) {
    const now = open()
    if (!now) return
    const copy = JSON.parse(JSON.stringify(now.recipe)) as Recipe
    const parts = path.split('.')
    const holder = parts.slice(0, -1).reduce<object>((at, part) => at[part as keyof typeof at] as object, copy)
    Object.assign(holder, { [parts.at(-1)!]: value })
    replace(copy, path)
  }

  function replace(whole: Recipe, path = 'all') {
    const now = open()
    if (!now) return
    if (dragged !== path) {
      now.past.push(now.recipe)
      now.future = []
      dragged = path
    }
    now.recipe = whole
  }

  function done() {
    dragged = undefined
  }

  function step(back: boolean) {
    const now = draft.value
    const [from, to] = now ? (back ? [now.past, now.future] : [now.future, now.past]) : [[], []]
    const recipeThen = from.pop()
    if (!now || !recipeThen) return
    to.push(now.recipe)
    now.recipe = recipeThen
    dragged = undefined
  }

  const keep = (note = '') =>
    desk.attempt(async () => {
      const now = pen.value
      if (!now || !recipe.value) return
      const made = await take(
        api.POST('/api/pens/{pen_id}/revisions', {
          params: { path: { pen_id: now.id } },
          body: { recipe: recipe.value, note, saw: now.newest },
        }),
      ).catch(async (error) => {
        // kept elsewhere meanwhile: theirs is shown as the newest, and the draft stays to be kept after it
        if (error instanceof Refusal && error.code === 'stale') await overtaken(now)
        throw error
      })
      revisions.value = [made, ...revisions.value]
      desk.replacePen(made)
    })

  async function overtaken(then: PenItem) {
    const history = await take(api.GET('/api/pens/{pen_id}/revisions', { params: { path: { pen_id: then.id } } }))
    open()
    revisions.value = history.pens
    if (history.pens[0]) desk.replacePen({ ...history.pens[0], roll_place: then.roll_place })
  }

  return {
    pen,
    kept,
    recipe,
    revisions,
    changed,
    next,
    undoable,
    redoable,
    set,
    replace,
    done,
    undo: () => step(true),
    redo: () => step(false),
    keep,
  }
}

/** The value of a recipe at a dotted path. */
export function valueAt(recipe: Recipe | undefined, path: string): unknown {
  return path.split('.').reduce<unknown>((at, part) => (at as Record<string, unknown> | undefined)?.[part], recipe)
}

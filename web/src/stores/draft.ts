import { useDebounceFn } from '@vueuse/core'
import { createStore, del, entries, set as put } from 'idb-keyval'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import { api, Refusal, take, type PenItem, type Recipe } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from './desk'

interface Draft {
  recipe: Recipe
  past: Recipe[]
  future: Recipe[]
  /** The revision it was made from, and when that was kept: pens of another data folder may have the same id. */
  from: { revision: number; created_at: string }
}

const MOST_STEPS = 40
/** Drafts by pen, whichever station tunes them; this browser keeps them over a reload. */
const drafts = ref(new Map<string, Draft>())
const shelf = createStore('gray-quill-drafts', 'drafts')
const dirty = new Set<string>()

async function save() {
  for (const id of [...dirty]) {
    dirty.delete(id)
    const now = drafts.value.get(id)
    await (now ? put(id, JSON.parse(JSON.stringify(now)), shelf) : del(id, shelf)).catch(() => undefined)
  }
}
const saveSoon = useDebounceFn(save, 150)

/** Take up the drafts this browser has kept for these pens. */
export async function takeUpDrafts(pens: readonly PenItem[]) {
  for (const [id, kept] of await entries<string, Draft>(shelf).catch(() => [])) {
    const pen = pens.find((p) => p.id === id)
    const other = !pen || (pen.revision === kept.from.revision && pen.created_at !== kept.from.created_at)
    if (!other && !dirty.has(id)) drafts.value.set(id, kept)
  }
}

/** Pens that are set otherwise than they are kept, and these changes put away. */
export const unkeptPens = (pens: readonly PenItem[]) => pens.filter((p) => notKept(p))
export function putAway(pens: readonly PenItem[]) {
  for (const { id } of pens) {
    drafts.value.delete(id)
    dirty.add(id)
  }
  void saveSoon()
}

/** A pen's recipe as it is set now, kept or not. */
export const asSet = (pen: PenItem): Recipe => drafts.value.get(pen.id)?.recipe ?? pen.recipe
/** The same where it differs from what is kept. */
export function notKept(pen: PenItem): Recipe | null {
  const now = drafts.value.get(pen.id)?.recipe
  return now && JSON.stringify(now) !== JSON.stringify(pen.recipe) ? now : null
}

/** The pen the sentence names, being tuned. */
export const useDraft = defineStore('draft', () => draftOf(computed(() => useDesk().pen)))

/** A pen being tuned: a draft beside its kept revision, with its own undo. Switching pens keeps each pen's draft. */
export function draftOf(pen: Ref<PenItem | undefined>) {
  const desk = useDesk()
  const revisions = shallowRef<PenItem[]>([])
  /** A few words for the next revision. */
  const note = ref('')
  /** The path being dragged: changes to it are one step of undo until `done`, or until another path is changed. */
  let dragged: string | undefined

  const kept = computed<Recipe | undefined>(() => pen.value?.recipe)
  const draft = computed(() => (pen.value ? drafts.value.get(pen.value.id) : undefined))
  const recipe = computed<Recipe | undefined>(() => draft.value?.recipe ?? kept.value)
  const unkept = computed(() => (pen.value ? notKept(pen.value) : null))
  const changed = computed(() => !!unkept.value)
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
      const { revision, created_at, recipe: start } = pen.value
      drafts.value.set(pen.value.id, { recipe: start, past: [], future: [], from: { revision, created_at } })
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
      now.past = [...now.past, now.recipe].slice(-MOST_STEPS)
      now.future = []
      dragged = path
    }
    now.recipe = whole
    mark()
  }

  function mark() {
    if (pen.value) dirty.add(pen.value.id)
    void saveSoon()
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
    mark()
  }

  const keep = (words = '') =>
    desk.attempt(async () => {
      const now = pen.value
      if (!now || !recipe.value) return
      const made = await take(
        api.POST('/api/pens/{pen_id}/revisions', {
          params: { path: { pen_id: now.id } },
          body: { recipe: recipe.value, note: words, saw: now.newest },
        }),
      ).catch(async (error) => {
        // kept elsewhere meanwhile: theirs is shown as the newest, and the draft stays to be kept after it
        if (error instanceof Refusal && error.code === 'stale') await overtaken(now)
        throw error
      })
      revisions.value = [made, ...revisions.value]
      note.value = ''
      desk.replacePen(made)
      const { revision, created_at } = made
      Object.assign(drafts.value.get(made.id) ?? {}, { from: { revision, created_at } })
      mark()
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
    note,
    changed,
    unkept,
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

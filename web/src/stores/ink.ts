import { createStore, del, entries, set } from 'idb-keyval'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { api, Refusal, take, type Box, type Schemas } from '@/api/client'

export type NewStroke = Schemas['NewStroke']
interface Waiting {
  sheetId: string
  stroke: NewStroke
}
interface Step {
  ids: string[]
  binned: boolean
}

const RETRY_MS = 2500
const kept = createStore('gray-quill', 'waiting-strokes')

/**
 * Ink on its way to the server. A stroke is put into this browser's own database before it is sent and leaves it only
 * when the server has confirmed it, so neither a lost connection nor a killed server loses ink. Also undo and redo.
 */
export const useInk = defineStore('ink', () => {
  const waiting = ref(new Map<string, Waiting>())
  const refused = ref(0)
  const undoable = ref<Step[]>([])
  const redoable = ref<Step[]>([])
  /** The part of a sheet whose settled ink changed last; box undefined means all of it. */
  const changed = shallowRef<{ sheetId: string; box?: Box }>()
  let sending = false

  const words = computed(() => {
    const n = waiting.value.size
    if (refused.value)
      return `${refused.value} ${refused.value === 1 ? 'stroke was' : 'strokes were'} refused, kept in this browser`
    return n ? `${n} ${n === 1 ? 'stroke' : 'strokes'} waiting for the server` : 'all ink kept'
  })

  async function keep(sheetId: string, stroke: NewStroke): Promise<void> {
    waiting.value.set(stroke.id, { sheetId, stroke })
    undoable.value.push({ ids: [stroke.id], binned: false })
    redoable.value = []
    await set(stroke.id, { sheetId, stroke: JSON.parse(JSON.stringify(stroke)) }, kept).catch(() => undefined)
    void send()
  }

  /** Send what is waiting, oldest first, until none is left or the server does not answer. */
  async function send(): Promise<void> {
    if (sending) return
    sending = true
    try {
      for (let next = batch(); next.length; next = batch()) {
        const sheetId = next[0]!.sheetId
        try {
          const answer = await take(
            api.POST('/api/sheets/{sheet_id}/strokes', {
              params: { path: { sheet_id: sheetId } },
              body: { strokes: next.map((w) => w.stroke) },
            }),
          )
          for (const id of answer.kept) await forget(id)
          changed.value = { sheetId, box: answer.box_mm as Box }
        } catch (error) {
          if (error instanceof Refusal && error.status >= 400 && error.status < 500) {
            refused.value += next.length
            for (const w of next) waiting.value.delete(w.stroke.id)
          } else {
            setTimeout(() => void send(), RETRY_MS)
            return
          }
        }
      }
    } finally {
      sending = false
    }
  }

  function batch(): Waiting[] {
    const all = [...waiting.value.values()]
    return all.filter((w) => w.sheetId === all[0]?.sheetId).slice(0, 50)
  }

  async function forget(id: string) {
    waiting.value.delete(id)
    await del(id, kept).catch(() => undefined)
  }

  /** Strokes a closed or reloaded page left behind are sent again; the server takes each id once. */
  async function resume(): Promise<void> {
    for (const [id, w] of await entries<string, Waiting>(kept).catch(() => [])) waiting.value.set(id, w)
    if (waiting.value.size) void send()
  }

  /**
   * A palm's stroke taken back: it never was, so it is not a step to undo either. One that is still on its way is
   * binned once it arrived.
   */
  async function withdraw(sheetId: string, id: string): Promise<void> {
    undoable.value = undoable.value.filter((s) => s.ids[0] !== id)
    while (waiting.value.has(id)) await new Promise((done) => setTimeout(done, 50))
    const answer = await take(
      api.PUT('/api/sheets/{sheet_id}/strokes/bin', {
        params: { path: { sheet_id: sheetId } },
        body: { ids: [id], binned: true },
      }),
    )
    changed.value = { sheetId, box: answer.box_mm as Box }
  }

  /** Note strokes that the server made itself, so that they can be undone. */
  function wrote(ids: string[]) {
    undoable.value.push({ ids, binned: false })
    redoable.value = []
  }

  async function move(sheetId: string, from: Step[], to: Step[], back: boolean): Promise<void> {
    const step = from.at(-1)
    if (!step || step.ids.some((id) => waiting.value.has(id))) return
    const binned = back ? !step.binned : step.binned
    const answer = await take(
      api.PUT('/api/sheets/{sheet_id}/strokes/bin', {
        params: { path: { sheet_id: sheetId } },
        body: { ids: step.ids, binned },
      }),
    )
    from.pop()
    to.push(step)
    changed.value = { sheetId, box: answer.box_mm as Box }
  }

  const undo = (sheetId: string) => move(sheetId, undoable.value, redoable.value, true)
  const redo = (sheetId: string) => move(sheetId, redoable.value, undoable.value, false)

  function startSheet() {
    undoable.value = []
    redoable.value = []
  }

  return { waiting, undoable, redoable, changed, words, keep, send, resume, withdraw, wrote, undo, redo, startSheet }
})

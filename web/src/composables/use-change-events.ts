import { useDocumentVisibility, useEventListener } from '@vueuse/core'
import { onScopeDispose, watch } from 'vue'
import { api, away, isAsking, type Box } from '@/api/client'
import { around } from '@/lib/boxes'
import { useDesk } from '@/stores/desk'

const AGAIN_MS = 3000
const WAIT_MS = 150 // while own changes are on their way: their answers tell what is ours
const LEAST_MS = 600 // between two looks

/** null: it is gone. */
interface News {
  sheets: Record<string, [version: number, ink: number] | null>
  pens: Record<string, [newest: number]>
  /** Which part of a sheet's page changed, mm, where that is known. */
  boxes?: Record<string, Box>
}

/** What other screens do to the desk, as they do it; only while this one is looked at, connections are few. */
export function useChangeEvents() {
  const desk = useDesk()
  const seen = useDocumentVisibility()
  let source: EventSource | undefined
  let told: News = { sheets: {}, pens: {} }
  /** What changed of each sheet since it was last looked at here; null where that may be anywhere. */
  let boxes: Record<string, Box | null> = {}
  let again = 0
  let soon = 0
  let lookedMs = -Infinity
  let down = false
  let calm = false
  useEventListener(document, 'pointerdown', () => (down = true), { capture: true })
  useEventListener(document, ['pointerup', 'pointercancel'], () => (down = false), { capture: true })

  function open() {
    close()
    if (seen.value !== 'visible') return
    source = new EventSource('/api/news')
    source.onopen = () => away.value && ask()
    source.onmessage = ({ data }: MessageEvent<string>) => {
      const fresh = JSON.parse(data) as News
      for (const id of Object.keys(fresh.sheets)) {
        const box = fresh.boxes?.[id]
        const before = boxes[id]
        boxes[id] = !box || before === null ? null : before ? around(before, box) : box
      }
      told = { sheets: { ...told.sheets, ...fresh.sheets }, pens: { ...told.pens, ...fresh.pens } }
      later(0)
    }
    source.onerror = () => {
      close()
      ask()
      again = window.setTimeout(open, AGAIN_MS)
    }
  }
  function close() {
    clearTimeout(again)
    source?.close()
    source = undefined
  }
  /** Whether the server answers, which sets `away`; what it says is not taken up: own ink may be on its way. */
  const ask = () => void api.GET('/api/desk').catch(() => undefined)
  function later(ms: number) {
    clearTimeout(soon)
    soon = window.setTimeout(look, ms)
  }

  function look() {
    // nothing moves under the nib; and an answer that has just come is not taken up yet
    if (!desk.desk || isAsking() || down) {
      calm = false
      return later(WAIT_MS)
    }
    if (!differs()) return
    if (!calm) {
      calm = true
      return later(WAIT_MS)
    }
    const wait = lookedMs + LEAST_MS - performance.now()
    if (wait > 0) return later(wait)
    lookedMs = performance.now()
    calm = false
    const changed = boxes
    boxes = {}
    void desk.lookAgain(changed).catch(() => undefined)
  }
  /** Whether anything is newer than what is shown here. */
  function differs(): boolean {
    const { sheets, pens } = desk.desk!
    const shown = new Map(sheets.map((s) => [s.id, s]))
    return (
      Object.entries(told.sheets).some(([id, now]) => {
        const s = shown.get(id)
        return now && s ? now[0] > s.version || now[1] > s.ink : !!now !== !!s
      }) || pens.some((p) => (told.pens[p.id]?.[0] ?? 0) > p.newest)
    )
  }

  watch(seen, open, { immediate: true })
  useEventListener(window, 'pagehide', close)
  onScopeDispose(() => {
    close()
    clearTimeout(soon)
  })
}

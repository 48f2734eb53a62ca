import { computed, shallowRef, watch, type Ref } from 'vue'
import { api, take, type Box, type Recipe, type SheetItem } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { HERE, type Place } from '@/lib/placement'
import { useSelection, type Held } from '@/stores/selection'
import { useDesk } from '@/stores/desk'
import { useInk, type NewStroke } from '@/stores/ink'
import { useCovers } from '@/stores/covers'
import { usePlans } from '@/stores/plans'
import { useUnderlay } from '@/stores/underlay'
import { useScreen } from '@/stores/screen'
import { KINDS, useTool } from '@/stores/tool'
import type { Sample } from '@/ink'
import { useHits } from './use-hits'
import type { Wet, WrittenWith } from './writing-options'

const MOST_OF_WAY = 4000
const RING_MM = 0.4
const GRIP_PX = 22
const LEAST_FRAME_PX = 60
const TAP_MM = 0.8 // a drag shorter than this chooses instead

/** The way a stroke went, no more of it than the server takes. */
function wayOf({ x_mm, y_mm }: NewStroke): [number, number][] {
  const every = Math.ceil(x_mm.length / MOST_OF_WAY)
  return x_mm.map((x, k): [number, number] => [x, y_mm[k]!]).filter((_, k) => k % every === 0)
}

const boxRing = ([x0, y0]: Place, [x1, y1]: Place): Place[] => [
  [x0, y0],
  [x1, y0],
  [x1, y1],
  [x0, y1],
  [x0, y0],
]
const isBox = (ring: Place[]) => Math.hypot(ring[2]![0] - ring[0]![0], ring[2]![1] - ring[0]![1]) > TAP_MM

/** Ways that rub and choose: what they are drawn with while the pen goes, and what becomes of them. */
export function useWays(
  sheet: Ref<SheetItem | undefined>,
  cssScale: Ref<number>,
  showBox: (box: Box) => Promise<void>,
  swiped: (from: Place, to: Place) => void,
) {
  const desk = useDesk()
  const ink = useInk()
  const selection = useSelection()
  const plans = usePlans()
  const underlay = useUnderlay()
  const covers = useCovers()
  const screen = useScreen()
  const tool = useTool()
  const chooser = shallowRef<WrittenWith>()
  const rubber = shallowRef<WrittenWith>()
  const ways = new Set<string>()
  /** The box that is being drawn to choose what it holds, as a ring. */
  const box = shallowRef<{ kind: string; ring: Place[] }>()
  let boxFrom: Place | undefined
  let printFrom: Place = [0, 0]
  let grip: { held: Held; from: Place } | undefined

  watch(cssScale, (scale) => scale && (selection.leastMm = LEAST_FRAME_PX / scale), { immediate: true })

  /** Across the eraser on the page, mm. */
  const eraserMm = computed(() => {
    const mm = tool.asSeen ? (tool.eraserMm * screen.pxPerMm) / (cssScale.value || screen.pxPerMm) : tool.eraserMm
    return Math.min(100, Math.max(0.1, mm))
  })

  const hits = useHits(
    sheet,
    computed(() => eraserMm.value / 2),
  )
  const drawnWith = (does: 'rub' | 'choose', body: object, paper: SheetItem['paper']) =>
    plans
      .planOf({ format: 'gray-quill/pen@1', body } as Recipe, paper)
      .then((plan): WrittenWith => ({ plan, id: '', revision: 0, draft: null, does }))
  const made = useLatest(
    async ({ paper, dark, mm, takes }: { paper: SheetItem['paper']; dark: boolean; mm: number; takes: string }) => ({
      choose: await drawnWith('choose', { colour: dark ? '#a9d6ce' : '#2e5e5a', width_mm: 0.4 }, paper),
      rub: await drawnWith(
        'rub',
        takes === 'rubbed'
          ? { colour: paper.colour, width_mm: mm }
          : {
              colour: dark ? '#ffffff' : '#5c626b',
              opacity: takes === 'strokes' ? 0.3 : 1,
              width_mm: takes === 'strokes' ? mm : RING_MM,
            },
        paper,
      ),
    }),
    ({ choose, rub }) => {
      chooser.value = choose
      rubber.value = rub
    },
  )
  watch(
    [() => sheet.value?.paper, eraserMm, () => tool.takes],
    ([paper, mm, takes]) => {
      if (!paper) return
      void desk.attempt(() => made.want({ paper, dark: sheet.value!.paper_is_dark, mm, takes }))
    },
    { immediate: true },
  )

  /** What a way from this place is drawn with; undefined where the pen simply writes. */
  function penAt(place: Place, held?: 'rub' | 'choose'): WrittenWith | 'write' | undefined {
    grip = boxFrom = undefined
    if (underlay.moving) {
      printFrom = place
      return chooser.value && { ...hidden(chooser.value), does: 'print' }
    }
    if (tool.boxing) return chooser.value && { ...chooser.value, does: 'look' }
    const does = held ?? tool.now
    if (does === 'rub') return rubber.value
    if (does === 'point' || does === 'read') return chooser.value && { ...hidden(chooser.value), does }
    if (does !== 'choose') return 'write'
    if (held && tool.now !== 'choose') tool.press('choose')
    if (selection.opening) return chooser.value
    const what = selection.gripAt(place, GRIP_PX / cssScale.value)
    if (!what && tool.boxes) boxFrom = place
    if (!chooser.value || (!what && !boxFrom)) return chooser.value
    if (what) grip = { held: what, from: place }
    return hidden(chooser.value)
  }
  const hidden = (pen: WrittenWith): WrittenWith => ({ ...pen, plan: { ...pen.plan, opacity: 0 } })

  /** The pen is at these places now. */
  function going(samples: readonly Sample[], does: WrittenWith['does']) {
    if (does === 'rub') hits.going(samples)
    const last = samples.at(-1)
    if (does === 'print' && last) underlay.by = [last.x - printFrom[0], last.y - printFrom[1]]
    if (boxFrom && last) box.value = { kind: 'box', ring: boxRing(boxFrom, [last.x, last.y]) }
    if (grip && last) selection.carry(grip.held, grip.from, [last.x, last.y])
  }

  /** A way ended: rub or choose along it, or put what it carried down. */
  async function ended(stroke: NewStroke, pen: WrittenWith, drawn: Wet, dry: (drawn: Wet) => void): Promise<void> {
    ways.add(stroke.id)
    const way = wayOf(stroke)
    const id = sheet.value?.id
    if (pen.does === 'point') return
    if (pen.does === 'print') return underlay.put(underlay.by)
    if (pen.does === 'read') return swiped(way[0]!, way.at(-1)!)
    if (pen.does === 'look') {
      tool.boxing = false
      const [x, y] = [way.map((p) => p[0]), way.map((p) => p[1])]
      return showBox([Math.min(...x), Math.min(...y), Math.max(...x), Math.max(...y)])
    }
    tool.did(pen.does!)
    if (!id || !way.length) return
    if (pen.does === 'rub') {
      if (tool.takes === 'rubbed') dry(drawn)
      if (!tool.eraser.of.length || tool.eraser.of.length === KINDS.length) void covers.rub(way, eraserMm.value / 2)
      const body = {
        way,
        radius_mm: eraserMm.value / 2,
        takes: tool.takes,
        of: tool.eraser.of,
        layers: tool.layers,
        locked_too: tool.lockedToo,
      }
      const params = { path: { sheet_id: id } }
      const done = await desk.attempt(() =>
        ink.mend(id, () => take(api.POST('/api/sheets/{sheet_id}/rub', { params, body }))),
      )
      if (done?.away.length) hits.gone(done.away)
      else hits.clear()
      if (!done?.away.length) ink.showAgain(id)
      return
    }
    const ring = box.value?.ring
    box.value = boxFrom = undefined
    const dragged = grip
    grip = undefined
    const to = way.at(-1)!
    if (selection.opening) return void (await desk.attempt(() => selection.openSpace(way[0]![1], to[1])))
    const far = dragged ? Math.hypot(to[0] - dragged.from[0], to[1] - dragged.from[1]) : 0
    if (dragged && (far > TAP_MM || !('grip' in dragged.held && dragged.held.grip === 'move'))) {
      await desk.attempt(() => selection.putThere(dragged.held, dragged.from, to))
    } else {
      selection.carried = HERE
      await desk.attempt(() => selection.along(id, ring && isBox(ring) ? ring.map(([x, y]) => [x, y]) : way))
    }
  }

  return {
    box,
    covers: hits.covers,
    settled: hits.clear,
    eraserMm,
    penAt,
    going,
    ended,
    drew: (id: string) => ways.has(id),
  }
}

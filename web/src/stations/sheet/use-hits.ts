import { computed, onScopeDispose, shallowRef, watch, type Ref } from 'vue'
import { api, take, type Schemas, type SheetItem } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useInk } from '@/stores/ink'
import { useTool } from '@/stores/tool'
import type { Sample } from '@/ink'

const CELL_MM = 8
const AGAIN_MS = 400
const EDGE_MM = 0.4 // what is covered of a stroke beyond its width
const STROKES = ['ink', 'washes', 'figures'] as const // all kinds of strokes there are
type Met = Schemas['StrokeMet']

/**
 * Whole strokes an eraser has touched so far, hidden at once: found in an index of the page's paths. What really goes
 * is the server's exact word, when the eraser lifts. Silent while the eraser may not touch everything: then only the
 * server knows.
 */
export function useHits(sheet: Ref<SheetItem | undefined>, radiusMm: Ref<number>) {
  const ink = useInk()
  const tool = useTool()
  const index = shallowRef<{ strokes: Met[]; cells: Map<string, number[]> }>()
  const hit = shallowRef<ReadonlySet<number>>(new Set())
  let looked = 0
  const wanted = computed(
    () =>
      tool.now === 'rub' &&
      tool.takes === 'strokes' &&
      tool.layers === 'all' &&
      STROKES.every((kind) => tool.eraser.of.includes(kind)),
  )
  const paths = useLatest(
    (id: string) =>
      take(
        api.POST('/api/sheets/{sheet_id}/strokes/like', {
          params: { path: { sheet_id: id } },
          body: { ids: null, by: 'pen' },
        }),
      ),
    ({ strokes }) => {
      index.value = { strokes, cells: celled(strokes) }
      clear()
    },
  )
  let timer = 0
  watch(
    [wanted, () => sheet.value?.id, () => ink.changed],
    ([now, id]) => {
      clearTimeout(timer)
      if (now && id) {
        // what this eraser took is known; any other change is looked at
        timer = window.setTimeout(() => void paths.want(id).catch(() => undefined), index.value ? AGAIN_MS : 0)
        return
      }
      paths.forget()
      index.value = undefined
      clear()
    },
    { immediate: true },
  )
  onScopeDispose(() => clearTimeout(timer))

  /** These are not there any more, and that is all that changed. */
  function gone(ids: readonly string[]) {
    clearTimeout(timer)
    if (!index.value) return
    const away = new Set(ids)
    for (const stroke of index.value.strokes) if (away.has(stroke.id)) stroke.path = []
  }

  function clear() {
    looked = 0
    hit.value = new Set()
  }

  /** The eraser is at these places now, page mm. */
  function going(samples: readonly Sample[]) {
    if (!index.value) return
    if (samples.length < looked) looked = 0
    const { strokes, cells } = index.value
    const found = new Set(hit.value)
    for (let k = Math.max(1, looked); k < samples.length; k++) {
      const [a, b] = [samples[k - 1]!, samples[k]!]
      for (const at of near(cells, a, b, radiusMm.value)) {
        if (!found.has(at) && touches(strokes[at]!, a, b, radiusMm.value)) found.add(at)
      }
    }
    looked = samples.length
    if (found.size > hit.value.size) hit.value = found
  }

  /** What hides them: a line over each, as broad as it is. */
  const covers = computed(() =>
    [...hit.value].map((at) => {
      const { id, path, width_mm } = index.value!.strokes[at]!
      return { id, d: `M${path.map((p) => p.join(',')).join('L')}`, width: width_mm + EDGE_MM }
    }),
  )
  return { going, gone, clear, covers }
}

function celled(strokes: Met[]): Map<string, number[]> {
  const cells = new Map<string, number[]>()
  for (const [at, { path }] of strokes.entries()) {
    for (const key of new Set(path.map(([x, y]) => `${Math.floor(x! / CELL_MM)} ${Math.floor(y! / CELL_MM)}`))) {
      const cell = cells.get(key)
      if (cell) cell.push(at)
      else cells.set(key, [at])
    }
  }
  return cells
}

/** Strokes in the cells around a step of the eraser; a path has a point in every cell it crosses, or in the next. */
function near(cells: Map<string, number[]>, a: Sample, b: Sample, radius: number): Set<number> {
  const found = new Set<number>()
  const reach = radius + CELL_MM / 2
  const [left, right] = [Math.min(a.x, b.x) - reach, Math.max(a.x, b.x) + reach].map((x) => Math.floor(x / CELL_MM))
  const [top, bottom] = [Math.min(a.y, b.y) - reach, Math.max(a.y, b.y) + reach].map((y) => Math.floor(y / CELL_MM))
  for (let i = left!; i <= right!; i++)
    for (let j = top!; j <= bottom!; j++) for (const at of cells.get(`${i} ${j}`) ?? []) found.add(at)
  return found
}

/** Whether any place of a path, told every 0.8 mm, comes as near to a step as the eraser reaches. */
function touches({ path, width_mm }: Met, a: Sample, b: Sample, radius: number): boolean {
  const [dx, dy] = [b.x - a.x, b.y - a.y]
  const square = dx * dx + dy * dy
  const reach = (radius + width_mm / 2) ** 2
  return path.some(([x, y]) => {
    const share = square ? Math.min(1, Math.max(0, ((x! - a.x) * dx + (y! - a.y) * dy) / square)) : 0
    return (x! - a.x - share * dx) ** 2 + (y! - a.y - share * dy) ** 2 <= reach
  })
}

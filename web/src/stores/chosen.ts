import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Box, type Schemas } from '@/api/client'
import { useDesk } from './desk'
import { useInk } from './ink'
import { NOT_ARRANGED, useSteps } from './steps'
import { useVerb } from './verb'

/** A place (x, y) goes to (a x + c y + e, b x + d y + f). */
export type Placement = [number, number, number, number, number, number]
export const HERE: Placement = [1, 0, 0, 1, 0, 0]
/** What part of the frame around chosen ink is dragged: it moves, sizes, turns, stretches or slants it. */
export type Grip = 'move' | 'size' | 'turn' | 'broad' | 'tall' | 'slant'
const MOST_SLANT = 2
const CUT_MM = 0.1 // what a cut along a ring takes
const SNAP = Math.PI / 60 // turns this near to a quarter turn are one

/** Strokes chosen on the sheet: touched, crossed or ringed with the pen, until something else is read. */
export const useChosen = defineStore('chosen', () => {
  const desk = useDesk()
  const ink = useInk()
  const verb = useVerb()
  const steps = useSteps()
  /** The pen chooses instead of writing. */
  const choosing = computed({
    get: () => verb.now === 'choose',
    set: (now) => (verb.now = now ? 'choose' : 'write'),
  })
  /** Path of each chosen stroke by its id, page mm. */
  const paths = shallowRef(new Map<string, number[][]>())
  const ids = computed(() => [...paths.value.keys()])
  /** Where the chosen ink is being dragged to. */
  const carried = ref<Placement>(HERE)
  const wider = ref(true)
  /** What the inside of chosen strokes is filled with, or would be. */
  const fill = ref({ colour: '#f2c14e', opacity: 0.4 })
  const filled = ref(false)
  /** The next way down the page opens space there. */
  const opening = ref(false)
  /** Ink taken along, to be put on another sheet. */
  const bundle = shallowRef<{ sheetId: string; ids: string[] }>()
  /** Side of the frame at least, mm, so that its corners stay apart. */
  const leastMm = ref(8)
  const box = computed<Box | undefined>(() => {
    const all = [...paths.value.values()].flat()
    if (!all.length) return undefined
    const [x, y] = [all.map((p) => p[0]!), all.map((p) => p[1]!)]
    const [left, right] = apart(lowest(x), highest(x), leastMm.value)
    const [top, bottom] = apart(lowest(y), highest(y), leastMm.value)
    return [left, top, right, bottom]
  })
  watch([() => desk.sheet?.id, choosing], letGo)
  watch(
    () => ink.changed,
    (now) => now && now.sheetId === desk.sheet?.id && void stillThere(),
  )

  function letGo() {
    opening.value = false
    paths.value = new Map()
    carried.value = HERE
  }
  function chooseThese(strokes: Schemas['StrokeMet'][]) {
    paths.value = new Map(strokes.map((s) => [s.id, s.path]))
    for (const s of strokes) if (s.fill) fill.value = { colour: s.fill.colour!, opacity: s.fill.opacity! }
    filled.value = strokes.some((s) => s.fill)
  }

  /** Choose these strokes of the sheet. */
  async function chooseIds(wanted: readonly string[]): Promise<void> {
    choosing.value = true
    await like(true)
    chooseOf(wanted)
  }
  function chooseOf(wanted: readonly string[]) {
    paths.value = new Map([...paths.value].filter(([id]) => wanted.includes(id)))
  }

  /** Fill the inside of the chosen strokes, or leave it empty again. */
  async function fillWith(change: Partial<{ colour: string; opacity: number }> | null): Promise<void> {
    const sheetId = desk.sheet!.id
    if (change) Object.assign(fill.value, change)
    const body: Schemas['FillInk'] = { ids: ids.value, fill: change && { ...fill.value } }
    const params = { path: { sheet_id: sheetId } }
    const done = await ink.mend(sheetId, () => take(api.PUT('/api/sheets/{sheet_id}/strokes/fill', { params, body })))
    if (sheetId === desk.sheet?.id && choosing.value) chooseThese(done.strokes)
  }

  /** What a way meets is chosen; where all of it was already, it is let go. */
  async function along(sheetId: string, way: [number, number][]): Promise<void> {
    const params = { path: { sheet_id: sheetId } }
    const rings = way.length > 3 && verb.chooses !== 'touched'
    if (rings && verb.chooses === 'cut') await cutAlong(sheetId, way)
    const { strokes } = await take(
      api.POST('/api/sheets/{sheet_id}/strokes/met', {
        params,
        body: { way, takes: rings ? 'inside' : 'touched', words: verb.words, locked_too: verb.lockedToo },
      }),
    )
    if (!choosing.value || sheetId !== desk.sheet?.id) return
    const now = new Map(paths.value)
    if (strokes.every((s) => now.has(s.id))) for (const s of strokes) now.delete(s.id)
    else for (const s of strokes) now.set(s.id, s.path)
    paths.value = now
    filled.value = strokes.some((s) => s.fill && now.has(s.id))
  }

  /** Cut ink along the edge of a ring, so that what is inside can go by itself. */
  function cutAlong(sheetId: string, ring: [number, number][]) {
    const body: Schemas['RubWay'] = {
      way: [...ring, ring[0]!],
      radius_mm: CUT_MM / 2,
      takes: 'rubbed',
      of: 'both',
      layers: 'all',
      locked_too: verb.lockedToo,
    }
    const params = { path: { sheet_id: sheetId } }
    return ink.mend(sheetId, () => take(api.POST('/api/sheets/{sheet_id}/rub', { params, body })))
  }

  /** Lock, group or order the chosen ink, or put it on another layer; one step of undo. */
  const arrange = (how: Partial<Schemas['ArrangeBody']>) =>
    ink.change(desk.sheet!.id, { arranged: { ...NOT_ARRANGED, ...how } })
  const each = <T>(value: T): Record<string, T> => Object.fromEntries(ids.value.map((id) => [id, value]))
  const lock = (locked: boolean) => arrange({ locked: each(locked) })
  const group = (together: boolean) =>
    arrange({ grouped: each(together ? `group-${crypto.randomUUID().slice(0, 8)}` : null) })
  const order = (to: 'front' | 'back') => arrange({ to_end: to, ids: ids.value })
  async function toLayer(id: string) {
    const sheet = desk.sheet!
    await ink.change(sheet.id, { layers: { layers: sheet.layers!, on: sheet.layer, moved: { [id]: ids.value } } })
  }

  /** Choose all ink of the same pens, or all there is. */
  async function like(all: boolean): Promise<void> {
    const sheetId = desk.sheet?.id
    if (!sheetId) return
    const { strokes } = await take(
      api.POST('/api/sheets/{sheet_id}/strokes/like', {
        params: { path: { sheet_id: sheetId } },
        body: { ids: all ? null : ids.value },
      }),
    )
    if (choosing.value && sheetId === desk.sheet?.id) chooseThese(strokes)
  }

  /** Ink that undo took away is chosen no longer. */
  async function stillThere() {
    const sheetId = desk.sheet?.id
    if (!ids.value.length || !sheetId) return
    const detail = await take(api.GET('/api/sheets/{sheet_id}', { params: { path: { sheet_id: sheetId } } }))
    const there = new Set(detail.stroke_ids)
    if (sheetId === desk.sheet?.id && ids.value.some((id) => !there.has(id)))
      paths.value = new Map([...paths.value].filter(([id]) => there.has(id)))
  }

  /** Move, size, turn or copy the chosen ink; it stays chosen. */
  async function place(placement: Placement, copy = false): Promise<void> {
    const sheetId = desk.sheet?.id
    if (!sheetId || !ids.value.length) return
    try {
      const body = { ids: ids.value, placement, wider: wider.value, copy_ink: copy, to_sheet: null }
      const done = await ink.mend(sheetId, () =>
        take(api.POST('/api/sheets/{sheet_id}/strokes/place', { params: { path: { sheet_id: sheetId } }, body })),
      )
      if (sheetId === desk.sheet?.id && choosing.value) chooseThese(done.strokes)
    } finally {
      carried.value = HERE
    }
  }

  /** Away with the chosen ink. */
  async function remove(): Promise<void> {
    const sheetId = desk.sheet?.id
    const away = ids.value
    if (!sheetId || !away.length) return
    letGo()
    await ink.mend(sheetId, async () => {
      const params = { path: { sheet_id: sheetId } }
      const done = await take(api.PUT('/api/sheets/{sheet_id}/strokes/swap', { params, body: { away, back: [] } }))
      return { away, back: [], box_mm: done.box_mm, sheet: done.sheet }
    })
  }

  /** All ink below a place of the page moves down, or up, as far as the way went. */
  async function openSpace(fromMm: number, toMm: number): Promise<void> {
    opening.value = false
    await like(true)
    const below = [...paths.value].filter(([, path]) => lowest(path.map((p) => p[1]!)) >= fromMm)
    paths.value = new Map(below)
    await place([1, 0, 0, 1, 0, toMm - fromMm])
  }

  /** Put the ink that was taken along on this sheet, where it lay on its own. */
  async function putDown(): Promise<void> {
    const [kept, sheetId] = [bundle.value, desk.sheet?.id]
    if (!kept || !sheetId) return
    const body = { ids: kept.ids, placement: HERE, wider: true, copy_ink: true, to_sheet: sheetId }
    const params = { path: { sheet_id: kept.sheetId } }
    const done = await ink.inLine(() => take(api.POST('/api/sheets/{sheet_id}/strokes/place', { params, body })))
    steps.note(sheetId, { away: done.back, back: [] })
    ink.showAgain(sheetId)
    chooseThese(done.strokes)
  }

  /** Which grip of the frame a place lies on, reach mm around its corners. */
  function gripAt([x, y]: readonly [number, number], reach: number): Grip | undefined {
    const b = box.value
    if (!b) return undefined
    const [across, down] = [(b[0] + b[2]) / 2, (b[1] + b[3]) / 2]
    const grips: [Grip, number, number][] = [
      ['size', b[2], b[3]],
      ['turn', b[2], b[1]],
      ['broad', b[0], down],
      ['tall', across, b[3]],
      ['slant', across, b[1]],
    ]
    const near = grips
      .map(([kind, gx, gy]) => ({ kind, away: Math.hypot(x - gx, y - gy) }))
      .sort((one, other) => one.away - other.away)[0]!
    if (near.away <= reach) return near.kind
    return x >= b[0] && x <= b[2] && y >= b[1] && y <= b[3] ? 'move' : undefined
  }

  /** What dragging a grip from one place to another makes of the ink. */
  function dragged(grip: Grip, from: readonly [number, number], to: readonly [number, number]): Placement {
    const b = box.value
    if (!b || grip === 'move') return [1, 0, 0, 1, to[0] - from[0], to[1] - from[1]]
    if (grip === 'size') {
      const was = Math.hypot(from[0] - b[0], from[1] - b[1])
      const s = Math.min(20, Math.max(0.1, Math.hypot(to[0] - b[0], to[1] - b[1]) / Math.max(was, 0.1)))
      return [s, 0, 0, s, b[0] * (1 - s), b[1] * (1 - s)]
    }
    const within = (s: number) => Math.min(20, Math.max(0.1, s))
    if (grip === 'broad') {
      const s = within((b[2] - to[0]) / Math.max(b[2] - from[0], 0.1))
      return [s, 0, 0, 1, b[2] * (1 - s), 0]
    }
    if (grip === 'tall') {
      const s = within((to[1] - b[1]) / Math.max(from[1] - b[1], 0.1))
      return [1, 0, 0, s, 0, b[1] * (1 - s)]
    }
    if (grip === 'slant') {
      const k = Math.min(MOST_SLANT, Math.max(-MOST_SLANT, (to[0] - from[0]) / Math.min(from[1] - b[3], -0.1)))
      return [1, 0, k, 1, -k * b[3], 0]
    }
    const [cx, cy] = [(b[0] + b[2]) / 2, (b[1] + b[3]) / 2]
    const turn = Math.atan2(to[1] - cy, to[0] - cx) - Math.atan2(from[1] - cy, from[0] - cx)
    const quarter = (Math.round(turn / (Math.PI / 2)) * Math.PI) / 2
    return turned(Math.abs(turn - quarter) < SNAP ? quarter : turn)
  }

  /** Turned about the middle of the chosen ink. */
  function turned(angle: number): Placement {
    const b = box.value!
    const [cx, cy] = [(b[0] + b[2]) / 2, (b[1] + b[3]) / 2]
    const [c, s] = [Math.cos(angle), Math.sin(angle)]
    return [c, s, -s, c, cx - c * cx + s * cy, cy - s * cx - c * cy]
  }

  /** Left and right changed about the middle. */
  function flipped(): Placement {
    const b = box.value!
    return [-1, 0, 0, 1, b[0] + b[2], 0]
  }

  return {
    choosing,
    paths,
    ids,
    box,
    carried,
    leastMm,
    opening,
    bundle,
    openSpace,
    putDown,
    wider,
    chooseIds,
    chooseThese,
    fill,
    filled,
    fillWith,
    lock,
    group,
    order,
    toLayer,
    along,
    like,
    place,
    remove,
    letGo,
    gripAt,
    dragged,
    turned,
    flipped,
  }
})

/** Two ends a little outward, and so far apart at least. */
function apart(low: number, high: number, least: number): [number, number] {
  const more = Math.max(1, (least - (high - low)) / 2)
  return [low - more, high + more]
}
const lowest = (values: number[]) => values.reduce((a, b) => Math.min(a, b))
const highest = (values: number[]) => values.reduce((a, b) => Math.max(a, b))

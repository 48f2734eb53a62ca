import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Box, type Schemas } from '@/api/client'
import { around } from '@/lib/boxes'
import { dragged, gripsOf, HERE, moved, type Grip, type Place, type Placement } from '@/lib/placement'
import { isTouch } from '@/lib/rings'
import { useSelectedItems } from './selected-items'
import { useDesk } from './desk'
import { useInk } from './ink'
import { NOT_ARRANGED } from './undo-journal'
import { KINDS, useTool } from './tool'

/** What a drag has hold of: a part of the frame, or a corner of a clean figure. */
export type Held = { grip: Grip } | { corner: number }
const CLEAR = 0.45 // of the least side, how far a frame keeps outside a figure's corners
const CUT_MM = 0.1 // what a cut along a ring takes

/** Strokes chosen on the sheet: touched, crossed or ringed with the pen, until something else is read. */
export const useSelection = defineStore('selection', () => {
  const desk = useDesk()
  const ink = useInk()
  const tool = useTool()
  /** The pen chooses instead of writing. */
  const choosing = computed({
    get: () => tool.now === 'choose',
    set: (now) => (tool.now = now ? 'choose' : 'write'),
  })
  /** Path of each chosen stroke by its id, page mm. */
  const paths = shallowRef(new Map<string, number[][]>())
  const ids = computed(() => [...paths.value.keys()])
  /** Covers and pictures chosen with it. */
  const items = useSelectedItems()
  const any = computed(() => !!ids.value.length || !!items.all.length)
  const words = computed(() => {
    const n = ids.value.length
    return [n && `${n} ${n === 1 ? 'stroke' : 'strokes'}`, ...items.words].filter(Boolean).join(', ')
  })
  /** Where the chosen ink is being dragged to. */
  const carried = ref<Placement>(HERE)
  /** Corners of the clean figure that is chosen alone, page mm, and whether the last one leads to the first. */
  const corners = shallowRef<Place[]>([])
  const closed = ref(true)
  const wider = ref(true)
  /** What the inside of chosen strokes is filled with, or would be. */
  const fill = ref({ colour: '#f2c14e', opacity: 0.4 })
  const filled = ref(false)
  /** The next way down the page opens space there. */
  const opening = ref(false)
  /** Side of the frame at least, mm, so that its corners stay apart. */
  const leastMm = ref(8)
  const box = computed<Box | undefined>(() => {
    const all = [...paths.value.values()].flat()
    if (!all.length && !items.box) return undefined
    const [x, y] = [all.map((p) => p[0]!), all.map((p) => p[1]!)]
    const inked: Box | undefined = all.length ? [lowest(x), lowest(y), highest(x), highest(y)] : undefined
    const whole = inked && items.box ? around(inked, items.box) : (inked ?? items.box!)
    // corners that can be taken are not to lie under the frame's own grips
    const out = corners.value.length ? CLEAR * leastMm.value : 1
    const [left, right] = apart(whole[0], whole[2], leastMm.value, out)
    const [top, bottom] = apart(whole[1], whole[3], leastMm.value, out)
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
    items.letGo()
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
    const met = items.along(way)
    if (met.length && isTouch(way)) return items.turn(met, !items.has(met)) // what is under a cover stays there
    const params = { path: { sheet_id: sheetId } }
    const rings = way.length > 3
    const takes = !rings ? 'touched' : tool.chooses === 'cut' ? 'inside' : tool.chooses
    if (rings && tool.chooses === 'cut') await cutAlong(sheetId, way)
    const { strokes } = await take(
      api.POST('/api/sheets/{sheet_id}/strokes/met', {
        params,
        body: {
          way: rings && tool.boxes ? [...way, way[0]!] : way,
          takes,
          words: tool.words,
          locked_too: tool.lockedToo,
        },
      }),
    )
    if (!choosing.value || sheetId !== desk.sheet?.id) return
    const now = new Map(paths.value)
    const off = strokes.every((s) => now.has(s.id)) && items.has(met)
    if (off) for (const s of strokes) now.delete(s.id)
    else for (const s of strokes) now.set(s.id, s.path)
    paths.value = now
    items.turn(met, !off)
    filled.value = strokes.some((s) => s.fill && now.has(s.id))
  }

  /** Cut ink along the edge of a ring, so that what is inside can go by itself. */
  function cutAlong(sheetId: string, ring: [number, number][]) {
    const body: Schemas['RubWay'] = {
      way: [...ring, ring[0]!],
      radius_mm: CUT_MM / 2,
      takes: 'rubbed',
      of: [...KINDS],
      layers: 'all',
      locked_too: tool.lockedToo,
    }
    const params = { path: { sheet_id: sheetId } }
    return ink.mend(sheetId, () => take(api.POST('/api/sheets/{sheet_id}/rub', { params, body })))
  }

  /** Take a pen, by its place on the roll or its key; with ink chosen, that is inked in it and stays chosen. */
  async function takePen(id: string): Promise<void> {
    const [sheet, pen] = [desk.sheet, desk.desk?.pens.find((p) => p.id === id)]
    if (!sheet || !pen) return
    if (!ids.value.length) return desk.takePen(id)
    const n = await ink.inkAgain(sheet.id, pen, ids.value)
    tool.said = n ? '' : `All of it is ${pen.recipe.name} already.`
  }
  /** Give the chosen ink a colour; its pens stay as they are. */
  async function recolour(colour: string): Promise<void> {
    await ink.recolour(desk.sheet!.id, ids.value, colour)
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
    await ink.change(sheet.id, {
      layers: { layers: sheet.layers!, on: sheet.layer, moved: { [id]: ids.value }, saw: sheet.layers! },
    })
  }

  /** Choose all ink of the same pens, colours or kinds of pen, or all there is. */
  async function like(all: boolean, by: 'pen' | 'colour' | 'kind' = 'pen'): Promise<void> {
    const sheetId = desk.sheet?.id
    if (!sheetId) return
    const { strokes } = await take(
      api.POST('/api/sheets/{sheet_id}/strokes/like', {
        params: { path: { sheet_id: sheetId } },
        body: { ids: all ? null : ids.value, by },
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
    if (!sheetId || !any.value) return
    try {
      const also = items.placed(placement, copy)
      if (!ids.value.length) return await ink.change(sheetId, { several: also })
      const body = { ids: ids.value, placement, wider: wider.value, copy_ink: copy, to_sheet: null }
      const done = await ink.mend(
        sheetId,
        () => take(api.POST('/api/sheets/{sheet_id}/strokes/place', { params: { path: { sheet_id: sheetId } }, body })),
        also,
      )
      if (sheetId === desk.sheet?.id && choosing.value) chooseThese(done.strokes)
    } finally {
      carried.value = HERE
    }
  }

  /** Away with what is chosen. */
  async function remove(): Promise<void> {
    const sheetId = desk.sheet?.id
    const away = ids.value
    if (!sheetId || !any.value) return
    const also = items.gone()
    letGo()
    if (!away.length) return ink.change(sheetId, { several: also })
    const swapped = async () => {
      const params = { path: { sheet_id: sheetId } }
      const done = await take(api.PUT('/api/sheets/{sheet_id}/strokes/swap', { params, body: { away, back: [] } }))
      return { away, back: [], box_mm: done.box_mm, sheet: done.sheet }
    }
    await ink.mend(sheetId, swapped, also)
  }

  /** All ink below a place of the page moves down, or up, as far as the way went. */
  async function openSpace(fromMm: number, toMm: number): Promise<void> {
    opening.value = false
    await like(true)
    const below = [...paths.value].filter(([, path]) => lowest(path.map((p) => p[1]!)) >= fromMm)
    paths.value = new Map(below)
    await place(moved(0, toMm - fromMm))
  }

  /** What of the frame or of a figure's corners a place lies on, reach mm around it. */
  function gripAt([x, y]: Place, reach: number): Held | undefined {
    const b = box.value
    if (!b) return undefined
    const places: [Held, number, number][] = [
      ...corners.value.map((c, k): [Held, number, number] => [{ corner: k }, c[0], c[1]]),
      ...gripsOf(b).map(([grip, gx, gy]): [Held, number, number] => [{ grip }, gx, gy]),
    ]
    const near = places
      .map(([held, gx, gy]) => ({ held, away: Math.hypot(x - gx, y - gy) }))
      .sort((one, other) => one.away - other.away)[0]!
    if (near.away <= reach) return near.held
    return x >= b[0] && x <= b[2] && y >= b[1] && y <= b[3] ? { grip: 'move' } : undefined
  }

  /** Show where what is held is being dragged to. */
  function carry(held: Held, from: Place, to: Place) {
    if ('grip' in held) carried.value = dragged(held.grip, box.value!, from, to)
    else corners.value = corners.value.map((c, k): Place => (k === held.corner ? to : c))
  }

  /** Put down what was dragged. */
  async function putThere(held: Held, from: Place, to: Place): Promise<void> {
    if ('grip' in held) return place(dragged(held.grip, box.value!, from, to))
    const [sheetId, id] = [desk.sheet!.id, ids.value[0]!]
    const params = { path: { sheet_id: sheetId, stroke_id: id } }
    const body = { which: held.corner, to_mm: [to[0], to[1]] as [number, number] }
    try {
      const done = await ink.mend(sheetId, () =>
        take(api.PUT('/api/sheets/{sheet_id}/strokes/{stroke_id}/figure', { params, body })),
      )
      if (sheetId === desk.sheet?.id && choosing.value) chooseThese(done.strokes)
    } finally {
      if (ids.value[0] === id) void lookAtCorners()
    }
  }

  /** A single clean figure that is chosen shows its corners. */
  async function lookAtCorners() {
    const [sheetId, id] = [desk.sheet?.id, ids.value[0]]
    if (ids.value.length !== 1 || !sheetId || !id) return void (corners.value = [])
    const params = { path: { sheet_id: sheetId, stroke_id: id } }
    const found = await take(api.GET('/api/sheets/{sheet_id}/strokes/{stroke_id}/figure', { params })).catch(() => null)
    if (ids.value.length !== 1 || ids.value[0] !== id) return
    corners.value = (found?.corners_mm ?? []) as [number, number][]
    closed.value = !['line', 'arrow'].includes(found?.kind ?? '')
  }
  watch(paths, lookAtCorners)

  return {
    choosing,
    paths,
    ids,
    items,
    any,
    words,
    box,
    carried,
    leastMm,
    opening,
    openSpace,
    wider,
    chooseIds,
    chooseThese,
    takePen,
    recolour,
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
    corners,
    closed,
    gripAt,
    carry,
    putThere,
  }
})

/** Two ends so far outward, and so far apart at least. */
function apart(low: number, high: number, least: number, out: number): [number, number] {
  const more = Math.max(out, (least - (high - low)) / 2)
  return [low - more, high + more]
}
const lowest = (values: number[]) => values.reduce((a, b) => Math.min(a, b))
const highest = (values: number[]) => values.reduce((a, b) => Math.max(a, b))

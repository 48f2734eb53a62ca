import { useEventListener, useWindowSize } from '@vueuse/core'
import { computed, onMounted, onScopeDispose, ref, shallowRef, watch, type Ref } from 'vue'
import { api, Refusal, take, takeFile, type Box, type Schemas } from '@/api/client'
import { drawStroke, FadingInk, LiveDrawing, operationOf, type PenPlan } from '@/ink'
import { percentile } from '@/lib/percentile'
import { epochMs } from '@/stores/mirror'
import { usePlans } from '@/stores/plans'

type Told = Partial<Schemas['ShownLines']> & { page?: true; over?: true; changed?: number; box?: Box | null }
type Ink = Schemas['ShownInk']
const AGAIN_MS = 2000
const PINGS = 5
const MOST_DELAYS = 400
const TELLS_MS = 500
const EDGE_MM = 1

interface Stroke {
  drawing: LiveDrawing | undefined
  /** What came before its pen's plan did. */
  early: Ink[]
  lifted: boolean
  kept: boolean
}

/** A sheet as somebody else writes it: settled, live, pointed at; and how late it is here. */
export function useMirror(
  settled: Ref<HTMLCanvasElement | null>,
  live: Ref<HTMLCanvasElement | null>,
  fadingCanvas: Ref<HTMLCanvasElement | null>,
  still: () => boolean,
) {
  const plans = usePlans()
  const { width, height } = useWindowSize()
  const ratio = window.devicePixelRatio
  const page = shallowRef<Schemas['MirrorPage']>()
  const over = ref('')
  const away = ref(false)
  const delay = shallowRef<{ p50: number; p95: number }>()
  const late: number[] = []
  let told = 0
  const strokes = new Map<number, Stroke>()
  const known = new Map<string, Promise<PenPlan>>()
  const fading = new FadingInk({ dot: false, colour: '#000000', sizeMm: 1, fadesS: 1, still: false })
  let pointed = false
  let picture: OffscreenCanvas | undefined
  let pictured: { left: number; top: number; scale: number } | undefined
  let source: EventSource | undefined
  let again = 0
  let ahead = 0
  let asked = 0
  let frame = 0
  let done = false
  onScopeDispose(() => {
    done = true
    source?.close()
    clearTimeout(again)
    clearTimeout(told)
    cancelAnimationFrame(frame)
  })

  /** What is seen of the page, mm, and its pixels a millimetre here. */
  const view = computed(() => {
    const now = page.value
    if (!now) return undefined
    const { width_mm: w, height_mm: h } = now.paper
    const [left, top, right, bottom] = now.view ?? [0, 0, w!, h!]
    const fit = Math.min((width.value * ratio) / (right - left), (height.value * ratio) / (bottom - top))
    return { left, top, right, bottom, scale: fit }
  })
  const size = computed(() => {
    const v = view.value
    if (!v) return { width: 1, height: 1 }
    return {
      width: Math.max(1, Math.floor((v.right - v.left) * v.scale)),
      height: Math.max(1, Math.floor((v.bottom - v.top) * v.scale)),
    }
  })
  const css = computed(() => ({ width: `${size.value.width / ratio}px`, height: `${size.value.height / ratio}px` }))

  async function begin() {
    try {
      for (let k = 0, best = Infinity; k < PINGS; k += 1) {
        const from = epochMs()
        const { now_ms } = await take(api.GET('/api/mirror/clock'))
        if (epochMs() - from < best) [best, ahead] = [epochMs() - from, now_ms - (from + epochMs()) / 2]
      }
      await load()
      listen()
      away.value = false
    } catch (error) {
      if (error instanceof Refusal && error.status === 401) end(error.message)
      else later()
    }
  }
  function later() {
    source?.close()
    away.value = true
    clearTimeout(again)
    if (!over.value && !done) again = window.setTimeout(() => void begin(), AGAIN_MS)
  }
  function end(words: string) {
    source?.close()
    over.value = words
    page.value = undefined
    strokes.clear()
    fading.clear()
  }
  async function load() {
    page.value = await take(api.GET('/api/mirror/page'))
    await fetchPicture()
  }

  function listen() {
    source?.close()
    source = new EventSource('/api/mirror/news')
    source.onmessage = ({ data }: MessageEvent<string>) => hear(JSON.parse(data) as Told)
    source.onerror = later
  }

  function hear(told: Told) {
    if (told.over) return end('What was shown here is not shown any more.')
    if (told.page) return void load().catch(later)
    if (told.view && page.value && !page.value.whole) page.value = { ...page.value, view: told.view }
    for (const ink of told.ink ?? []) void write(ink)
    for (const n of told.lifted ?? []) lift(n)
    for (const n of told.dropped ?? []) drop(n)
    for (const n of told.kept ?? []) {
      const stroke = strokes.get(n)
      if (stroke) stroke.kept = true
    }
    if (told.point) {
      const { at, down, dot, colour, size_mm: sizeMm, fades_s: fadesS } = told.point
      fading.look = { dot, colour, sizeMm, fadesS, still: still() }
      if (at.length) fading.point(at as [number, number][], !pointed, performance.now())
      pointed = down
    }
    if (told.changed || told.kept?.length) void fetchPicture(told.box ?? undefined)
    ask()
  }

  const planOf = (key: string) => {
    const plan =
      known.get(key) ?? take(api.GET('/api/mirror/pens/{key}', { params: { path: { key } } })).then(plans.ready)
    known.set(key, plan)
    plan.catch(() => known.delete(key))
    return plan
  }

  async function write(ink: Ink) {
    const stroke = strokes.get(ink.number) ?? { drawing: undefined, early: [], lifted: false, kept: false }
    strokes.set(ink.number, stroke)
    stroke.early.push(ink)
    if (!stroke.drawing) {
      const plan = await planOf(ink.pen).catch(() => undefined)
      if (!plan || done) return
      stroke.drawing ??= new LiveDrawing(plan)
    }
    for (const part of stroke.early.splice(0)) {
      for (const [tS, x, y, force, altitude, azimuth] of part.samples as number[][])
        stroke.drawing.pen.add({ tS: tS!, x: x!, y: y!, force: force!, altitude: altitude!, azimuth: azimuth! })
      made.push(part.made_ms)
    }
    if (stroke.lifted) {
      // its plan came late
      stroke.drawing.pen.lift()
      lay()
    }
    ask()
  }

  const made: number[] = []
  function ask() {
    frame ||= requestAnimationFrame(draw)
  }
  const groundOf = (context: CanvasRenderingContext2D) => {
    const v = view.value!
    return { context, scale: v.scale, left: Math.round(v.left * v.scale), top: Math.round(v.top * v.scale) }
  }
  /** The stroke that is being written, on the layer for it; -1 where none is. */
  let active = -1

  function draw(now: number) {
    frame = 0
    const context = live.value?.getContext('2d', { desynchronized: true })
    if (!context || !view.value) return
    for (const [n, { drawing, lifted }] of strokes) {
      if (!drawing || lifted) continue
      if (n !== active) {
        context.clearRect(0, 0, context.canvas.width, context.canvas.height)
        const { style } = context.canvas
        ;[style.opacity, style.mixBlendMode] = [String(drawing.plan.opacity), drawing.plan.blend]
        active = n
      }
      drawing.draw(groundOf(context))
    }
    const over = fadingCanvas.value?.getContext('2d')
    if (over && fading.draw(over, groundOf(over).scale, groundOf(over).left, groundOf(over).top, now)) ask()
    const waiting = made.splice(0)
    // shown by the start of the next frame at the latest
    if (waiting.length)
      requestAnimationFrame(() => {
        const at = epochMs() + ahead
        late.push(...waiting.map((m) => at - m))
        late.splice(0, late.length - MOST_DELAYS)
        told ||= window.setTimeout(tell, TELLS_MS)
      })
  }

  /** The settled picture, and on it the strokes that lifted and are not in it yet. */
  function lay() {
    const context = settled.value?.getContext('2d')
    if (!context || !view.value) return
    if (picture) context.drawImage(picture, 0, 0)
    for (const { drawing, lifted } of strokes.values()) if (drawing && lifted) dry(context, drawing)
  }
  function dry(context: CanvasRenderingContext2D, { plan, pen }: LiveDrawing) {
    const layer = new OffscreenCanvas(context.canvas.width, context.canvas.height)
    drawStroke(groundOf(layer.getContext('2d') as unknown as CanvasRenderingContext2D), plan, [...pen.shown()])
    context.globalAlpha = plan.opacity
    context.globalCompositeOperation = operationOf(plan.blend)
    context.drawImage(layer, 0, 0)
    context.globalAlpha = 1
    context.globalCompositeOperation = 'source-over'
  }
  function lift(n: number) {
    const stroke = strokes.get(n)
    if (!stroke || stroke.lifted) return
    stroke.lifted = true
    const context = settled.value?.getContext('2d')
    if (stroke.drawing && context && view.value) {
      stroke.drawing.pen.lift()
      dry(context, stroke.drawing)
    }
    clearLive(n)
  }
  function drop(n: number) {
    strokes.delete(n)
    clearLive(n)
  }
  function clearLive(n: number) {
    if (n !== active) return
    active = -1
    const context = live.value?.getContext('2d')
    context?.clearRect(0, 0, context.canvas.width, context.canvas.height)
  }

  /** The settled picture of what is seen, or of a part that changed. */
  async function fetchPicture(box?: Box) {
    const v = view.value
    const now = page.value
    if (!v || !now) return
    const mine = (asked += 1)
    const going = [...strokes].filter(([, s]) => s.kept).map(([n]) => n)
    const same = !!picture && pictured?.scale === v.scale && pictured.left === v.left && pictured.top === v.top
    const part: Box =
      box && same
        ? [
            Math.max(v.left, box[0] - EDGE_MM),
            Math.max(v.top, box[1] - EDGE_MM),
            Math.min(v.right, box[2] + EDGE_MM),
            Math.min(v.bottom, box[3] + EDGE_MM),
          ]
        : [v.left, v.top, v.right, v.bottom]
    if (part[2] > part[0] && part[3] > part[1]) {
      // whole pixels of the page, so that parts fit each other
      const px = [Math.floor(part[0] * v.scale), Math.floor(part[1] * v.scale)] as const
      const query = new URLSearchParams({
        scale: String(v.scale),
        left: String((px[0] + 0.01) / v.scale),
        top: String((px[1] + 0.01) / v.scale),
        right: String(part[2]),
        bottom: String(part[3]),
      })
      let fresh: ImageBitmap
      try {
        fresh = await createImageBitmap(await takeFile(`/api/mirror/page.png?${query}`))
      } catch {
        return
      }
      if (done || v !== view.value) return
      const [x, y] = [px[0] - Math.round(v.left * v.scale), px[1] - Math.round(v.top * v.scale)]
      if (!box || !same) {
        if (mine !== asked) return
        picture = new OffscreenCanvas(size.value.width, size.value.height)
        pictured = { left: v.left, top: v.top, scale: v.scale }
      }
      picture!.getContext('2d')!.drawImage(fresh, x, y)
    }
    for (const n of going) strokes.delete(n)
    lay()
    ask()
  }

  watch(
    [view, size],
    () => {
      active = -1
      void fetchPicture()
    },
    { flush: 'post' },
  )
  onMounted(() => void begin())
  useEventListener(window, 'pagehide', () => source?.close())

  /** Not with each frame: words that change are laid out. */
  function tell() {
    told = 0
    delay.value = { p50: percentile(late, 0.5), p95: percentile(late, 0.95) }
  }
  return { page, size, css, over, away, delay }
}

import { useDebounceFn } from '@vueuse/core'
import { nextTick, onMounted, onScopeDispose, ref, watch, type Ref } from 'vue'
import type { Box, Recipe, SheetItem } from '@/api/client'
import { around } from '@/lib/boxes'
import { drawStroke, LivePen, operationOf, samplesOf } from '@/ink'
import { useDesk } from '@/stores/desk'
import { useScreenSettings } from '@/stores/screen-settings'
import { useInk, type NewStroke } from '@/stores/ink'
import { usePlans } from '@/stores/plans'
import { keepPicture, lastPicture } from './last-pictures'
import type { usePage } from './use-page'
import { useTiles } from './use-tiles'
import type { Wet } from './writing-options'

const ASK_AGAIN_MS = 3000

/** Ink changed in a box of the page, mm, or anywhere. */
interface Change {
  box: Box | undefined
}

interface Options {
  sheet: Ref<SheetItem | undefined>
  page: ReturnType<typeof usePage>
  canvas: Ref<HTMLCanvasElement | null>
  /** Whether the nib is down. */
  writing: Ref<boolean>
  /** The settled picture is there. */
  settled: () => void
  /** The page is about to be laid out anew. */
  anew: () => void
}

/**
 * The page's picture: settled ink as the server draws it, and on it, as they were written, strokes that are on their
 * way. Where the screen asks for it, the settled picture waits until the pen has paused.
 */
export function useSettling({ sheet, page, canvas, writing, settled, anew }: Options) {
  const desk = useDesk()
  const settings = useScreenSettings()
  const ink = useInk()
  const plans = usePlans()
  const tiles = useTiles(sheet, page.scale)
  const wet = new Map<string, Wet>()
  /** Those whose settled picture is on its way. */
  const drying = new Set<string>()
  /** Why the picture of the sheet did not come. */
  const missing = ref('')
  /** Nothing of the page's ink is there yet. */
  const coming = ref(true)
  let over = false
  onScopeDispose(() => (over = true))

  /** Put a lifted stroke on the page canvas as it was drawn live, until the settled picture takes its place. */
  function dry(stroke: Wet) {
    const context = canvas.value?.getContext('2d')
    if (!context) return
    const layer = new OffscreenCanvas(context.canvas.width, context.canvas.height)
    const { left, top } = page.seen.value
    const ink2d = layer.getContext('2d') as unknown as CanvasRenderingContext2D
    drawStroke(
      { context: ink2d, scale: page.scale.value, left, top, deposit: stroke.deposit },
      stroke.plan,
      stroke.points,
    )
    context.globalAlpha = stroke.plan.opacity
    context.globalCompositeOperation = operationOf(stroke.plan.blend)
    context.drawImage(layer, 0, 0)
    context.globalAlpha = 1
    context.globalCompositeOperation = 'source-over'
  }

  /** A stroke lifted: it lies there as it was written until it settles. */
  function lifted(id: string, stroke: Wet) {
    wet.set(id, stroke)
    dry(stroke)
  }

  /** What is known of the page's picture, and on it the ink that is on its way. */
  function repaint() {
    const context = canvas.value?.getContext('2d')
    if (!context || !sheet.value) return
    tiles.paint(context, page.seen.value, sheet.value.paper.colour!)
    for (const drawn of wet.values()) dry(drawn)
  }

  /** What has changed and waits for the pen to pause. */
  let held: Change | undefined
  /** What changed, and whose picture did not come: it comes with the next. */
  let lacking: Change | undefined
  let pause = 0
  onScopeDispose(() => clearTimeout(pause))
  const both = (a: Change | undefined, b: Change | undefined) =>
    a && b ? { box: a.box && b.box && around(a.box, b.box) } : (a ?? b)

  function settleSoon(box: Box | undefined, written: boolean) {
    if (!settings.settleMs || !written) return void settle({ box })
    held = both(held, { box })
    wait()
  }
  function wait() {
    clearTimeout(pause)
    if (held && !writing.value) pause = window.setTimeout(() => void settle(), settings.settleMs)
  }
  watch(writing, wait)

  /** Have the picture of what is seen: all of it that is missing, or anew what changed. */
  async function settle(change?: Change) {
    const now = sheet.value?.id
    let due = both(held, change)
    held = undefined
    clearTimeout(pause)
    if (due) {
      due = both(due, lacking)
      lacking = undefined
    }
    // they stay until just this picture comes: one of a later stroke may come before it, without them
    const mine = due ? [...wet.keys()].filter((id) => !ink.waiting.has(id) && !drying.has(id)) : []
    for (const id of mine) drying.add(id)
    try {
      if (due) await tiles.refresh(page.seen.value, page.size.value, due.box)
      else await tiles.fill(page.seen.value, page.size.value)
      if (due || !lacking) missing.value = ''
      if (page.scale.value && page.seen.value.width) coming.value = false // before, nothing was asked for
      for (const id of mine) wet.delete(id)
    } catch (error) {
      if (now !== sheet.value?.id) return
      missing.value = (error as Error).message
      lacking = both(lacking, due ?? { box: undefined })
      setTimeout(() => lacking && now === sheet.value?.id && !over && void settle(lacking), ASK_AGAIN_MS)
    } finally {
      for (const id of mine) drying.delete(id)
    }
    if (over || now !== sheet.value?.id) return
    await showWaiting()
    repaint()
    settled()
    keepSoon()
  }

  /** For when this page is met again, before the server has drawn it. */
  const keepSoon = useDebounceFn(async () => {
    const now = sheet.value
    if (over || !now || missing.value || coming.value || !canvas.value?.width || wet.size || writing.value) return
    await keepPicture(canvas.value, now.id, now.created_at, page.seen.value, page.scale.value).catch(() => undefined)
  }, 1500)
  async function showLast() {
    const now = sheet.value
    const last = now && (await lastPicture(now.id, now.created_at).catch(() => undefined))
    if (!last || over || now.id !== sheet.value?.id || !coming.value) return
    tiles.showLast(last)
    repaint()
  }

  /** Ink that is on its way or was refused is shown as it was written, also after a reload. */
  async function showWaiting() {
    for (const [id, { sheetId, stroke }] of ink.waiting) {
      if (sheetId !== sheet.value?.id) continue
      const drawn = wet.get(id) ?? (await written(stroke).catch(() => undefined))
      if (!drawn || sheetId !== sheet.value?.id || !ink.waiting.has(id)) continue
      wet.set(id, drawn)
    }
  }

  async function written(stroke: NewStroke): Promise<Wet | undefined> {
    const samples = samplesOf(stroke)
    const pen = desk.desk?.pens.find((p) => p.id === stroke.pen_id) ?? desk.pen
    if (!pen || !samples.length) return undefined
    const recipe = (stroke.draft as Recipe | null) ?? pen.recipe
    const live = new LivePen(await plans.planOf(recipe, sheet.value!.paper, settings.plain))
    for (const s of samples) live.add(s)
    live.lift()
    return { plan: live.plan, points: live.shown() }
  }

  watch([page.scale, () => sheet.value?.id, () => sheet.value?.paper], async ([, id], [, before]) => {
    anew()
    if (id !== before) {
      wet.clear()
      held = lacking = undefined
      coming.value = true
      void showLast()
    }
    await nextTick()
    repaint()
    await settle(id === before ? undefined : { box: undefined })
  })
  watch(
    page.seen,
    () => {
      repaint()
      void settle()
    },
    { flush: 'post' },
  )
  watch(
    () => ink.changed,
    (now) => {
      if (now && now.sheetId === sheet.value?.id) settleSoon(now.box, !!now.written)
    },
  )
  watch(
    () => desk.looked,
    () => void settle({ box: desk.lookedBox }),
  )
  onMounted(() => {
    void showLast()
    void settle()
  })

  return { missing, coming, dry, lifted, withdraw: (id: string) => wet.delete(id) }
}

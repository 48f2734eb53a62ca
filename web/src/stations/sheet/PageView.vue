<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, onMounted, onScopeDispose, ref, shallowRef, useTemplateRef, watch } from 'vue'
import type { Box, Recipe, Schemas, SheetItem } from '@/api/client'
import { useAwake } from '@/composables/use-awake'
import { useLatest } from '@/composables/use-latest'
import { drawStroke, LivePen, operationOf, samplesOf } from '@/ink'
import { useDeeds } from '@/stores/deeds'
import { useDesk } from '@/stores/desk'
import { asSet, notKept } from '@/stores/draft'
import { useFrame } from '@/stores/frame'
import { useGuide } from '@/stores/guide'
import { useInk, type NewStroke } from '@/stores/ink'
import { usePalm } from '@/stores/palm'
import { usePlans } from '@/stores/plans'
import { useScreen } from '@/stores/screen'
import { useVerb } from '@/stores/verb'
import ChosenInk from './ChosenInk.vue'
import PageGuide from './PageGuide.vue'
import PageMarks from './PageMarks.vue'
import PageTools from './PageTools.vue'
import { useDeposit } from './use-deposit'
import { useFigure } from './use-figure'
import { usePage } from './use-page'
import { usePageMoves } from './use-page-moves'
import { useTiles } from './use-tiles'
import { useWays } from './use-ways'
import { useWriting, type Wet, type WrittenWith } from './use-writing'

defineProps<{ prompts: Schemas['Prompt'][] }>()
const emit = defineEmits<{ settled: []; moved: [] }>()
const desk = useDesk()
const ink = useInk()
const plans = usePlans()
const screen = useScreen()
const palm = usePalm()
const deskFrame = useFrame()
const paperSheet = useTemplateRef<HTMLElement>('paperSheet')
const frame = useTemplateRef<HTMLElement>('frame')
const pageCanvas = useTemplateRef<HTMLCanvasElement>('pageCanvas')
const liveCanvas = useTemplateRef<HTMLCanvasElement>('liveCanvas')
const sheet = computed(() => desk.sheet)
const ASK_AGAIN_MS = 3000
const [LEAST_MM, MOST_MM] = [0.05, 20] // of a pen's width
const [BARREL, ERASER_END] = [2, 32] // of PointerEvent.buttons
const ASKS = { write: 'Write here', rub: 'Rub out here', choose: 'Choose ink here', rule: 'Write here' } as const
const page = usePage(sheet, frame)
const tiles = useTiles(sheet, page.scale)
/** The pen that writes, as it is set now. */
const writes = shallowRef<WrittenWith>()
/** Why the picture of the sheet did not come. */
const missing = ref('')
let over = false
onScopeDispose(() => (over = true))
const wet = new Map<string, Wet>()
const verb = useVerb()
/** The pen as it writes here: as it is set, or as broad on the screen as it would be at true size. */
const inHand = computed(() => {
  const pen = desk.pen
  if (!pen || !page.cssScale.value) return undefined
  const recipe = asSet(pen)
  if (!verb.widthAsSeen || !recipe.body) return { pen, recipe, draft: notKept(pen) }
  const mm = ((recipe.body.width_mm ?? 0.5) * screen.pxPerMm) / page.cssScale.value
  const scaled = {
    ...recipe,
    body: { ...recipe.body, width_mm: Number(Math.min(MOST_MM, Math.max(LEAST_MM, mm)).toPrecision(2)) },
  }
  return { pen, recipe: scaled, draft: scaled }
})
const compiled = useLatest(
  async ({ pen, recipe, draft, paper }: NonNullable<typeof inHand.value> & { paper: SheetItem['paper'] }) => ({
    plan: await plans.planOf(recipe, paper),
    id: pen.id,
    revision: pen.revision,
    draft,
  }),
  (made) => (writes.value = made),
)
watch(
  [() => JSON.stringify(inHand.value?.recipe), () => desk.pen?.id, () => desk.pen?.revision, () => sheet.value?.paper],
  () => {
    writes.value = undefined
    compiled.forget()
    if (inHand.value && sheet.value) void compiled.want({ ...inHand.value, paper: sheet.value.paper })
  },
  { immediate: true },
)

const guide = useGuide()
const deeds = useDeeds()
const deposit = useDeposit(
  sheet,
  computed(() => writes.value && inHand.value && { plan: writes.value.plan, recipe: inHand.value.recipe }),
  page.scale,
  page.seen,
)
const ways = useWays(sheet, page.cssScale, page.showBox)
const figure = useFigure()
const nib = ref<{ x: number; y: number }>()

const moves = usePageMoves(frame, paperSheet, page.zoom, () => screen.pxPerMm)
const { writing } = useWriting({
  canvas: liveCanvas,
  page: paperSheet,
  cssScale: page.cssScale,
  scale: page.scale,
  seen: page.seen,
  deposit,
  palm: computed(() => palm.plan),
  pxPerMm: () => screen.pxPerMm,
  moved: (view, held) => void moves.moved(view, held),
  begun: () => moves.reset(),
  penSeen: () => (palm.penSeen = true),
  pen: (event) => {
    const end = !!(event.buttons & ERASER_END) || event.button === 5
    const held = end
      ? deeds.deedOf('eraser')
      : event.pointerType === 'pen' && event.buttons & BARREL
        ? deeds.deedOf('barrel')
        : ''
    const does = ways.penAt(pageMm(event), held === 'rub' || held === 'choose' ? held : undefined)
    return does === 'write' ? writes.value : does
  },
  landed: moves.mark,
  fingered: (fingers, side) => {
    if (deeds.of(fingers, side) === 'nothing') return
    if (side) moves.back()
    deeds.perform(deeds.of(fingers, side))
  },
  barrel: () => deeds.perform(deeds.deedOf('barrel')),
  railAt: (x, y) => guide.railAt(x, y),
  going: ways.going,
  wrote: figure.wrote,
  sizes: () => !!figure.shown.value,
  sizing: figure.size,
  lifted: (stroke: NewStroke, drawn: Wet, pen) => {
    if (pen.does) return void ways.ended(stroke, pen, drawn, dry)
    if (figure.rung()) return void figure.choose()
    wet.set(stroke.id, drawn)
    dry(drawn)
    if (!sheet.value) return
    stroke.layer = sheet.value.layer
    const { id, name } = sheet.value
    void figure.lifted(id, stroke, ink.keep(id, name, stroke))
  },
  withdrawn: (id) => {
    if (ways.drew(id)) return
    wet.delete(id)
    if (sheet.value) void desk.attempt(() => ink.withdraw(sheet.value!.id, id))
  },
})

/** Where a pointer is on the page. */
function pageMm(event: PointerEvent): [number, number] {
  const place = paperSheet.value!.getBoundingClientRect()
  return [(event.clientX - place.left) / page.cssScale.value, (event.clientY - place.top) / page.cssScale.value]
}
/** The eraser's rim goes with the pointer. */
function showNib(event: PointerEvent) {
  const [x, y] = pageMm(event)
  nib.value = verb.now === 'rub' && event.pointerType !== 'touch' ? { x, y } : undefined
}

useAwake(writing)
// between two strokes, never under the nib: what folds may move the page
watch(writing, (now) => {
  if (!now) deskFrame.writing = true
})

/** Put a lifted stroke on the page canvas as it was drawn live, until the settled picture takes its place. */
function dry(stroke: Wet) {
  const context = pageCanvas.value?.getContext('2d')
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

/** What is known of the page's picture, and on it the ink that is on its way. */
function repaint() {
  const context = pageCanvas.value?.getContext('2d')
  if (!context || !sheet.value) return
  tiles.paint(context, page.seen.value, sheet.value.paper.colour!)
  for (const drawn of wet.values()) dry(drawn)
}

/** Have the picture of what is seen: all of it that is missing, or anew what changed. */
async function settle(change?: { box: Box | undefined }) {
  const now = sheet.value?.id
  try {
    if (change) await tiles.refresh(page.seen.value, page.size.value, change.box)
    else await tiles.fill(page.seen.value, page.size.value)
    missing.value = ''
  } catch (error) {
    if (now !== sheet.value?.id) return
    missing.value = (error as Error).message
    setTimeout(() => missing.value && now === sheet.value?.id && !over && void settle({ box: undefined }), ASK_AGAIN_MS)
  }
  if (over || now !== sheet.value?.id) return
  await showWaiting()
  repaint()
  ways.settled()
  if (!missing.value) emit('settled')
}

/** Ink that is on its way or was refused is shown as it was written, also after a reload. */
async function showWaiting() {
  for (const id of wet.keys()) if (!ink.waiting.has(id)) wet.delete(id)
  for (const [id, { sheetId, stroke }] of ink.waiting) {
    if (sheetId !== sheet.value?.id) continue
    const drawn = wet.get(id) ?? (await written(stroke).catch(() => undefined))
    if (!drawn || sheetId !== sheet.value?.id) continue
    wet.set(id, drawn)
  }
}

async function written(stroke: NewStroke): Promise<Wet | undefined> {
  const samples = samplesOf(stroke)
  const pen = desk.desk?.pens.find((p) => p.id === stroke.pen_id) ?? desk.pen
  if (!pen || !samples.length) return undefined
  const live = new LivePen(await plans.planOf((stroke.draft as Recipe | null) ?? pen.recipe, sheet.value!.paper))
  for (const s of samples) live.add(s)
  live.lift()
  return { plan: live.plan, points: live.shown() }
}

/** Where refused ink lies on this sheet, mm. */
const refusedBoxes = computed(() =>
  ink.refused
    .filter((group) => group.sheetId === sheet.value?.id)
    .flatMap((group) => group.strokes)
    .map((stroke) => samplesOf(stroke))
    .filter((samples) => samples.length)
    .map((samples) => {
      const [x, y] = [samples.map((s) => s.x), samples.map((s) => s.y)]
      const [left, top] = [Math.min(...x) - 1, Math.min(...y) - 1]
      return { left, top, width: Math.max(...x) + 1 - left, height: Math.max(...y) + 1 - top }
    }),
)

watch([page.scale, () => sheet.value?.id, () => sheet.value?.paper], async ([, id], [, before]) => {
  moves.startAnew()
  if (id !== before) wet.clear()
  await nextTick()
  repaint()
  await settle(id === before ? undefined : { box: undefined })
  emit('moved')
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
    if (now && now.sheetId === sheet.value?.id) void settle({ box: now.box })
  },
)
watch(
  () => desk.looked,
  () => void settle({ box: undefined }),
)
onMounted(() => void settle())
useEventListener(frame, 'scroll', () => emit('moved'), { passive: true })

/** Where a place on the page is on the screen, or undefined when it is scrolled out of sight. */
function onScreen(mm: readonly [number, number]): { x: number; y: number } | undefined {
  const paper = paperSheet.value?.getBoundingClientRect()
  const seen = frame.value?.getBoundingClientRect()
  if (!paper || !seen) return undefined
  const x = paper.left + mm[0] * page.cssScale.value
  const y = paper.top + mm[1] * page.cssScale.value
  return x >= seen.left && x <= seen.right && y >= seen.top && y <= seen.bottom ? { x, y } : undefined
}
const closer = (times: number) => void page.zoomTo(page.zoom.value * times)
const middle = () => (frame.value && page.cssScale.value ? page.middle() : undefined)
defineExpose({ onScreen, frame, closer, middle })
</script>

<template>
  <div class="holder">
    <div ref="frame" class="scroll" tabindex="0" aria-label="The sheet">
      <div ref="paperSheet" class="page" :style="page.css.value">
        <canvas
          ref="pageCanvas"
          :width="page.seen.value.width"
          :height="page.seen.value.height"
          :style="page.seenCss.value"
          data-layer="page"
        />
        <PageMarks
          :width-mm="sheet?.paper.width_mm ?? 1"
          :height-mm="sheet?.paper.height_mm ?? 1"
          :dark="!!sheet?.paper_is_dark"
          :prompts
          :refused="refusedBoxes"
          :covers="ways.covers.value"
          :paper="sheet?.paper.colour ?? '#ffffff'"
          :figure="figure.shown.value ?? ways.box.value"
          :eraser="
            nib && verb.now === 'rub' && verb.takes !== 'ringed'
              ? { ...nib, radius: ways.eraserMm.value / 2 }
              : undefined
          "
        />
        <ChosenInk :css-scale="page.cssScale.value" />
        <canvas
          ref="liveCanvas"
          class="live"
          :width="page.seen.value.width"
          :height="page.seen.value.height"
          :style="page.seenCss.value"
          data-layer="live"
          :aria-label="ASKS[verb.now]"
          @pointermove="showNib"
          @pointerleave="nib = undefined"
        />
        <PageGuide
          :width-mm="sheet?.paper.width_mm ?? 1"
          :height-mm="sheet?.paper.height_mm ?? 1"
          :dark="!!sheet?.paper_is_dark"
          :css-scale="page.cssScale.value"
        />
      </div>
    </div>
    <p v-if="missing" class="missing small" role="status">
      The picture of this sheet did not come: {{ missing }} What you write is kept; it is asked for again.
    </p>
    <PageTools :page />
  </div>
</template>

<style scoped>
.holder {
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto auto;
  min-height: 0;
  height: 100%;
}
.scroll {
  overflow: auto;
  min-height: 0;
  border: var(--line) solid var(--rule);
  background: var(--paper);
  scrollbar-width: thin;
}
.page {
  position: relative;
  margin: 0 auto;
}
canvas {
  position: absolute;
  display: block;
}
.live {
  touch-action: none;
  cursor: crosshair;
}
.missing {
  margin: 0;
  padding: 6px 0;
  color: var(--harm);
}
</style>

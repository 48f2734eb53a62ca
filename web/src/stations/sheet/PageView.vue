<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, onMounted, onScopeDispose, ref, shallowRef, useTemplateRef, watch } from 'vue'
import type { Box, PenItem, Recipe, Schemas, SheetItem } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { drawStroke, LivePen, operationOf, samplesOf } from '@/ink'
import { useDesk } from '@/stores/desk'
import { asSet, notKept } from '@/stores/draft'
import { useFrame } from '@/stores/frame'
import { useInk, type NewStroke } from '@/stores/ink'
import { usePalm } from '@/stores/palm'
import { usePlans } from '@/stores/plans'
import { useScreen } from '@/stores/screen'
import { useVerb } from '@/stores/verb'
import ChosenInk from './ChosenInk.vue'
import { useFigure } from './use-figure'
import { usePage } from './use-page'
import { usePageMoves } from './use-page-moves'
import { useWays } from './use-ways'
import { useWriting, type Wet, type WrittenWith } from './use-writing'

const props = defineProps<{ prompts: Schemas['Prompt'][] }>()
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
const ERASER_END = 32 // of PointerEvent.buttons, with button 5
const ASKS = { write: 'Write here', rub: 'Rub out here', choose: 'Choose ink here' } as const
const page = usePage(sheet, frame)
/** The pen that writes, as it is set now. */
const writes = shallowRef<WrittenWith>()
/** Why the picture of the sheet did not come. */
const missing = ref('')
let over = false
onScopeDispose(() => (over = true))
const wet = new Map<string, Wet>()
const boxes = computed(() =>
  props.prompts.map(({ ask, box_mm: [x, y, right, bottom] }) => ({
    ask,
    x: x!,
    y: y!,
    width: right! - x!,
    height: bottom! - y!,
  })),
)

const compiled = useLatest(
  async (of: { pen: PenItem; paper: SheetItem['paper'] }) => ({
    plan: await plans.planOf(asSet(of.pen), of.paper),
    id: of.pen.id,
    revision: of.pen.revision,
    draft: notKept(of.pen),
  }),
  (made) => (writes.value = made),
)
watch(
  [() => desk.pen && asSet(desk.pen), () => desk.pen?.id, () => desk.pen?.revision, () => sheet.value?.paper],
  () => {
    writes.value = undefined
    compiled.forget()
    if (desk.pen && sheet.value) void compiled.want({ pen: desk.pen, paper: sheet.value.paper })
  },
  { immediate: true },
)

const verb = useVerb()
const ways = useWays(sheet, page.cssScale)
const figure = useFigure()
const nib = ref<{ x: number; y: number }>()

const moves = usePageMoves(frame, paperSheet, page.zoom, () => screen.pxPerMm)
const { writing } = useWriting({
  canvas: liveCanvas,
  pageWidthMm: () => sheet.value?.paper.width_mm ?? 1,
  scale: page.scale,
  palm: computed(() => palm.plan),
  pxPerMm: () => screen.pxPerMm,
  moved: (view, held) => void moves.moved(view, held),
  begun: () => moves.reset(),
  penSeen: () => (palm.penSeen = true),
  pen: (event) => {
    const does = ways.penAt(pageMm(event), !!(event.buttons & ERASER_END) || event.button === 5)
    return does === 'write' ? writes.value : does
  },
  going: ways.going,
  wrote: figure.wrote,
  lifted: (stroke: NewStroke, drawn: Wet, pen) => {
    if (pen.does) return void ways.ended(stroke, pen, drawn, dry)
    wet.set(stroke.id, drawn)
    dry(drawn)
    if (!sheet.value) return
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
  const place = liveCanvas.value!.getBoundingClientRect()
  const perMm = place.width / (sheet.value?.paper.width_mm ?? 1)
  return [(event.clientX - place.left) / perMm, (event.clientY - place.top) / perMm]
}
/** The eraser's rim goes with the pointer. */
function showNib(event: PointerEvent) {
  const [x, y] = pageMm(event)
  nib.value = verb.now === 'rub' && event.pointerType !== 'touch' ? { x, y } : undefined
}

// between two strokes, never under the nib: what folds may move the page
watch(writing, (now) => {
  if (!now) deskFrame.writing = true
})

/** Put a lifted stroke on the page canvas as it was drawn live, until the settled picture takes its place. */
function dry(stroke: Wet) {
  const context = pageCanvas.value?.getContext('2d')
  if (!context) return
  const layer = new OffscreenCanvas(context.canvas.width, context.canvas.height)
  const ground = { context: layer.getContext('2d') as unknown as CanvasRenderingContext2D, scale: page.scale.value }
  drawStroke(ground, stroke.plan, stroke.points)
  context.globalAlpha = stroke.plan.opacity
  context.globalCompositeOperation = operationOf(stroke.plan.blend)
  context.drawImage(layer, 0, 0)
  context.globalAlpha = 1
  context.globalCompositeOperation = 'source-over'
}

async function settle(box?: Box) {
  const now = sheet.value?.id
  try {
    const part = await page.fetchPart(box)
    missing.value = ''
    const context = pageCanvas.value?.getContext('2d')
    if (!part || !context) return
    context.drawImage(part.picture, part.left, part.top)
  } catch (error) {
    if (now !== sheet.value?.id) return
    missing.value = (error as Error).message
    setTimeout(() => missing.value && now === sheet.value?.id && !over && void settle(), ASK_AGAIN_MS)
  }
  await showWaiting()
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
    dry(drawn)
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

watch([page.scale, () => sheet.value?.id, () => sheet.value?.paper], async () => {
  moves.startAnew()
  await nextTick()
  await settle()
  emit('moved')
})
watch(
  () => ink.changed,
  (now) => {
    if (now && now.sheetId === sheet.value?.id) void settle(now.box)
  },
)
watch(
  () => desk.looked,
  () => void settle(),
)
onMounted(() => void settle())
useEventListener(frame, 'scroll', () => emit('moved'), { passive: true })

const zoomed = (z: number) => {
  moves.startAnew()
  page.zoom.value = Math.min(6, Math.max(0.3, z))
}
/** Where a place on the page is on the screen, or undefined when it is scrolled out of sight. */
function onScreen(mm: readonly [number, number]): { x: number; y: number } | undefined {
  const canvas = pageCanvas.value?.getBoundingClientRect()
  const seen = frame.value?.getBoundingClientRect()
  if (!canvas || !seen) return undefined
  const x = canvas.left + mm[0] * page.cssScale.value
  const y = canvas.top + mm[1] * page.cssScale.value
  return x >= seen.left && x <= seen.right && y >= seen.top && y <= seen.bottom ? { x, y } : undefined
}
defineExpose({ onScreen, frame })
</script>

<template>
  <div class="holder">
    <div ref="frame" class="scroll" tabindex="0" aria-label="The sheet">
      <div ref="paperSheet" class="page" :style="page.size.value.css">
        <canvas ref="pageCanvas" :width="page.size.value.width" :height="page.size.value.height" data-layer="page" />
        <svg
          v-if="prompts.length"
          class="prompts"
          :class="{ dark: sheet?.paper_is_dark }"
          :viewBox="`0 0 ${sheet?.paper.width_mm} ${sheet?.paper.height_mm}`"
          aria-hidden="true"
        >
          <g v-for="p in boxes" :key="p.ask">
            <rect :x="p.x" :y="p.y" :width="p.width" :height="p.height" />
            <text :x="p.x + 1.5" :y="p.y + 4">{{ p.ask }}</text>
          </g>
        </svg>
        <ChosenInk :css-scale="page.cssScale.value" />
        <svg
          v-if="figure.shown.value"
          class="rim figure"
          :class="{ dark: sheet?.paper_is_dark }"
          :viewBox="`0 0 ${sheet?.paper.width_mm} ${sheet?.paper.height_mm}`"
          role="img"
          :aria-label="`Lift now for a ${figure.shown.value.kind}`"
        >
          <polyline
            :points="figure.shown.value.ring.map((p) => p.join(',')).join(' ')"
            :data-figure="figure.shown.value.kind"
          />
        </svg>
        <svg
          v-if="nib && verb.now === 'rub' && verb.takes !== 'ringed'"
          class="rim"
          :class="{ dark: sheet?.paper_is_dark }"
          :viewBox="`0 0 ${sheet?.paper.width_mm} ${sheet?.paper.height_mm}`"
          aria-hidden="true"
        >
          <circle :cx="nib.x" :cy="nib.y" :r="ways.eraserMm.value / 2" />
        </svg>
        <svg
          v-if="refusedBoxes.length"
          class="prompts marked"
          :class="{ dark: sheet?.paper_is_dark }"
          :viewBox="`0 0 ${sheet?.paper.width_mm} ${sheet?.paper.height_mm}`"
          aria-hidden="true"
        >
          <rect
            v-for="(box, k) in refusedBoxes"
            :key="k"
            :x="box.left"
            :y="box.top"
            :width="box.width"
            :height="box.height"
          />
        </svg>
        <canvas
          ref="liveCanvas"
          class="live"
          :width="page.size.value.width"
          :height="page.size.value.height"
          data-layer="live"
          :aria-label="ASKS[verb.now]"
          @pointermove="showNib"
          @pointerleave="nib = undefined"
        />
      </div>
    </div>
    <p v-if="missing" class="missing small" role="status">
      The picture of this sheet did not come: {{ missing }} What you write is kept; it is asked for again.
    </p>
    <div class="tools small">
      <span class="zoom">
        <button type="button" class="plain-button" @click="zoomed(page.wholeZoom.value)">whole sheet</button>
        <button type="button" class="plain-button" @click="zoomed(1)">full width</button>
        <button
          type="button"
          class="plain-button"
          @click="zoomed((page.zoom.value * screen.pxPerMm) / page.cssScale.value)"
        >
          true size
        </button>
        <button type="button" class="plain-button" @click="zoomed(page.zoom.value * 1.4)">closer</button>
        <button type="button" class="plain-button" @click="zoomed(page.zoom.value / 1.4)">farther</button>
      </span>
      <span class="zoom">
        <button type="button" class="plain-button" @click="palm.pageLock = !palm.pageLock">
          {{ palm.pageLock ? 'Let the page move' : 'Lock the page' }}
        </button>
        <button type="button" class="plain-button" @click="palm.fingerInk = palm.fingerWrites ? 'off' : 'on'">
          {{ palm.fingerWrites ? 'Let a finger move the page' : 'Let a finger write' }}
        </button>
      </span>
    </div>
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
  inset: 0;
  width: 100%;
  height: 100%;
  display: block;
}
.live {
  touch-action: none;
  cursor: crosshair;
}
.prompts {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
/* marks on the paper go by the paper's lightness, whatever surface the desk has */
.prompts {
  --mark: #2e5e5a;
}
.prompts.dark {
  --mark: #a9d6ce;
}
.prompts.marked {
  --mark: #a23b2a;
}
.prompts.marked.dark {
  --mark: #ea9a8b;
}
.prompts rect {
  fill: none;
  stroke: var(--mark);
  stroke-width: 0.15;
  stroke-dasharray: 0.8 1.2;
}
.prompts text {
  font: italic 2.7px var(--book);
  fill: var(--mark);
}
:root[data-surface='e-ink'] .prompts {
  --mark: #000;
}
:root[data-surface='e-ink'] .prompts.dark {
  --mark: #fff;
}
:root[data-surface='e-ink'] .prompts rect,
.prompts.marked rect {
  stroke-width: 0.3;
}
.rim {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.rim polyline {
  fill: none;
  stroke: #2e5e5a;
  stroke-width: 3px;
  vector-effect: non-scaling-stroke;
}
.rim.dark polyline {
  stroke: #a9d6ce;
}
.rim circle {
  fill: none;
  stroke: #20242b;
  stroke-width: 1.5px;
  vector-effect: non-scaling-stroke;
}
.rim.dark circle {
  stroke: #fffdf8;
}
.missing {
  margin: 0;
  padding: 6px 0;
  color: var(--harm);
}
.tools {
  display: flex;
  justify-content: space-between;
  min-height: var(--target);
}
.zoom {
  display: flex;
  gap: 20px;
}
</style>

<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, defineAsyncComponent, onBeforeUnmount, ref, useTemplateRef, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { useAwake } from '@/composables/use-awake'
import { useGestureActions } from '@/stores/gesture-actions'
import { useDesk } from '@/stores/desk'
import { useFrame } from '@/stores/frame'
import { useGuide } from '@/stores/guide'
import { useScreenSettings } from '@/stores/screen-settings'
import { useInk, type NewStroke } from '@/stores/ink'
import { useLastTouch } from '@/stores/last-touch'
import { usePages } from '@/stores/pages'
import { useUnderlay } from '@/stores/underlay'
import { useReplay } from '@/stores/replay'
import { usePalm } from '@/stores/palm'
import { useScreen } from '@/stores/screen'
import { useStrip } from '@/stores/strip'
import { useTool } from '@/stores/tool'
import SelectedInk from './SelectedInk.vue'
import PageCovers from './PageCovers.vue'
import PageGuide from './PageGuide.vue'
import PageMarks from './PageMarks.vue'
import PageTools from './PageTools.vue'
import { useDeposit } from './use-deposit'
import { useFigure } from './use-figure'
import { usePage } from './use-page'
import { usePageMoves } from './use-page-moves'
import { usePageTurns } from './use-page-turns'
import { usePenInHand } from './use-pen-in-hand'
import { usePointing } from './use-pointing'
import { useSettling } from './use-settling'
import { useSound } from './use-sound'
import { useStripWindow } from './use-strip'
import { useRefusedBoxes } from './use-refused-boxes'
import { useMirroring } from './use-mirroring'
import { useWays } from './use-ways'
import { useWriting } from './use-writing'
import type { Wet } from './writing-options'

// come when they are asked for
const StripTools = defineAsyncComponent(() => import('./StripTools.vue'))
const StripView = defineAsyncComponent(() => import('./StripView.vue'))
const ReplayBar = defineAsyncComponent(() => import('./ReplayBar.vue'))
const ReplayLayer = defineAsyncComponent(() => import('./ReplayLayer.vue'))
defineProps<{ prompts: Schemas['Prompt'][] }>()
const emit = defineEmits<{ settled: []; moved: [] }>()
const desk = useDesk()
const ink = useInk()
const screen = useScreen()
const palm = usePalm()
const deskFrame = useFrame()
const paperSheet = useTemplateRef<HTMLElement>('paperSheet')
const frame = useTemplateRef<HTMLElement>('frame')
const pageCanvas = useTemplateRef<HTMLCanvasElement>('pageCanvas')
const liveCanvas = useTemplateRef<HTMLCanvasElement>('liveCanvas')
const aheadCanvas = useTemplateRef<HTMLCanvasElement>('aheadCanvas')
const pointCanvas = useTemplateRef<HTMLCanvasElement>('pointCanvas')
const sheet = computed(() => desk.sheet)
const [BARREL, ERASER_END] = [2, 32] // of PointerEvent.buttons
const ASKS = {
  write: 'Write here',
  rub: 'Rub out here',
  choose: 'Choose ink here',
  rule: 'Write here',
  read: 'Swipe to turn pages',
  point: 'Point here',
} as const
const page = usePage(sheet, frame)
const tool = useTool()
const settings = useScreenSettings()
const { inHand, writes } = usePenInHand(sheet, page.cssScale)

/** A layer is as large as the page that is seen only while something may be drawn on it. */
const looksAhead = computed(() => !!writes.value?.plan.ahead)
const guide = useGuide()
const show = useMirroring(sheet, frame, page)
const pointing = usePointing(pointCanvas, page)
const gestures = useGestureActions()
const deposit = useDeposit(
  sheet,
  computed(() => writes.value && inHand.value && { plan: writes.value.plan, recipe: inHand.value.recipe }),
  page.scale,
  page.seen,
)
const ways = useWays(sheet, page.cssScale, page.showBox, (from, to) => {
  const perMm = page.cssScale.value / screen.pxPerMm
  turns.swiped([from[0] * perMm, from[1] * perMm], [to[0] * perMm, to[1] * perMm])
})
const figure = useFigure()
const refused = useRefusedBoxes(sheet)
const nib = ref<{ x: number; y: number }>()

const last = useLastTouch()
const pages = usePages()
const underlay = useUnderlay()
const replay = useReplay()
const strip = useStrip()
const sound = useSound()
const moves = usePageMoves(frame, paperSheet, page.zoom, () => screen.pxPerMm)
const turns = usePageTurns(
  frame,
  page,
  computed(() => settings.turns),
)
const { writing } = useWriting({
  canvas: liveCanvas,
  aheadCanvas,
  page: paperSheet,
  cssScale: page.cssScale,
  scale: page.scale,
  seen: page.seen,
  deposit,
  palm: computed(() => palm.plan),
  pxPerMm: () => screen.pxPerMm,
  moved: (view, held) => (settings.turns ? turns.moved(view, held) : void moves.moved(view, held)),
  begun: () => moves.reset(),
  penSeen: () => (palm.penSeen = true),
  pen: (event) => {
    const end = !!(event.buttons & ERASER_END) || event.button === 5
    const held = end
      ? gestures.actionOf('eraser')
      : event.pointerType === 'pen' && event.buttons & BARREL
        ? gestures.actionOf('barrel')
        : ''
    const does = ways.penAt(pageMm(event), held === 'rub' || held === 'choose' ? held : undefined)
    return does === 'write' ? writes.value : does
  },
  landed: moves.mark,
  felt: last.feel,
  decided: last.decided,
  fingered: (fingers, side) => {
    if (tool.now === 'read' && fingers === 1 && (side === 'left' || side === 'right')) {
      moves.back()
      return void pages.go(side === 'left')
    }
    if (gestures.of(fingers, side) === 'nothing') return
    if (side) moves.back()
    gestures.perform(gestures.of(fingers, side))
  },
  barrel: () => gestures.perform(gestures.actionOf('barrel')),
  railAt: (x, y) => guide.railAt(x, y),
  going: (samples, does) => (does === 'point' ? pointing.going(samples) : ways.going(samples, does)),
  inked: (samples, pen) => {
    sound.goes(samples, pen.plan)
    if (pen.recipe) show.wrote(samples, pen.recipe, settings.plain)
  },
  dropped: () => {
    sound.stops()
    show.lifted(undefined)
  },
  wrote: figure.wrote,
  sizes: () => !!figure.shown.value,
  sizing: figure.size,
  lifted: (stroke: NewStroke, drawn: Wet, pen) => {
    sound.stops()
    if (pen.does === 'point') pointing.ended()
    if (pen.does) return void ways.ended(stroke, pen, drawn, settling.dry)
    if (figure.rung()) {
      show.lifted(undefined)
      return void figure.choose()
    }
    settling.lifted(stroke.id, drawn)
    if (!sheet.value) return
    stroke.layer = sheet.value.layer
    const { id, name } = sheet.value
    stripWindow.lifted(stroke)
    void figure.lifted(id, stroke, ink.keep(id, name, stroke))
    show.lifted(stroke.id) // it waits to be kept by now
  },
  withdrawn: (id) => {
    if (ways.drew(id)) return
    settling.withdraw(id)
    if (sheet.value) void desk.attempt(() => ink.withdraw(sheet.value!.id, id))
  },
})

const stripWindow = useStripWindow(sheet, frame, page, writing)

/** Where a pointer is on the page. */
function pageMm(event: PointerEvent): [number, number] {
  const place = paperSheet.value!.getBoundingClientRect()
  return [(event.clientX - place.left) / page.cssScale.value, (event.clientY - place.top) / page.cssScale.value]
}
/** The eraser's rim goes with the pointer. */
function showNib(event: PointerEvent) {
  const [x, y] = pageMm(event)
  nib.value = tool.now === 'rub' && event.pointerType !== 'touch' ? { x, y } : undefined
}

const settling = useSettling({
  sheet,
  page,
  canvas: pageCanvas,
  writing,
  anew: () => {
    moves.startAnew()
  },
  settled: () => {
    ways.settled()
    emit('moved')
    if (!settling.missing.value) emit('settled')
  },
})
const { missing, coming } = settling
useAwake(writing)
// between two strokes, never under the nib: what folds may move the page
watch(writing, (now) => {
  deskFrame.nibDown = now
  if (!now) deskFrame.writing = true
})
onBeforeUnmount(() => (deskFrame.nibDown = false))

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
  <div class="holder" :class="{ strip: strip.on }">
    <StripView v-if="strip.on" />
    <p v-if="missing" class="missing small" role="status">
      The picture of this sheet did not come: {{ missing }} What you write is kept; it is asked for again.
    </p>
    <p v-else-if="coming && sheet?.strokes" class="missing on-its-way small" role="status">
      The ink of this page is on its way.
    </p>
    <div ref="frame" class="scroll" :class="{ turned: settings.turns }" tabindex="0" aria-label="The sheet">
      <div
        ref="paperSheet"
        class="page"
        :class="{ 'dark-at-night': deskFrame.darkPage && !sheet?.paper_is_dark }"
        :style="page.css.value"
      >
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
          :refused
          :covers="ways.covers.value"
          :paper="sheet?.paper.colour ?? '#ffffff'"
          :figure="figure.shown.value ?? ways.box.value ?? underlay.outline"
          :eraser="
            nib && tool.now === 'rub' && tool.takes !== 'ringed'
              ? { ...nib, radius: ways.eraserMm.value / 2 }
              : undefined
          "
        />
        <SelectedInk :css-scale="page.cssScale.value" />
        <canvas
          ref="liveCanvas"
          class="live"
          :width="page.seen.value.width"
          :height="page.seen.value.height"
          :style="page.seenCss.value"
          data-layer="live"
          :aria-label="ASKS[tool.now]"
          @pointermove="showNib"
          @pointerleave="nib = undefined"
        />
        <canvas
          ref="aheadCanvas"
          class="ahead"
          :width="looksAhead ? page.seen.value.width : 0"
          :height="looksAhead ? page.seen.value.height : 0"
          :style="page.seenCss.value"
          data-layer="ahead"
        />
        <canvas
          ref="pointCanvas"
          class="ahead"
          :width="tool.now === 'point' ? page.seen.value.width : 0"
          :height="tool.now === 'point' ? page.seen.value.height : 0"
          :style="page.seenCss.value"
          data-layer="point"
        />
        <ReplayLayer v-if="replay.on" :page />
        <PageCovers :css-scale="page.cssScale.value" :colour="sheet?.cover_colour ?? ''" />
        <PageGuide
          :width-mm="sheet?.paper.width_mm ?? 1"
          :height-mm="sheet?.paper.height_mm ?? 1"
          :dark="!!sheet?.paper_is_dark"
          :css-scale="page.cssScale.value"
        />
      </div>
    </div>
    <StripTools v-if="strip.on" @line="stripWindow.nextLine" />
    <ReplayBar v-else-if="replay.on" />
    <PageTools v-else :page />
  </div>
</template>

<style scoped>
.holder {
  position: relative;
  display: grid;
  grid-template-rows: minmax(0, 1fr) auto;
  min-height: 0;
  height: 100%;
}
.holder.strip {
  grid-template-rows: minmax(0, 1fr) minmax(160px, 34%) auto;
  gap: 8px;
}
.holder.strip .scroll {
  scrollbar-width: none;
  border-color: var(--ink);
}
.scroll {
  overflow: auto;
  min-height: 0;
  border: var(--line) solid var(--rule);
  background: var(--paper);
  scrollbar-width: thin;
}
.scroll.turned {
  overflow: hidden;
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
.ahead {
  pointer-events: none;
}
/* over the foot of the page, which stays as large as it is and is written on through it */
.missing {
  position: absolute;
  z-index: 1;
  grid-row: 1 / 2;
  inset: auto 0 0;
  pointer-events: none;
  margin: 2px;
  padding: 6px 12px;
  background: var(--card);
  color: var(--harm);
}
.on-its-way {
  color: var(--graphite);
}
</style>

<script setup lang="ts">
import { useEventListener, useIntervalFn } from '@vueuse/core'
import { computed, onBeforeUnmount, onMounted, ref, useTemplateRef } from 'vue'
import type { Schemas } from '@/api/client'
import { PalmEngine, type PageView, type PalmEvent } from '@/ink'
import { palmEvent, streamOf } from '@/ink/palm-events'
import { useEscape } from '@/composables/use-escape'
import { useScreen } from '@/stores/screen'
import type { Rules } from '@/stores/palm-trial'
import DrillPicture from './DrillPicture.vue'

/**
 * The drills done by a real hand on this screen: the page moves, zooms and takes marks as the rules let it; everything
 * is recorded.
 */
const props = defineProps<{
  drills: Schemas['DrillItem'][]
  rules: Rules
  zone: Schemas['Zone']
  limits: Schemas['Limits']
  trees: Schemas['Trees']
}>()
const emit = defineEmits<{ did: [part: Schemas['OwnPart'], azimuthsDeg: number[]]; done: [] }>()
/** The drills as they were when this began: those done here leave the list outside. */
const drills = props.drills
const screen = useScreen()
const glass = useTemplateRef<HTMLElement>('glass')
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const at = ref(0)
const touched = ref(false)
const view = ref<PageView>({ scale: 1, x: 0, y: 0 })
const marks = ref<number[][]>([])
const pressed = ref<number>()
const enlarged = ref(false)
const ENLARGED = 2
const takes = ref(0) // of this drill, kept already
let azimuthsDeg: number[] = []
let events: PalmEvent[] = []
const landed = new Set<number>()
let tapsSeen = 0
let first = -1
let last: { x: number; y: number } | undefined
const drill = computed(() => drills[at.value]!)
const mm = () => [window.innerWidth / screen.pxPerMm, window.innerHeight / screen.pxPerMm] as const
let engine = begin()

function begin(): PalmEngine {
  const [widthMm, heightMm] = mm()
  return new PalmEngine({
    rules: props.rules,
    zone: props.zone,
    limits: props.limits,
    trees: props.trees,
    widthMm,
    heightMm,
  })
}

/** A browser hands over several reports at once: each counts, so that no corner is cut. */
const reports = (event: PointerEvent) => {
  const all = event.type === 'pointermove' ? event.getCoalescedEvents() : []
  return all.length ? all : [event]
}

function take(event: PointerEvent) {
  for (const e of reports(event).flatMap((one) => palmEvent(one, screen.pxPerMm))) {
    if (first < 0) first = e.tMs
    // it landed before this recording began
    if (e.pointer === 'touch' && e.phase !== 'down' && !landed.has(e.id)) continue
    if (e.pointer === 'touch') landed[e.phase === 'down' ? 'add' : e.phase === 'move' ? 'has' : 'delete'](e.id)
    // pen and touch have clocks of their own
    const timed = { ...e, tMs: Math.max(events.at(-1)?.tMs ?? 0, e.tMs - first) }
    events.push(timed)
    engine.feed(timed)
    if (e.pointer === 'pen') ink(e)
    else touched.value = true
  }
  follow()
}

function follow() {
  view.value = engine.view()
  marks.value = [...engine.marks.values()].map((m) => [...m])
  for (; tapsSeen < engine.taps.length; tapsSeen += 1) {
    const t = engine.touches.get(engine.taps[tapsSeen]![0])
    const tool =
      t &&
      document
        .elementsFromPoint(t.x * screen.pxPerMm, t.y * screen.pxPerMm)
        .find((e): e is HTMLElement => e instanceof HTMLElement && !!e.dataset.tool)
    if (tool) pressed.value = Number(tool.dataset.tool)
  }
}

/** The nib always writes; a plain line is enough here. */
function ink(e: PalmEvent) {
  const context = canvas.value?.getContext('2d')
  const [x, y] = [e.x * screen.pxPerMm, e.y * screen.pxPerMm]
  if (context && last && e.phase === 'move') {
    context.lineWidth = 2
    context.lineCap = 'round'
    context.strokeStyle = getComputedStyle(canvas.value!).color
    context.beginPath()
    context.moveTo(last.x, last.y)
    context.lineTo(x, y)
    context.stroke()
  }
  last = e.phase === 'down' || e.phase === 'move' ? { x, y } : undefined
  if (last) touched.value = true
}

function wipe() {
  events = []
  landed.clear()
  first = -1
  last = undefined
  engine = begin()
  touched.value = false
  tapsSeen = 0
  pressed.value = undefined
  follow()
  canvas.value?.getContext('2d')?.clearRect(0, 0, canvas.value.width, canvas.value.height)
}

/** Hand over what was done for this drill. */
function keep() {
  if (!touched.value || !events.length) return
  emit('did', { drill: drill.value.name, stream: streamOf(events, mm()), enlarged: enlarged.value }, azimuthsDeg)
}

function next(kept: boolean) {
  if (kept) keep()
  wipe()
  azimuthsDeg = []
  takes.value = 0
  if (at.value + 1 < drills.length) at.value += 1
  else emit('done')
}

/** The same drill once more: how far its takes differ is part of the result. */
function onceMore() {
  keep()
  wipe()
  azimuthsDeg = []
  takes.value += 1
}

function stop() {
  keep()
  wipe()
  emit('done')
}
// going back in the browser, or to another station, ends the drills as stopping does
onBeforeUnmount(keep)

useIntervalFn(() => {
  if (first < 0) return
  engine.tick(performance.now() - first)
  follow()
}, 30)
onMounted(() => {
  if (!canvas.value) return
  canvas.value.width = window.innerWidth
  canvas.value.height = window.innerHeight
})
useEventListener(
  glass,
  ['pointerdown', 'pointermove', 'pointerup', 'pointercancel', 'pointerleave'],
  (event: PointerEvent) => {
    if (event.target instanceof Element && event.target.closest('.word-button')) return
    if (event.type === 'pointerdown') glass.value?.setPointerCapture(event.pointerId)
    if (event.pointerType === 'touch' && event.type === 'pointerleave') return
    event.preventDefault()
    // upright pens and those without tilt point nowhere
    if (event.pointerType === 'pen' && event.buttons && (event.altitudeAngle ?? Math.PI / 2) < 1.5)
      azimuthsDeg.push((event.azimuthAngle * 180) / Math.PI)
    take(event)
  },
)
const path = (m: number[]) =>
  m.reduce((d, v, k) => d + (k % 2 ? ` ${v.toFixed(1)}` : `${k ? 'L' : 'M'}${v.toFixed(1)}`), '')
const shift = computed(() => {
  const { x, y, scale } = view.value
  const first = enlarged.value ? ENLARGED : 1
  return `translate(${x * screen.pxPerMm}px, ${y * screen.pxPerMm}px) scale(${scale * first})`
})
useEscape(stop)
</script>

<template>
  <div ref="glass" class="glass" data-glass>
    <div
      class="ruled"
      :style="{ transform: shift }"
      :data-view="[view.scale, view.x, view.y].map((v) => v.toFixed(2)).join(' ')"
    />
    <canvas ref="canvas" />
    <svg class="marks" :style="{ '--mm': screen.pxPerMm }">
      <g :transform="`scale(${screen.pxPerMm})`"><path v-for="(m, k) in marks" :key="k" :d="path(m)" /></g>
    </svg>
    <div class="tools">
      <button
        v-for="k in 4"
        :key="k"
        type="button"
        class="tool"
        :class="{ pressed: pressed === k }"
        tabindex="-1"
        :data-tool="k"
      >
        tool {{ k }}
      </button>
    </div>
    <div class="prompt card">
      <DrillPicture :name="drill.name" />
      <div>
        <p class="small">
          {{ at + 1 }} of {{ drills.length }}, {{ drill.name }}<template v-if="takes">, take {{ takes + 1 }}</template>
        </p>
        <p class="book">{{ drill.ask }}</p>
        <div class="ends">
          <button type="button" class="word-button strong" :disabled="!touched" @click="next(true)">
            {{ at + 1 < drills.length ? 'Done, next' : 'Done' }}
          </button>
          <button type="button" class="word-button" :disabled="!touched" @click="onceMore">Done, once more</button>
          <button type="button" class="word-button" :disabled="!touched" @click="wipe">Anew</button>
          <button type="button" class="word-button" @click="next(false)">Skip</button>
          <button type="button" class="word-button" :disabled="touched" @click="enlarged = !enlarged">
            {{ enlarged ? 'Page as it is' : 'Enlarge the page first' }}
          </button>
          <button type="button" class="word-button" @click="stop">Stop here</button>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.glass {
  position: fixed;
  z-index: 40;
  inset: 0;
  background: var(--paper);
  touch-action: none;
  overflow: hidden;
  cursor: crosshair;
}
.ruled {
  position: absolute;
  inset: 0;
  transform-origin: 0 0;
  background: repeating-linear-gradient(0deg, transparent 0 31px, var(--rule) 31px 32px) var(--card);
  border: 1px solid var(--edge);
  pointer-events: none;
}
canvas,
.marks {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  color: var(--ink);
  pointer-events: none;
}
.marks path {
  fill: none;
  stroke: var(--harm);
  stroke-width: 0.6;
  stroke-linecap: round;
}
.tools {
  position: absolute;
  top: 8px;
  left: 20%;
  display: flex;
  gap: 12px;
}
.tool {
  min-height: 36px;
  padding: 0 14px;
  border: var(--line) solid var(--edge);
  background: var(--card);
}
.tool.pressed {
  background: var(--harm);
  color: var(--card);
}
.prompt {
  position: absolute;
  top: 64px;
  left: 50%;
  transform: translateX(-50%);
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 20px;
  width: min(680px, calc(100vw - 32px));
  padding: 14px 20px;
  border-color: var(--ink);
}
.prompt .book {
  font-size: 17px;
  margin: 2px 0 8px;
}
.ends {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>

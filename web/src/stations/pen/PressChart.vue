<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import type { PenPlan } from '@/ink'

type Pair = [number, number]
/**
 * The press curve over the writer's own force histogram. Floor and ceiling are the curve's ends; points are dragged or
 * moved by keys.
 */
const props = defineProps<{
  points: Pair[]
  floor: number
  ceiling: number
  counts: number[]
  samples: number
  plan?: PenPlan
  kept?: PenPlan
}>()
const emit = defineEmits<{ points: [points: Pair[]]; floor: [v: number]; ceiling: [v: number]; done: [] }>()

const W = 420
const H = 296
const LEFT = 46
const BOTTOM = 246
const WIDE = W - LEFT - 16
const TALL = BOTTOM - 22
const MOST = 6
const NUDGE = 0.02
const svg = useTemplateRef<SVGSVGElement>('svg')
const held = ref<number>()

const px = (force: number) => LEFT + force * WIDE
const py = (share: number) => BOTTOM - share * TALL
const forceOf = (x: number) => props.floor + x * (props.ceiling - props.floor)

const bars = computed(() => {
  const most = Math.max(...props.counts, 1)
  const w = WIDE / props.counts.length
  return props.counts.map((n, i) => ({ x: LEFT + i * w, w: Math.max(w - 1.5, 1), h: (n / most) * TALL * 0.8 }))
})
const path = (plan?: PenPlan) =>
  plan
    ? plan.press_share
        .filter((_, i) => i % 8 === 0 || i === plan.press_share.length - 1)
        .map((p, i, all) => `${i ? 'L' : 'M'}${px(i / (all.length - 1)).toFixed(1)} ${py(p).toFixed(1)}`)
        .join('')
    : ''

function at(event: PointerEvent): { force: number; share: number } {
  const box = svg.value!.getBoundingClientRect()
  const k = W / box.width
  return {
    force: ((event.clientX - box.left) * k - LEFT) / WIDE,
    share: (BOTTOM - (event.clientY - box.top) * k) / TALL,
  }
}

const clamp = (v: number, lo: number, hi: number) => Math.min(Math.max(v, lo), hi)
const tidy = (v: number) => Math.round(v * 1000) / 1000

/** Move point i to a force and share; the ends move floor and ceiling, inner points stay between their neighbours. */
function moveTo(i: number, force: number, share: number) {
  const last = props.points.length - 1
  if (i === 0) return emit('floor', tidy(clamp(force, 0, Math.min(0.9, props.ceiling - 0.05))))
  if (i === last) return emit('ceiling', tidy(clamp(force, Math.max(0.05, props.floor + 0.05), 1)))
  const before = props.points[i - 1]!
  const after = props.points[i + 1]!
  const x = clamp((force - props.floor) / (props.ceiling - props.floor), before[0] + 0.01, after[0] - 0.01)
  const y = clamp(share, before[1], after[1])
  emit('points', props.points.map((p, k) => (k === i ? [tidy(x), tidy(y)] : p)) as Pair[])
}

function grab(i: number, event: PointerEvent) {
  held.value = i
  ;(event.target as Element).setPointerCapture(event.pointerId)
}

function drag(event: PointerEvent) {
  if (held.value === undefined) return
  const { force, share } = at(event)
  moveTo(held.value, force, share)
}

function drop() {
  if (held.value === undefined) return
  held.value = undefined
  emit('done')
}

/** Pressing the empty chart adds a point there. */
function add(event: PointerEvent) {
  if (props.points.length >= MOST || (event.target as Element).closest('.point')) return
  const { force, share } = at(event)
  const x = tidy((force - props.floor) / (props.ceiling - props.floor))
  const after = props.points.findIndex((p) => p[0] > x)
  const before = props.points[after - 1]
  if (x <= 0 || x >= 1 || !before || x - before[0] < 0.03 || props.points[after]![0] - x < 0.03) return
  const y = tidy(clamp(share, before[1], props.points[after]![1]))
  emit('points', [...props.points.slice(0, after), [x, y], ...props.points.slice(after)] as Pair[])
  emit('done')
}

function remove(i: number) {
  if (i === 0 || i === props.points.length - 1) return
  emit(
    'points',
    props.points.filter((_, k) => k !== i),
  )
  emit('done')
}

function key(i: number, event: KeyboardEvent) {
  const p = props.points[i]!
  const move = { ArrowLeft: [-NUDGE, 0], ArrowRight: [NUDGE, 0], ArrowUp: [0, NUDGE], ArrowDown: [0, -NUDGE] }[
    event.key
  ]
  if (move) {
    event.preventDefault()
    moveTo(i, forceOf(p[0]) + move[0]!, p[1] + move[1]!)
    emit('done')
  } else if (event.key === 'Delete' || event.key === 'Backspace') {
    event.preventDefault()
    remove(i)
  }
}

const label = (i: number) => (i === 0 ? 'Floor' : i === props.points.length - 1 ? 'Ceiling' : `Point ${i}`)
</script>

<template>
  <div>
    <svg
      ref="svg"
      :viewBox="`0 0 ${W} ${H}`"
      role="group"
      aria-label="Press curve"
      @pointermove="drag"
      @pointerup="drop"
      @pointercancel="drop"
      @pointerdown="add"
    >
      <rect class="ground" :x="LEFT" :y="py(1)" :width="WIDE" :height="TALL" />
      <rect v-for="(b, i) in bars" :key="i" class="bar" :x="b.x" :y="BOTTOM - b.h" :width="b.w" :height="b.h" />
      <path class="axis" :d="`M${LEFT} ${py(1) - 8}V${BOTTOM}H${W - 12}`" />
      <path class="kept" :d="path(kept)" />
      <path class="curve" :d="path(plan)" />
      <text :x="LEFT - 8" :y="py(1) + 5" text-anchor="end">thick</text>
      <text :x="LEFT - 8" :y="BOTTOM" text-anchor="end">thin</text>
      <text :x="LEFT" :y="BOTTOM + 18">0 %</text>
      <text :x="LEFT + WIDE / 2" :y="BOTTOM + 18" text-anchor="middle">your force, {{ samples }} reports</text>
      <text :x="LEFT + WIDE" :y="BOTTOM + 18" text-anchor="end">100 %</text>
      <g
        v-for="(p, i) in points"
        :key="i"
        class="point"
        role="slider"
        tabindex="0"
        :aria-label="label(i)"
        :aria-valuenow="Math.round(p[1] * 100)"
        aria-valuemin="0"
        aria-valuemax="100"
        :aria-valuetext="`force ${Math.round(forceOf(p[0]) * 100)} %, width ${Math.round(p[1] * 100)} %`"
        @pointerdown.stop="grab(i, $event)"
        @keydown="key(i, $event)"
      >
        <circle class="reach" :cx="px(forceOf(p[0]))" :cy="py(p[1])" r="20" />
        <circle class="dot" :class="{ held: held === i }" :cx="px(forceOf(p[0]))" :cy="py(p[1])" r="7.5" />
      </g>
      <text class="hint" :x="LEFT" :y="H - 6">
        {{
          points.length < MOST
            ? 'Press the chart to add a point; the ends are floor and ceiling.'
            : 'Six points is the most; Delete takes one out.'
        }}
      </text>
    </svg>
  </div>
</template>

<style scoped>
svg {
  width: 100%;
  max-width: 440px;
  height: auto;
  display: block;
  touch-action: none;
  user-select: none;
}
text {
  font: 12.5px var(--face);
  fill: var(--graphite);
}
.ground {
  fill: transparent;
}
.bar {
  fill: color-mix(in srgb, var(--edge) 42%, transparent);
}
.axis {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1;
}
.curve {
  fill: none;
  stroke: var(--accent);
  stroke-width: 3;
}
.kept {
  fill: none;
  stroke: var(--graphite);
  stroke-width: 1.3;
  stroke-dasharray: 4 4;
}
.reach {
  fill: transparent;
  cursor: grab;
}
.dot {
  fill: var(--card);
  stroke: var(--accent);
  stroke-width: 3;
  pointer-events: none;
}
.dot.held {
  fill: var(--accent);
}
.point:focus-visible {
  outline: none;
}
.point:focus-visible .dot {
  stroke-width: 5;
}
:root[data-surface='e-ink'] .bar {
  fill: #fff;
  stroke: #000;
  stroke-width: 1;
}
:root[data-surface='e-ink'] .axis {
  stroke-width: 2;
}
</style>

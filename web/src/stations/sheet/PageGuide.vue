<script setup lang="ts">
import { computed } from 'vue'
import { EDGE_MM, useGuide } from '@/stores/guide'
import { useTool } from '@/stores/tool'

/** The straightedge or compass on the page. While the pen rules, pen, fingers and keys move and turn it. */
const props = defineProps<{ widthMm: number; heightMm: number; dark: boolean; cssScale: number }>()
const store = useGuide()
const tool = useTool()
const g = computed(() => store.guide)
const held = new Map<number, { x: number; y: number }>()
let turns = false
const END = 0.3 // of the edge at either end turns it, the middle moves it

const ticks = computed(() => {
  const out: { x: number; long: number }[] = []
  for (let mm = -EDGE_MM.long / 2; mm <= EDGE_MM.long / 2; mm += 1)
    out.push({ x: mm, long: mm % 10 === 0 ? 4 : mm % 5 === 0 ? 3 : 1.8 })
  return out
})
const moves = computed(() => tool.now === 'rule')
const place = (event: PointerEvent): { x: number; y: number } => {
  const page = (event.currentTarget as SVGElement).ownerSVGElement!.getBoundingClientRect()
  return { x: (event.clientX - page.left) / props.cssScale, y: (event.clientY - page.top) / props.cssScale }
}

function down(event: PointerEvent) {
  ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  const at = place(event)
  held.set(event.pointerId, at)
  const { kind, x, y, radius } = g.value
  const away = Math.hypot(at.x - x, at.y - y)
  turns = kind === 'compass' ? away > radius / 2 : away > EDGE_MM.long * (0.5 - END)
  event.stopPropagation()
}
function move(event: PointerEvent) {
  const before = held.get(event.pointerId)
  if (!before) return
  const now = place(event)
  const other = [...held].find(([id]) => id !== event.pointerId)?.[1]
  held.set(event.pointerId, now)
  const { kind, x, y, angle } = g.value
  const [dx, dy] = [now.x - before.x, now.y - before.y]
  const heading = (from: { x: number; y: number }, to: { x: number; y: number }) =>
    (-Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI
  if (other) {
    // two fingers: one holds, the other turns about it; together they move
    if (kind === 'edge') {
      const turn = heading(other, now) - heading(other, before)
      const a = (-turn * Math.PI) / 180
      const [rx, ry] = [x - other.x, y - other.y]
      store.set({
        angle: angle + turn,
        x: other.x + rx * Math.cos(a) - ry * Math.sin(a),
        y: other.y + rx * Math.sin(a) + ry * Math.cos(a),
      })
    } else store.set({ radius: Math.hypot(now.x - other.x, now.y - other.y) / 2, x: x + dx / 2, y: y + dy / 2 })
  } else if (!turns) store.set({ x: x + dx, y: y + dy })
  else if (kind === 'compass') store.set({ radius: Math.hypot(now.x - x, now.y - y) })
  else store.set({ angle: angle + heading({ x, y }, now) - heading({ x, y }, before) })
}
function up(event: PointerEvent) {
  held.delete(event.pointerId)
  if (g.value.kind === 'edge' && turns) store.set({ angle: store.snapped(g.value.angle) })
}
/** Arrows move by a millimetre, with Shift they turn by a degree or change the radius. */
function key(event: KeyboardEvent) {
  const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key]
  if (!by) return
  event.preventDefault()
  const { x, y, angle, radius } = g.value
  const step = by[0]! - by[1]!
  if (!event.shiftKey) store.set({ x: x + by[0]!, y: y + by[1]! })
  else store.set(g.value.kind === 'edge' ? { angle: angle - step } : { radius: radius + step })
}
</script>

<template>
  <svg
    v-if="store.on"
    class="guide"
    :class="{ dark, moves }"
    :viewBox="`0 0 ${widthMm} ${heightMm}`"
    :data-guide="g.kind"
  >
    <g
      :tabindex="moves ? 0 : undefined"
      role="group"
      :aria-label="
        g.kind === 'edge' ? `Straightedge at ${g.angle.toFixed(1)} degrees` : `Compass of ${g.radius.toFixed(1)} mm`
      "
      @pointerdown="down"
      @pointermove="move"
      @pointerup="up"
      @pointercancel="up"
      @keydown="key"
    >
      <g v-if="g.kind === 'edge'" :transform="`translate(${g.x} ${g.y}) rotate(${-g.angle})`">
        <rect :x="-EDGE_MM.long / 2" :y="-EDGE_MM.wide / 2" :width="EDGE_MM.long" :height="EDGE_MM.wide" />
        <line
          v-for="tick in ticks"
          :key="tick.x"
          :x1="tick.x"
          :x2="tick.x"
          :y1="-EDGE_MM.wide / 2"
          :y2="-EDGE_MM.wide / 2 + tick.long"
        />
        <text x="0" y="4.6">{{ g.angle.toFixed(1) }}°</text>
      </g>
      <g v-else :transform="`translate(${g.x} ${g.y})`">
        <circle class="reach" :r="g.radius" />
        <circle :r="g.radius" />
        <path d="M-3 0H3M0-3V3" />
        <text x="0" y="7">{{ g.radius.toFixed(1) }} mm</text>
      </g>
    </g>
  </svg>
</template>

<style scoped>
.guide {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  overflow: hidden;
  pointer-events: none;
  --mark: #2e5e5a;
  --body: rgb(46 94 90 / 8%);
}
.guide.dark {
  --mark: #a9d6ce;
  --body: rgb(169 214 206 / 12%);
}
:root[data-surface='e-ink'] .guide {
  --mark: #000;
  --body: none;
}
:root[data-surface='e-ink'] .guide.dark {
  --mark: #fff;
}
g:focus {
  outline: none;
}
g:focus-visible rect,
g:focus-visible circle {
  stroke-width: 3px;
}
.moves > g {
  pointer-events: all;
  cursor: move;
  touch-action: none;
}
rect,
circle,
path,
line {
  fill: var(--body);
  stroke: var(--mark);
  stroke-width: 1.2px;
  vector-effect: non-scaling-stroke;
}
circle {
  fill: none;
}
.moves circle {
  fill: var(--body);
}
line,
path {
  stroke-width: 0.8px;
}
.reach {
  stroke: transparent;
  stroke-width: 24px;
}
text {
  font: italic 3.4px var(--book);
  fill: var(--mark);
  text-anchor: middle;
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { largest, placeAt, UNKNOWN_MM, verdictOf, VERDICT_WORDS } from './decisions'

/**
 * The screen from above: the page as the rules let it move, contacts by what became of them, the nib's way, and the
 * resting zone.
 */
const props = defineProps<{
  part: Schemas['JudgedDrill']
  screen: number[]
  zone: Schemas['Zone']
  zoneScale: number
  tMs: number | null
  chosen?: number
}>()
const emit = defineEmits<{ choose: [id: number] }>()
const W = computed(() => props.screen[0]!)
const H = computed(() => props.screen[1]!)
const until = computed(() => props.tMs ?? Infinity)
const view = computed(() => props.part.views.filter((v) => v[0]! <= until.value).at(-1) ?? [0, 1, 0, 0])
const rules = computed(() => Array.from({ length: Math.floor(H.value / 8) }, (_, k) => 8 * (k + 1)))
const nibNow = computed(() => props.part.nib.filter((n) => n[0]! <= until.value).at(-1))
const nibPath = computed(() => {
  let d = ''
  let down = false
  for (const [t, x, y, on] of props.part.nib) {
    if (t! > until.value) break
    if (on) d += `${down ? 'L' : 'M'}${x!.toFixed(1)} ${y!.toFixed(1)}`
    down = !!on
  }
  return d
})
const shown = computed(() =>
  props.part.contacts
    .map((c) => ({ c, at: props.tMs === null ? largest(c) : placeAt(c, props.tMs) }))
    .filter((s) => !!s.at),
)
const marks = computed(() => props.part.contacts.filter((c) => c.mark.length).map((c) => c.mark))
const path = (mark: number[]) =>
  mark.reduce((d, v, k) => d + (k % 2 ? ` ${v.toFixed(1)}` : `${k ? 'L' : 'M'}${v.toFixed(1)}`), '')
const trail = (c: Schemas['JudgedContact']) =>
  c.path.reduce((d, p, k) => `${d}${k ? 'L' : 'M'}${p[1]!.toFixed(1)} ${p[2]!.toFixed(1)}`, '')
</script>

<template>
  <svg :viewBox="`-1 -1 ${W + 2} ${H + 2}`" class="map" role="group" aria-label="Contacts on the screen" data-map>
    <defs>
      <pattern id="palm-lines" width="3" height="3" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
        <line x1="0" y1="0" x2="0" y2="3" class="hatch" />
      </pattern>
      <pattern id="palm-dots" width="2.4" height="2.4" patternUnits="userSpaceOnUse">
        <circle cx="1.2" cy="1.2" r="0.62" class="dot" />
      </pattern>
      <pattern id="palm-cross" width="3" height="3" patternUnits="userSpaceOnUse">
        <path d="M0 0L3 3M3 0L0 3" class="cross" />
      </pattern>
      <clipPath id="glass"><rect :width="W" :height="H" /></clipPath>
    </defs>
    <rect :width="W" :height="H" class="glass" />
    <g clip-path="url(#glass)">
      <g
        :transform="`matrix(${view[1]} 0 0 ${view[1]} ${view[2]} ${view[3]})`"
        :data-view="
          view
            .slice(1)
            .map((v) => v!.toFixed(2))
            .join(' ')
        "
      >
        <line v-for="y in rules" :key="y" x1="-400" :x2="W + 400" :y1="y" :y2="y" class="rule" />
        <rect x="0" y="0" :width="W" :height="H" class="page" />
      </g>
      <ellipse
        v-if="zoneScale > 0 && nibNow"
        :cx="nibNow[1]! + zone.dx_mm"
        :cy="nibNow[2]! + zone.dy_mm"
        :rx="zone.rx_mm * zoneScale"
        :ry="zone.ry_mm * zoneScale"
        class="zone"
      />
      <path v-for="(m, k) in marks" :key="k" :d="path(m)" class="mark" />
      <template v-for="{ c, at } in shown" :key="c.id">
        <path v-if="tMs === null" :d="trail(c)" class="trail" />
        <ellipse
          :cx="at![0]"
          :cy="at![1]"
          :rx="(at![2] || UNKNOWN_MM) / 2"
          :ry="(at![3] || UNKNOWN_MM) / 2"
          :class="['contact', verdictOf(c), { chosen: c.id === chosen, unsized: !at![2] }]"
          tabindex="0"
          role="button"
          :aria-label="`Contact ${c.id}: ${VERDICT_WORDS[verdictOf(c)]}`"
          :data-contact="c.id"
          @click="emit('choose', c.id)"
          @keydown.enter="emit('choose', c.id)"
        />
      </template>
      <path :d="nibPath" class="nib" />
      <circle
        v-if="tMs !== null && nibNow"
        :cx="nibNow[1]"
        :cy="nibNow[2]"
        r="1.4"
        :class="['tip', { on: nibNow[3] }]"
      />
    </g>
  </svg>
</template>

<style scoped>
.map {
  display: block;
  width: 100%;
  height: 100%;
  min-height: 0;
}
.glass {
  fill: var(--card);
  stroke: var(--edge);
  stroke-width: 0.6;
}
.page {
  fill: none;
  stroke: var(--rule);
  stroke-width: 0.5;
}
.rule {
  stroke: var(--rule);
  stroke-width: 0.2;
}
.zone {
  fill: none;
  stroke: var(--accent);
  stroke-width: 0.6;
  stroke-dasharray: 2.4 1.6;
}
.nib {
  fill: none;
  stroke: var(--ink);
  stroke-width: 0.7;
  stroke-linecap: round;
  stroke-linejoin: round;
  pointer-events: none;
}
.tip {
  fill: none;
  stroke: var(--ink);
  stroke-width: 0.5;
}
.tip.on {
  fill: var(--ink);
}
.trail {
  fill: none;
  stroke: var(--edge);
  stroke-width: 0.3;
}
.mark {
  fill: none;
  stroke: var(--harm);
  stroke-width: 1.2;
  stroke-linecap: round;
}
.contact {
  stroke-width: 0.6;
  cursor: pointer;
}
.unsized {
  stroke-dasharray: 0.8 1;
}
.palm-refused {
  fill: url(#palm-lines);
  stroke: var(--graphite);
}
.palm-kept {
  fill: url(#palm-dots);
  stroke: var(--harm);
  stroke-width: 0.9;
}
.finger-kept {
  fill: var(--accent-soft);
  fill-opacity: 0.6;
  stroke: var(--accent);
}
.finger-refused {
  fill: url(#palm-cross);
  stroke: var(--attention);
  stroke-width: 0.9;
}
.hatch {
  stroke: var(--graphite);
  stroke-width: 0.5;
}
.dot {
  fill: var(--harm);
}
.cross {
  stroke: var(--attention);
  stroke-width: 0.4;
}
.chosen {
  stroke: var(--ink);
  stroke-width: 1.6;
}
</style>

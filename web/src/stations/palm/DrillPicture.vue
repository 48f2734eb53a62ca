<script setup lang="ts">
/** What a drill asks for, drawn: palms, fingers and where they go, and the nib's word. */
defineProps<{ name: string }>()
interface Shape {
  palms?: number[][]
  fingers?: number[][]
  ways?: string[]
  word?: boolean
  late?: boolean
}
const SHAPES: Record<string, Shape> = {
  'palm first': { palms: [[92, 62, 16, 10]], word: true, late: true },
  'palm slides': {
    palms: [
      [84, 62, 15, 9],
      [104, 62, 15, 9],
    ],
    ways: ['M78 78h30'],
    word: true,
  },
  'second palm': {
    palms: [
      [94, 62, 15, 9],
      [28, 60, 15, 9],
    ],
    word: true,
  },
  'thumb on the edge': {
    palms: [
      [94, 62, 15, 9],
      [5, 44, 4, 8],
    ],
    word: true,
  },
  'brush the tools': { palms: [[50, 12, 12, 7]], ways: ['M66 12h34'], word: true },
  rest: { palms: [[70, 52, 17, 11]], ways: ['M62 72h18', 'M80 76h-18'] },
  'two-finger zoom': {
    fingers: [
      [52, 50],
      [78, 38],
    ],
    ways: ['M46 53l-14 7', 'M84 35l14 -7'],
  },
  'one-finger scroll': { fingers: [[66, 58]], ways: ['M66 48v-26'] },
  'finger tap': { fingers: [[66, 46]] },
}
</script>

<template>
  <svg viewBox="0 0 132 88" aria-hidden="true">
    <defs>
      <marker id="tip" viewBox="0 0 6 6" refX="5" refY="3" markerWidth="5" markerHeight="5" orient="auto-start-reverse">
        <path d="M0 0L6 3L0 6z" />
      </marker>
    </defs>
    <rect x="1" y="1" width="130" height="86" rx="4" class="glass" />
    <g v-if="name === 'brush the tools'">
      <rect v-for="k in 4" :key="k" :x="10 + 20 * k" y="6" width="14" height="10" class="tool" />
    </g>
    <path
      v-if="SHAPES[name]?.word"
      d="M30 40q5 -10 9 0t9 0t9 0t9 0"
      class="word"
      :stroke-dasharray="SHAPES[name]?.late ? '3 2' : undefined"
    />
    <ellipse
      v-for="(p, k) in SHAPES[name]?.palms"
      :key="`p${k}`"
      :cx="p[0]"
      :cy="p[1]"
      :rx="p[2]"
      :ry="p[3]"
      class="palm"
    />
    <circle v-for="(f, k) in SHAPES[name]?.fingers" :key="`f${k}`" :cx="f[0]" :cy="f[1]" r="5" class="finger" />
    <path v-for="d in SHAPES[name]?.ways" :key="d" :d="d" class="way" marker-end="url(#tip)" />
  </svg>
</template>

<style scoped>
svg {
  display: block;
  width: 132px;
  height: 88px;
}
.glass {
  fill: var(--card);
  stroke: var(--edge);
}
.tool {
  fill: none;
  stroke: var(--rule);
}
.word,
.way {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.4;
}
.palm {
  fill: var(--rule);
  fill-opacity: 0.6;
  stroke: var(--graphite);
}
.finger {
  fill: var(--accent-soft);
  stroke: var(--accent);
}
</style>

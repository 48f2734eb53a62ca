<script setup lang="ts">
import { useElementSize, useMediaQuery, useRafFn } from '@vueuse/core'
import { ElOption, ElSelect } from 'element-plus'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { say } from '@/lib/numbers'
import { useScreen } from '@/stores/screen'

/** The nib at true size with its ink trailing, slowed. Stands still under reduced motion, steps on e-ink. */
const props = defineProps<{ delayMs: number; updateMs: number; speed: number; colour: string }>()
const screen = useScreen()
const slow = ref(16)
const box = useTemplateRef<HTMLElement>('box')
const { width, height } = useElementSize(box)
const quiet = useMediaQuery('(prefers-reduced-motion: reduce)')
const still = computed(() => quiet.value || slow.value === 0)
const eInk = () => document.documentElement.dataset.surface === 'e-ink'
const passed = ref(0)
const runMs = computed(() => (Math.max(60, width.value - 120) / screen.pxPerMm / props.speed) * 1000)
let clock = 0
let shown = 0

const { pause, resume } = useRafFn(
  ({ delta }) => {
    clock = (clock + delta / (slow.value || 1)) % (runMs.value + props.delayMs)
    if (eInk() && Math.abs(clock - shown) * slow.value < 1000) return
    shown = clock
    passed.value = clock
  },
  { immediate: false },
)
watch(
  still,
  (s) => {
    if (!s) return resume()
    pause()
    passed.value = runMs.value * 0.7
  },
  { immediate: true },
)
watch(runMs, (ms) => still.value && (passed.value = ms * 0.7))

const nibMm = computed(() => (Math.min(passed.value, runMs.value) * props.speed) / 1000)
/** The panel shows ink in steps: what was ready at its last update. */
const inkMm = computed(() =>
  Math.max(
    0,
    (Math.floor((passed.value - props.delayMs + props.updateMs / 2) / props.updateMs) * props.updateMs * props.speed) /
      1000,
  ),
)
const x = (mm: number) => 40 + Math.min(mm, nibMm.value) * screen.pxPerMm
const y = computed(() => height.value * 0.62)
const gap = computed(() => Math.max(0, nibMm.value - inkMm.value))
</script>

<template>
  <div class="trail card">
    <div ref="box" class="box">
      <svg :width="width" :height="height" :data-gap="gap" aria-label="The nib and its ink">
        <line :x1="40" :x2="x(inkMm)" :y1="y" :y2="y" :stroke="colour" stroke-width="2.4" stroke-linecap="round" />
        <line v-if="gap > 0.2" :x1="x(inkMm)" :x2="x(nibMm)" :y1="y + 14" :y2="y + 14" class="gap" />
        <text v-if="gap > 0.2" :x="(x(inkMm) + x(nibMm)) / 2" :y="y + 32" text-anchor="middle">{{ say(gap) }} mm</text>
        <path :d="`M${x(nibMm)} ${y} l8 -12 l26 -48 l-16 -9 l-17 54 z`" class="nib" />
      </svg>
    </div>
    <label class="small slow"
      >slowed
      <ElSelect v-model="slow" aria-label="Slowed" style="width: 84px"
        ><ElOption
          v-for="k in [1, 2, 4, 8, 16, 32, 64, 0]"
          :key="k"
          :value="k"
          :label="k ? `${k}×` : 'still'" /></ElSelect
    ></label>
  </div>
</template>

<style scoped>
.trail {
  position: relative;
  background: var(--swatch-ground);
  min-height: 104px;
}
.box {
  position: absolute;
  inset: 0;
  overflow: hidden;
}
svg {
  display: block;
}
.nib {
  fill: var(--card);
  stroke: var(--ink);
  stroke-width: 1.5;
}
.gap {
  stroke: var(--attention);
  stroke-width: 2;
}
text {
  font: 13px var(--face);
  fill: var(--on-swatch);
}
.slow {
  color: var(--on-swatch);
  position: absolute;
  right: 10px;
  top: 6px;
  display: flex;
  align-items: center;
  gap: 8px;
}
</style>

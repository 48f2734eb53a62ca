<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import { useDesk } from '@/stores/desk'
import { useStrip } from '@/stores/strip'

/** The whole page above the strip, with the strip's window on it; a press moves the window there. */
const desk = useDesk()
const strip = useStrip()
const holder = useTemplateRef<HTMLElement>('holder')
const { width, height } = useElementSize(holder)
const paper = computed(() => desk.sheet!.paper)
const perMm = computed(() => Math.min(width.value / paper.value.width_mm!, height.value / paper.value.height_mm!))
const size = computed(() => ({
  width: `${paper.value.width_mm! * perMm.value}px`,
  height: `${paper.value.height_mm! * perMm.value}px`,
}))
const picture = computed(() => {
  const s = desk.sheet!
  const scale = Math.max(0.21, perMm.value * window.devicePixelRatio).toFixed(3)
  return perMm.value ? `/api/sheets/${s.id}/page.png?scale=${scale}` : ''
})
const box = computed(() => {
  const [left, top, right, bottom] = strip.windowMm
  const share = (v: number, whole: number) => `${(100 * v) / whole}%`
  return {
    left: share(left, paper.value.width_mm!),
    top: share(top, paper.value.height_mm!),
    width: share(right - left, paper.value.width_mm!),
    height: share(bottom - top, paper.value.height_mm!),
  }
})
function go(event: PointerEvent) {
  const place = (event.currentTarget as HTMLElement).getBoundingClientRect()
  const [left, top, right, bottom] = strip.windowMm
  strip.goes = [
    Math.max(0, (event.clientX - place.left) / perMm.value - (right - left) / 2),
    Math.max(0, (event.clientY - place.top) / perMm.value - (bottom - top) / 2),
  ]
}
</script>

<template>
  <div ref="holder" class="whole">
    <div class="page" :style="size" @pointerdown="go">
      <img
        v-if="picture"
        :key="`${desk.sheet?.ink} ${desk.sheet?.version}`"
        :src="picture"
        alt="The whole page"
        draggable="false"
      />
      <i :style="box" data-strip-window />
    </div>
  </div>
</template>

<style scoped>
.whole {
  display: grid;
  place-items: center;
  min-height: 0;
  overflow: hidden;
}
.page {
  position: relative;
  border: var(--line) solid var(--rule);
  touch-action: none;
}
img {
  display: block;
  width: 100%;
  height: 100%;
}
i {
  position: absolute;
  border: 2px solid var(--accent);
  pointer-events: none;
}
:root[data-surface='e-ink'] i {
  border-color: var(--ink);
}
</style>

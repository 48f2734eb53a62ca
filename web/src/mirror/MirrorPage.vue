<script setup lang="ts">
import { useMediaQuery, usePreferredReducedMotion } from '@vueuse/core'
import { computed, useTemplateRef, watchEffect } from 'vue'
import { roughly } from '@/lib/numbers'
import { useMirror } from './use-mirror'

/** A sheet as somebody else writes it, without the frame: it can only be looked at. */
const settled = useTemplateRef<HTMLCanvasElement>('settled')
const live = useTemplateRef<HTMLCanvasElement>('live')
const fading = useTemplateRef<HTMLCanvasElement>('fading')
const motion = usePreferredReducedMotion()
const slow = useMediaQuery('(update: slow)')
const { page, size, css, over, away, delay } = useMirror(
  settled,
  live,
  fading,
  () => motion.value === 'reduce' || slow.value,
)
const words = computed(() => {
  if (over.value) return over.value
  if (away.value) return 'The one who shows is not reached. It is asked again.'
  if (!page.value) return 'Coming …'
  const { p50, p95 } = delay.value ?? {}
  const said = p50 && p95 ? `nib to here ${roughly(p50)} ms, 95 % under ${roughly(p95)}` : ''
  return [page.value.name, said].filter(Boolean).join(': ')
})
const dark = useMediaQuery('(prefers-color-scheme: dark)')
watchEffect(() => (document.documentElement.dataset.surface = slow.value ? 'e-ink' : dark.value ? 'night' : 'paper'))
watchEffect(() => (document.title = page.value?.name ?? 'Gray Quill'))
</script>

<template>
  <main class="mirror">
    <div v-if="page" class="sheet" :style="css">
      <canvas ref="settled" :width="size.width" :height="size.height" data-layer="mirror-page" />
      <canvas ref="live" :width="size.width" :height="size.height" data-layer="mirror-live" />
      <canvas ref="fading" :width="size.width" :height="size.height" data-layer="mirror-point" />
    </div>
    <p class="small said" :class="{ alone: !page }" role="status" data-delay>{{ words }}</p>
  </main>
</template>

<style scoped>
.mirror {
  position: fixed;
  inset: 0;
  display: grid;
  place-items: center;
  background: var(--paper);
}
.sheet {
  position: relative;
  outline: var(--line) solid var(--rule);
}
canvas {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.said {
  position: fixed;
  right: 12px;
  bottom: 8px;
  margin: 0;
  padding: 2px 8px;
  background: var(--paper);
}
.alone {
  position: static;
}
</style>

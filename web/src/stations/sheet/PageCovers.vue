<script setup lang="ts">
import { useCovers } from '@/stores/covers'
import { useTool } from '@/stores/tool'

/**
 * Strips over the ink: a press lifts one, so that what lies under it is seen and can be written on; a press on its tab
 * lays it again. What rubs and chooses goes through them.
 */
defineProps<{ cssScale: number; colour: string }>()
const covers = useCovers()
const tool = useTool()
const px = (mm: number) => `${mm}px`
</script>

<template>
  <div
    v-for="(c, k) in covers.all"
    :key="c.id"
    class="cover"
    :class="{ lifted: covers.lifted.has(c.id), through: tool.now === 'rub' || tool.now === 'choose' }"
    :style="{
      left: px(c.left_mm * cssScale),
      top: px(c.top_mm * cssScale),
      width: px(c.width_mm * cssScale),
      height: px(c.height_mm * cssScale),
      '--strip': colour,
    }"
  >
    <button
      type="button"
      :aria-pressed="covers.lifted.has(c.id)"
      :aria-label="`Cover ${k + 1}: ${covers.lifted.has(c.id) ? 'lay it again' : 'lift it'}`"
      :data-cover="c.id"
      @click="covers.press(c.id)"
    />
  </div>
</template>

<style scoped>
.cover {
  position: absolute;
  border: 1px solid #6b604e;
  background: var(--strip);
}
.cover button {
  position: absolute;
  inset: 0;
  min-width: 0;
  min-height: 0;
  padding: 0;
  touch-action: manipulation;
}
.cover.lifted {
  border-style: dashed;
  border-width: 2px;
  background: none;
  pointer-events: none;
}
.cover.lifted button {
  inset: -2px -30px -2px auto;
  width: 28px;
  min-height: 28px;
  background: var(--strip);
  pointer-events: auto;
}
.cover.through,
.cover.through button {
  pointer-events: none;
}
:root[data-surface='e-ink'] .cover {
  --strip: repeating-linear-gradient(45deg, #000 0 2px, #fff 2px 6px) !important;
  border: 2px solid #000;
}
:root[data-surface='e-ink'] .cover.lifted {
  border-style: dashed;
  background: none;
}
</style>

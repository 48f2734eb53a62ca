<script setup lang="ts">
import { useCovers } from '@/stores/covers'

/** Strips over the ink: a press lifts one, so that what lies under it is seen, and lays it again. */
defineProps<{ cssScale: number; dark: boolean }>()
const covers = useCovers()
const px = (mm: number) => `${mm}px`
</script>

<template>
  <button
    v-for="(c, k) in covers.all"
    :key="c.id"
    type="button"
    class="cover"
    :class="{ lifted: covers.lifted.has(c.id), dark }"
    :style="{
      left: px(c.left_mm * cssScale),
      top: px(c.top_mm * cssScale),
      width: px(c.width_mm * cssScale),
      height: px(c.height_mm * cssScale),
    }"
    :aria-pressed="covers.lifted.has(c.id)"
    :aria-label="`Cover ${k + 1}: ${covers.lifted.has(c.id) ? 'lay it again' : 'lift it'}`"
    :data-cover="c.id"
    @click="covers.press(c.id)"
  />
</template>

<style scoped>
.cover {
  --strip: #8c7f6a;
  position: absolute;
  min-width: 0;
  min-height: 0;
  padding: 0;
  border: 1px solid #6b604e;
  background: var(--strip);
  touch-action: manipulation;
}
.cover.dark {
  --strip: #b9ad97;
}
.cover.lifted {
  border-style: dashed;
  border-width: 2px;
  background: none;
}
:root[data-surface='e-ink'] .cover {
  --strip: #fff;
  border: 2px solid #000;
  background: repeating-linear-gradient(45deg, #000 0 2px, #fff 2px 6px);
}
:root[data-surface='e-ink'] .cover.lifted {
  border-style: dashed;
  background: none;
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import { useScreen } from '@/stores/screen'

/** An eraser as large as it rubs, as far as there is room. */
const props = defineProps<{ mm: number }>()
const screen = useScreen()
const MOST_SHOWN_PX = 36
const side = computed(() => `${Math.min(MOST_SHOWN_PX, props.mm * screen.pxPerMm)}px`)
</script>

<template>
  <span class="disc" :style="{ width: side, height: side }" />
</template>

<style scoped>
.disc {
  align-self: center;
  border: var(--line) solid var(--ink);
  border-radius: 50%;
  background: var(--card);
}
</style>

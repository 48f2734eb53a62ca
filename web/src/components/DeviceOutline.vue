<script setup lang="ts">
import { computed } from 'vue'
import type { DeviceItem } from '@/api/client'

const props = defineProps<{ device: DeviceItem['device'] }>()
/** All devices at one scale: 0.24 px a millimetre of screen, with a border. */
const size = computed(() => {
  const p = props.device.panel
  const k = (25.4 / p.ppi) * 0.24
  return { w: p.width_px * k, h: p.height_px * k }
})
</script>

<template>
  <svg :width="size.w + 8" :height="size.h + (device.kind === 'laptop' ? 14 : 8)" aria-hidden="true">
    <rect x="1" y="1" :width="size.w + 6" :height="size.h + 6" rx="3" />
    <rect class="glass" x="4" y="4" :width="size.w" :height="size.h" />
    <path v-if="device.kind === 'laptop'" :d="`M0 ${size.h + 11}h${size.w + 8}`" />
  </svg>
</template>

<style scoped>
rect,
path {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
}
.glass {
  fill: var(--accent-soft);
  stroke: none;
}
</style>

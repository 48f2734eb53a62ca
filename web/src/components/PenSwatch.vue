<script setup lang="ts">
import { computed } from 'vue'
import type { PenItem } from '@/api/client'

const props = defineProps<{ pen: PenItem }>()
const src = computed(() => `/api/pens/${props.pen.id}/revisions/${props.pen.revision}/swatch.png`)
</script>

<template>
  <img :src="src" alt="" width="112" height="42" />
</template>

<style scoped>
img {
  display: block;
  object-fit: contain;
  background: var(--swatch-ground);
  border-radius: var(--corner);
}
:root[data-surface='paper'] img {
  background: none;
}
</style>

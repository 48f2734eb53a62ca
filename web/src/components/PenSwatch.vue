<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { PenItem } from '@/api/client'

const props = defineProps<{ pen: PenItem }>()
const src = computed(() => `/api/pens/${props.pen.id}/revisions/${props.pen.revision}/swatch.png`)
const missing = ref(false)
watch(src, () => (missing.value = false))
</script>

<template>
  <span v-if="missing" class="small">no picture</span>
  <img v-else :src="src" alt="" width="112" height="42" @error="missing = true" />
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

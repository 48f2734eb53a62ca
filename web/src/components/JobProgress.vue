<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { percent } from '@/lib/numbers'

/** How far a long task is, and a way to end it. */
defineProps<{ job: Schemas['JobItem']; words: string }>()
defineEmits<{ cancel: [] }>()
</script>

<template>
  <div class="job" role="status">
    <div class="bar"><i :style="{ width: `${job.share * 100}%` }" /></div>
    <span class="small">{{ words }} {{ percent(job.share) }}</span>
    <button type="button" class="plain-button small" @click="$emit('cancel')">Cancel</button>
  </div>
</template>

<style scoped>
.job {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 2px 12px;
  align-items: center;
}
.bar {
  grid-column: 1 / -1;
  height: 6px;
  border: var(--line) solid var(--ink);
}
.bar i {
  display: block;
  height: 100%;
  background: var(--ink);
}
.plain-button {
  min-height: 32px;
  text-decoration: underline;
}
</style>

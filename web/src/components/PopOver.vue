<script setup lang="ts">
import { useTemplateRef } from 'vue'
import { usePopover } from '@/composables/use-popover'
import { useDesk } from '@/stores/desk'

/** A small sheet that is laid over the desk from the stations' side, and put away by Escape or a press beside it. */
defineProps<{ title: string; label: string }>()
const emit = defineEmits<{ close: [] }>()
const desk = useDesk()
const root = useTemplateRef<HTMLElement>('root')
usePopover(root, () => emit('close'))
</script>

<template>
  <section ref="root" class="out card" :class="desk.stationSide" role="dialog" :aria-label="label" tabindex="-1">
    <h2 class="book">{{ title }}</h2>
    <slot />
  </section>
</template>

<style scoped>
.out {
  position: fixed;
  z-index: 30;
  bottom: 16px;
  left: 132px;
  display: grid;
  gap: 4px;
  justify-items: start;
  width: min(520px, calc(100vw - 32px));
  max-height: calc(100vh - 32px);
  overflow-y: auto;
  padding: 14px 20px;
  border-color: var(--ink);
}
.out.right {
  left: auto;
  right: 132px;
}
h2 {
  font-size: 17px;
  font-style: italic;
  font-weight: 500;
}
@media (max-width: 900px) {
  .out,
  .out.right {
    left: 16px;
    right: auto;
    bottom: 72px;
    max-height: calc(100vh - 100px);
  }
}
</style>

<script setup lang="ts">
import { useEventListener } from '@vueuse/core'

/** Two lines, one of which is chosen: by pen, finger or arrow keys; = says there is no difference. */
const props = defineProps<{ one: string; other: string; busy: boolean }>()
const emit = defineEmits<{ chosen: [answer: 1 | 0 | -1] }>()
useEventListener('keydown', (event: KeyboardEvent) => {
  if (event.target instanceof HTMLElement && event.target.closest('input, textarea, [role=slider], [role=tab]')) return
  const answer = ({ ArrowUp: 1, ArrowLeft: 1, ArrowDown: -1, ArrowRight: -1, '=': 0 } as const)[event.key as '=']
  if (answer === undefined || props.busy) return
  event.preventDefault()
  emit('chosen', answer)
})
</script>

<template>
  <div class="pair" :class="{ stale: busy }">
    <button type="button" :disabled="busy" aria-label="The upper line" @click="emit('chosen', 1)">
      <img :src="one" alt="" draggable="false" />
    </button>
    <button type="button" :disabled="busy" aria-label="The lower line" @click="emit('chosen', -1)">
      <img :src="other" alt="" draggable="false" />
    </button>
  </div>
</template>

<style scoped>
.pair {
  display: grid;
  max-width: 900px;
  gap: 14px;
}
button {
  padding: 0;
  border: var(--line) solid var(--edge);
}
button:hover {
  box-shadow: inset 0 -4px 0 var(--accent);
}
img {
  display: block;
  width: 100%;
}
</style>

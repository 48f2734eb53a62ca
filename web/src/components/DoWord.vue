<script setup lang="ts">
import { ref } from 'vue'

/** A command: it takes one press, shows that it works until its work has ended, and takes the next press then. */
const props = defineProps<{ does: () => unknown; disabled?: boolean }>()
const busy = ref(false)
async function run() {
  if (busy.value) return
  busy.value = true
  try {
    await props.does()
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <button type="button" class="word-button" :disabled="disabled" :aria-busy="busy" :aria-disabled="busy" @click="run()">
    <slot />
  </button>
</template>

<style scoped>
.word-button {
  position: relative;
}
[aria-busy='true'] {
  color: var(--graphite);
  border-style: dashed;
  cursor: progress;
}
/* stands still where it is, and takes no room */
[aria-busy='true']::after {
  content: 'working';
  position: absolute;
  inset: auto 6px 1px auto;
  font: italic 11px / 1 var(--book);
  color: var(--attention);
}
</style>

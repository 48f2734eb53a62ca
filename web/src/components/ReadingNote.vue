<script setup lang="ts">
import { ref } from 'vue'

/** A reading written in the margin. Pressing it opens what it means. */
defineProps<{ title: string; help: string; tone?: 'plain' | 'attention' }>()
const open = ref(false)
</script>

<template>
  <article :class="['note', tone ?? 'plain']">
    <button type="button" :aria-expanded="open" @click="open = !open">
      <h2 class="book">{{ title }}</h2>
      <div class="what"><slot /></div>
    </button>
    <p v-if="open" class="small help">{{ help }}</p>
    <slot name="more" />
  </article>
</template>

<style scoped>
button {
  display: block;
  width: 100%;
  min-height: var(--target);
  text-align: left;
}
h2 {
  font-size: 16px;
  font-style: italic;
  font-weight: 450;
  color: var(--accent);
}
.what {
  line-height: 1.4;
}
.help {
  margin-top: 4px;
  max-width: 34ch;
}
.attention {
  border-left: 3px solid var(--attention);
  padding-left: 12px;
}
.attention h2 {
  color: var(--attention);
}
:root[data-surface='e-ink'] .attention {
  border-left-width: 6px;
}
</style>

<script setup lang="ts">
import { useDesk } from '@/stores/desk'

/** Colours as spots to press: the writer's own, the same for pens, washes and papers, or others. */
defineProps<{ modelValue: string; label: string; spots?: { name: string; colour: string }[] }>()
defineEmits<{ 'update:modelValue': [colour: string] }>()
const desk = useDesk()
</script>

<template>
  <span class="spots" role="group" :aria-label="label">
    <button
      v-for="s in spots ?? desk.desk?.palette"
      :key="s.colour"
      type="button"
      :aria-label="s.name"
      :title="s.name"
      :aria-pressed="s.colour === modelValue.toLowerCase()"
      @click="$emit('update:modelValue', s.colour)"
    >
      <i :style="{ background: s.colour }" />
    </button>
  </span>
</template>

<style scoped>
.spots {
  display: flex;
  flex-wrap: wrap;
}
button {
  display: grid;
  place-content: center;
  width: 44px;
  height: 44px;
}
i {
  width: 28px;
  height: 28px;
  border: var(--line) solid var(--edge);
  border-radius: var(--corner);
}
[aria-pressed='true'] i {
  outline: 3px solid var(--accent);
  outline-offset: 1px;
}
</style>

<script setup lang="ts">
/** A quiet sign in the place of what is still on its way. */
defineProps<{ words: string }>()
</script>

<template>
  <p class="wait book" role="status" data-wait>{{ words }}<span aria-hidden="true"> …</span></p>
</template>

<style scoped>
.wait {
  padding: 12px 0;
  font-style: italic;
  color: var(--graphite);
}
</style>

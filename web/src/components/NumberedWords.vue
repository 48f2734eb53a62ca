<script setup lang="ts">
import { computed } from 'vue'

/** Words with their numbers set so that they can be found at a glance. */
const props = defineProps<{ words: string }>()
const parts = computed(() => props.words.split(/([\d.]+)/).map((text) => ({ text, number: /^[\d.]*\d$/.test(text) })))
</script>

<template>
  <span
    ><template v-for="(p, k) in parts" :key="k"
      ><span v-if="p.number" class="number">{{ p.text }}</span
      ><template v-else>{{ p.text }}</template></template
    ></span
  >
</template>

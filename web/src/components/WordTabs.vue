<script setup lang="ts" generic="K extends string">
import { computed } from 'vue'
import { walkTabs } from '@/composables/use-tabs'

/** Tabs said as words in a row: one of them is open, and arrow keys walk along. */
const props = defineProps<{ tabs: Record<K, string> | readonly (readonly [K, string])[]; label: string }>()
const open = defineModel<K>({ required: true })
const all = computed(() => (Array.isArray(props.tabs) ? props.tabs : Object.entries(props.tabs)) as [K, string][])
</script>

<template>
  <div class="word-tabs" role="tablist" :aria-label="label" @keydown="walkTabs">
    <button
      v-for="[key, words] in all"
      :key="key"
      type="button"
      role="tab"
      :aria-selected="open === key"
      :tabindex="open === key ? 0 : -1"
      @click="open = key"
    >
      {{ words }}
    </button>
  </div>
</template>

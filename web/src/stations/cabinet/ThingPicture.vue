<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useCabinet, type Thing } from '@/stores/cabinet'

/** A thing as the core draws it; kinds that have no looks show their words. */
const props = defineProps<{ thing: Thing }>()
const cabinet = useCabinet()
const src = computed(() => cabinet.pictureOf(props.thing))
const missing = ref(false)
watch(src, () => (missing.value = false))
const kind = computed(() => cabinet.kindOf(props.thing.kind))
</script>

<template>
  <img
    v-if="kind?.pictured && !missing"
    :src="src"
    alt=""
    loading="lazy"
    :data-kind="thing.kind"
    @error="missing = true"
  />
  <span v-else class="words book" aria-hidden="true">{{ kind?.words }}</span>
</template>

<style scoped>
img,
.words {
  display: block;
  width: 100%;
  height: 76px;
  object-fit: contain;
  object-position: left center;
}
img[data-kind='pen'],
img[data-kind='hand'],
img[data-kind$='run'],
img[data-kind='line-up'],
img[data-kind='blind pairs'] {
  background: var(--swatch-ground);
  object-position: center;
}
:root[data-surface='paper'] img {
  background: none;
}
.words {
  display: grid;
  place-items: center;
  border: var(--line) dashed var(--edge);
  color: var(--graphite);
  font-style: italic;
}
</style>

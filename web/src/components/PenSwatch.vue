<script setup lang="ts">
import { useDebounceFn, useObjectUrl } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { takeFile, type PenItem, type Recipe } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { notKept } from '@/stores/draft'

/** A stroke that a pen really draws, as it is set now, kept or not. */
const props = defineProps<{ pen: PenItem }>()
const drawn = shallowRef<Blob>()
const drawnUrl = useObjectUrl(drawn)
const drafts = useLatest(
  (recipe: Recipe) => takeFile('/api/pens/swatch.png', { recipe }),
  (picture) => (drawn.value = picture),
)
const draw = useDebounceFn((now: Recipe | null) => now && void drafts.want(now), 200)
watch(
  () => JSON.stringify(notKept(props.pen)),
  () => {
    const now = notKept(props.pen)
    drafts.forget()
    if (!now) drawn.value = undefined
    void draw(now)
  },
  { immediate: true },
)
const kept = computed(() => `/api/pens/${props.pen.id}/revisions/${props.pen.revision}/swatch.png`)
const src = computed(() => drawnUrl.value ?? kept.value)
const missing = ref(false)
watch(src, () => (missing.value = false))
</script>

<template>
  <span v-if="missing" class="small">no picture</span>
  <img v-else :src="src" alt="" width="112" height="42" @error="missing = true" />
</template>

<style scoped>
img {
  display: block;
  object-fit: contain;
  background: var(--swatch-ground);
  border-radius: var(--corner);
}
:root[data-surface='paper'] img {
  background: none;
}
</style>

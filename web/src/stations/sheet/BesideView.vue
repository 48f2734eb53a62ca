<script setup lang="ts">
import { useDevicePixelRatio, useElementSize } from '@vueuse/core'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { useBeside } from '@/stores/beside'

/** The page that lies beside the one that is written on, across the width there is. */
const beside = useBeside()
const holder = useTemplateRef<HTMLElement>('holder')
const { width } = useElementSize(holder)
const { pixelRatio } = useDevicePixelRatio()
const STEP_PX = 100 // so that a dragged window asks for few pictures
const MOST_PX = 40_000_000
const STRIP_MM = 300 // of a long page, in one picture
const coming = ref(0)

/** Pictures of the page from its head to its foot. */
const parts = computed(() => {
  const page = beside.page
  if (!page || !width.value) return []
  const { width_mm: w, height_mm: h } = page.paper
  const wanted = (Math.ceil(width.value / STEP_PX) * STEP_PX * pixelRatio.value) / w
  const scale = Math.min(wanted, Math.sqrt(MOST_PX / (w * Math.min(h, STRIP_MM))))
  return Array.from({ length: Math.ceil(h / STRIP_MM) }, (_, k) => {
    const [top, bottom] = [k * STRIP_MM, Math.min(h, (k + 1) * STRIP_MM)]
    return {
      key: `${page.id} ${page.ink} ${page.version} ${k}`,
      src: `/api/sheets/${page.id}/page.png?scale=${scale.toFixed(3)}&top=${top}&bottom=${bottom}`,
      shape: `${w} / ${bottom - top}`,
    }
  })
})
watch(
  () => parts.value.map((p) => p.src).join(),
  () => (coming.value = parts.value.length),
  { immediate: true },
)
</script>

<template>
  <section v-if="beside.page" class="beside" aria-label="The page beside">
    <div class="small row">
      <b>{{ beside.page.name }}</b><span v-if="beside.page.pages > 1">page {{ beside.page.page }}</span>
      <button type="button" class="plain-button" @click="beside.change()">write on this one</button>
      <button type="button" class="plain-button" @click="beside.close()">put it away</button>
    </div>
    <div ref="holder" class="holder" :class="{ stale: coming > 0 }" tabindex="0">
      <img
        v-for="p in parts"
        :key="p.key"
        :src="p.src"
        :style="{ aspectRatio: p.shape }"
        alt=""
        loading="lazy"
        draggable="false"
        @load="coming--"
        @error="coming--"
      />
    </div>
  </section>
</template>

<style scoped>
.beside {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-width: 0;
  min-height: 0;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
  align-items: center;
}
.row b {
  font-weight: 650;
}
.holder {
  overflow: hidden auto;
  border: var(--line) solid var(--rule);
  scrollbar-width: thin;
}
img {
  display: block;
  width: 100%;
}
</style>

<script setup lang="ts">
import { useDevicePixelRatio, useElementSize } from '@vueuse/core'
import { computed, shallowRef, useTemplateRef, watch } from 'vue'
import { api, isNoInk, take, type Recipe, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useInk } from '@/stores/ink'

/** Your line with one recipe, pixel for pixel. The picture follows the recipe, one request in flight. */
const props = defineProps<{
  recipe: Recipe
  source: Schemas['Source']
  words: string
  name: string
  label: Record<string, string | undefined>
  marks: number[][]
}>()
const emit = defineEmits<{ spot: [place: { x_mm: number; y_mm: number }] }>()
const desk = useDesk()
const ink = useInk()
const strip = useTemplateRef<HTMLElement>('strip')
const { width, height } = useElementSize(strip)
const { pixelRatio } = useDevicePixelRatio()
const picture = shallowRef<Schemas['PreviewReply']>()

const pictures = useLatest(
  (recipe: Recipe) =>
    take(
      api.POST('/api/pen/preview', {
        body: {
          recipe,
          source: props.source,
          width_px: Math.min(4000, Math.round(width.value * pixelRatio.value)),
          height_px: Math.min(4000, Math.round(height.value * pixelRatio.value)),
        },
      }),
    ),
  (answer) => (picture.value = answer),
  (error) => {
    if (!isNoInk(error)) desk.tell(error)
  },
  { follow: true },
)
watch(
  [() => props.recipe, () => props.source, width, height, () => ink.changed],
  () => {
    if (width.value > 50 && height.value > 50) void pictures.want(props.recipe)
  },
  { immediate: true },
)

const fit = computed(() => {
  const p = picture.value
  const k = pixelRatio.value
  return (
    p && {
      left: `${p.left_px / k}px`,
      top: `${p.top_px / k}px`,
      width: `${p.width_px / k}px`,
      height: `${p.height_px / k}px`,
    }
  )
})

/** Lost corners, in CSS pixels of the strip. */
const onStrip = computed(() => {
  const p = picture.value
  return p
    ? props.marks.map(([x, y]) => ({
        x: ((x! - p.box_mm[0]!) * p.scale) / pixelRatio.value,
        y: ((y! - p.box_mm[1]!) * p.scale) / pixelRatio.value,
      }))
    : []
})

function press(event: PointerEvent) {
  const p = picture.value
  const box = strip.value?.getBoundingClientRect()
  if (!p || !box) return
  const mmPerPx = pixelRatio.value / p.scale
  emit('spot', {
    x_mm: p.box_mm[0]! + (event.clientX - box.left) * mmPerPx,
    y_mm: p.box_mm[1]! + (event.clientY - box.top) * mmPerPx,
  })
}
</script>

<template>
  <div ref="strip" class="strip" @pointerdown="press">
    <img
      v-if="picture"
      :src="picture.image"
      :alt="`Your line, ${words}`"
      :data-ink="name"
      :style="fit"
      draggable="false"
    />
    <svg v-if="picture" class="marks" aria-hidden="true">
      <circle v-for="(m, i) in onStrip" :key="i" :cx="m.x" :cy="m.y" r="9" />
    </svg>
    <span class="small book" :style="label">{{ words }}</span>
  </div>
</template>

<style scoped>
.strip {
  position: relative;
  min-height: 0;
  overflow: hidden;
  cursor: crosshair;
}
.strip + .strip {
  border-top: var(--line) solid var(--rule);
}
img {
  position: absolute;
}
.marks {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
.marks circle {
  fill: none;
  stroke: var(--attention);
  stroke-width: 1.5;
  stroke-dasharray: 3 3;
}
span {
  position: absolute;
  right: 10px;
  top: 4px;
  font-style: italic;
  padding: 0 6px;
}
</style>

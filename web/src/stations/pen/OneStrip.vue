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
  /** The spot that was pressed, page mm. */
  spot?: { x_mm: number; y_mm: number }
  /** Whether a press takes this recipe over. */
  takable?: boolean
}>()
const emit = defineEmits<{ spot: [place: { x_mm: number; y_mm: number }]; take: [] }>()
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

/** A place on the page in CSS pixels of the strip. */
const onStrip = (p: Schemas['PreviewReply'], x: number, y: number) => ({
  x: ((x - p.box_mm[0]!) * p.scale) / pixelRatio.value,
  y: ((y - p.box_mm[1]!) * p.scale) / pixelRatio.value,
})
const lost = computed(() => {
  const p = picture.value
  return p ? props.marks.map(([x, y]) => onStrip(p, x!, y!)) : []
})
const pressed = computed(() => {
  const [p, at] = [picture.value, props.spot]
  return p && at ? onStrip(p, at.x_mm, at.y_mm) : undefined
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
      <circle v-for="(m, i) in lost" :key="i" :cx="m.x" :cy="m.y" r="9" />
      <path
        v-if="pressed"
        class="pressed"
        :d="`M${pressed.x - 11} ${pressed.y}h7m8 0h7M${pressed.x} ${pressed.y - 11}v7m0 8v7`"
      />
    </svg>
    <button v-if="takable" type="button" class="word-button take" @pointerdown.stop @click="emit('take')">
      Take {{ words }}
    </button>
    <span v-else class="small book" :style="label">{{ words }}</span>
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
.pressed {
  stroke: var(--accent);
  stroke-width: 2;
}
.take {
  position: absolute;
  right: 8px;
  top: 4px;
  font-size: var(--small);
}
span {
  position: absolute;
  right: 10px;
  top: 4px;
  font-style: italic;
  padding: 0 6px;
}
</style>

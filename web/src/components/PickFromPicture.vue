<script setup lang="ts">
import { ref, useTemplateRef } from 'vue'
import { useBringIn } from '@/composables/use-files'

/** A picture of one's own to pick a colour from: the mean of a small place where it is pressed. */
const emit = defineEmits<{ pick: [colour: string] }>()
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const shown = ref(false)
const WIDE_PX = 340
const AROUND_PX = 2

const bringIn = useBringIn('Picture to pick a colour from', 'image/png,image/jpeg,image/webp', async (file) => {
  const picture = await createImageBitmap(file).catch(() => {
    throw new Error('This picture cannot be read. Choose a PNG, JPEG or WebP.')
  })
  const box = canvas.value!
  box.width = WIDE_PX
  box.height = Math.min(2 * WIDE_PX, Math.max(1, Math.round((picture.height / picture.width) * WIDE_PX)))
  box.getContext('2d', { willReadFrequently: true })!.drawImage(picture, 0, 0, box.width, box.height)
  shown.value = true
})

function press(event: PointerEvent) {
  const box = canvas.value!
  const place = box.getBoundingClientRect()
  const x = Math.floor(((event.clientX - place.left) / place.width) * box.width)
  const y = Math.floor(((event.clientY - place.top) / place.height) * box.height)
  const size = 2 * AROUND_PX + 1
  const { data } = box.getContext('2d')!.getImageData(x - AROUND_PX, y - AROUND_PX, size, size)
  const sums = [0, 0, 0]
  let count = 0
  for (let i = 0; i < data.length; i += 4) {
    if (!data[i + 3]) continue
    count += 1
    for (const c of [0, 1, 2]) sums[c]! += data[i + c]!
  }
  if (!count) return
  emit(
    'pick',
    `#${sums
      .map((s) =>
        Math.round(s / count)
          .toString(16)
          .padStart(2, '0'),
      )
      .join('')}`,
  )
}
</script>

<template>
  <div>
    <button type="button" class="plain-button small" @click="bringIn">
      {{ shown ? 'another picture' : 'pick from a picture' }}
    </button>
    <canvas v-show="shown" ref="canvas" aria-label="Press to pick a colour" @pointerdown="press" />
  </div>
</template>

<style scoped>
canvas {
  display: block;
  max-width: 100%;
  cursor: crosshair;
}
</style>

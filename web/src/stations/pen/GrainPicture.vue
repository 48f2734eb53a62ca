<script setup lang="ts">
import { api, take, type Recipe, type Schemas } from '@/api/client'
import { useBringIn } from '@/composables/use-files'
import { useDraft } from '@/stores/draft'

/** A photographed surface as this pen's grain. */
defineProps<{ field: Schemas['Control'] }>()
const draft = useDraft()

/** A photograph as PNG, whatever the browser can read it from. */
async function asPng(file: File): Promise<Blob> {
  if (file.type === 'image/png') return file
  const picture = await createImageBitmap(file).catch(() => {
    throw new Error('This picture cannot be read. Choose a PNG, JPEG or WebP.')
  })
  const canvas = new OffscreenCanvas(picture.width, picture.height)
  canvas.getContext('2d')!.drawImage(picture, 0, 0)
  return canvas.convertToBlob({ type: 'image/png' })
}

const bringIn = useBringIn('Grain picture', 'image/png,image/jpeg,image/webp', async (file) => {
  if (!draft.recipe) return
  const picture = await asPng(file)
  const { own } = await take(
    api.POST('/api/pens/grains', {
      body: '',
      bodySerializer: () => picture,
      headers: { 'Content-Type': 'image/png' },
    }),
  )
  const copy = JSON.parse(JSON.stringify(draft.recipe)) as Recipe
  Object.assign(copy.tooth, { own, grain: 'own' })
  draft.done()
  draft.replace(copy)
  draft.done()
})
</script>

<template>
  <div class="grain">
    <span class="small" :title="field.help">{{ field.label }}</span>
    <button type="button" class="word-button" @click="bringIn">
      {{ draft.recipe?.tooth?.own ? 'Another picture' : 'Bring in a picture' }}
    </button>
  </div>
</template>

<style scoped>
.grain {
  display: grid;
  gap: 2px;
  align-content: end;
}
.grain .word-button {
  padding: 0 10px;
}
</style>

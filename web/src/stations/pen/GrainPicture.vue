<script setup lang="ts">
import { api, take, type Recipe, type Schemas } from '@/api/client'
import { useBringIn } from '@/composables/use-files'
import { useDraft } from '@/stores/draft'

/** A photographed surface as this pen's grain. */
defineProps<{ field: Schemas['Control'] }>()
const draft = useDraft()

const bringIn = useBringIn('Grain picture, PNG', 'image/png', async (file) => {
  if (!draft.recipe) return
  const { own } = await take(
    api.POST('/api/pens/grains', {
      body: '',
      bodySerializer: () => file,
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
  min-height: 64px;
  align-content: end;
}
.grain .word-button {
  padding: 0 10px;
}
</style>

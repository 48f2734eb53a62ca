<script setup lang="ts">
import { useTemplateRef } from 'vue'
import { take, type Recipe } from '@/api/client'
import type { Field } from '@/components/field'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'

/** A photographed surface as this pen's grain. */
defineProps<{ field: Field }>()
const desk = useDesk()
const draft = useDraft()
const chooser = useTemplateRef<HTMLInputElement>('chooser')

const bringIn = () =>
  desk.attempt(async () => {
    const file = chooser.value?.files?.[0]
    if (!file || !draft.recipe) return
    const { own } = await take(
      fetch('/api/pens/grains', { method: 'POST', headers: { 'Content-Type': 'image/png' }, body: file }).then(
        async (response) =>
          response.ok
            ? { data: (await response.json()) as { own: string }, response }
            : { error: await response.json(), response },
      ),
    )
    const copy = JSON.parse(JSON.stringify(draft.recipe)) as Recipe
    Object.assign(copy.tooth!, { own, grain: 'own' })
    draft.done()
    draft.replace(copy)
    draft.done()
    if (chooser.value) chooser.value.value = ''
  })
</script>

<template>
  <div class="grain">
    <span class="small" :title="field.help">{{ field.label }}</span>
    <button type="button" class="word-button" @click="chooser?.click()">
      {{ draft.recipe?.tooth?.own ? 'Another picture' : 'Bring in a picture' }}
    </button>
    <input
      ref="chooser"
      type="file"
      accept="image/png"
      class="visually-hidden"
      tabindex="-1"
      aria-label="Grain picture, PNG"
      @change="bringIn"
    />
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

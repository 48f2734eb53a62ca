<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { say } from '@/lib/numbers'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'

/** Says when the ink in hand does not show on the paper, and offers a pen whose ink does. */
const desk = useDesk()
const draft = useDraft()
const seen = shallowRef<Schemas['ColoursReply']>()
const asked = useLatest(
  (body: Schemas['Colours']) => take(api.POST('/api/desk/colours', { body })),
  (answer) => (seen.value = answer),
  () => (seen.value = undefined),
)
watch(
  [() => draft.recipe, () => desk.sheet?.paper.colour],
  () => {
    // a wash lies under words and need not stand out; an answer on its way speaks of the pen before
    if (!draft.recipe || !desk.sheet || draft.recipe.wash?.place === 'under') {
      asked.forget()
      seen.value = undefined
      return
    }
    const { colour } = draft.recipe.body!
    void asked.want({ paper_colour: desk.sheet.paper.colour, colours: [colour], pen: draft.recipe })
  },
  { immediate: true },
)
const lost = computed(() => seen.value?.lost[0] && seen.value.contrasts[0])
const other = computed(() => seen.value?.shows.find((s) => s.pen_id !== desk.pen?.id))
</script>

<template>
  <div v-if="lost" class="weak" role="status">
    <p>This ink hardly shows on this paper: {{ say(lost) }}:1.</p>
    <button v-if="other" type="button" class="word-button" @click="desk.takePen(other.pen_id)">
      Take {{ other.name }}
    </button>
  </div>
</template>

<style scoped>
.weak {
  display: grid;
  gap: 4px;
  justify-items: start;
  border-left: 3px solid var(--attention);
  padding-left: 12px;
}
p {
  color: var(--attention);
}
</style>

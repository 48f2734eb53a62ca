<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { shallowRef, watch } from 'vue'
import { api, take, type Recipe, type Schemas } from '@/api/client'
import ReadingNote from '@/components/ReadingNote.vue'
import { say } from '@/lib/numbers'
import { inWords } from '@/lib/readings'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'

/** What this pen really is, and what to change about it on this writing. Every try is one step of undo. */
const props = defineProps<{ source: Schemas['Source'] }>()
const desk = useDesk()
const draft = useDraft()
const advice = shallowRef<Schemas['Advice'][]>([])
const verdict = shallowRef<Schemas['Verdict']>()

const asked = useLatest(
  async (recipe: Recipe) =>
    Promise.all([
      take(api.POST('/api/pen/judge', { body: { recipe } })),
      take(api.POST('/api/pen/advice', { body: { recipe, source: props.source } })).catch(() => ({ advice: [] })),
    ]),
  ([judged, told]) => {
    verdict.value = judged
    advice.value = told.advice
  },
  () => undefined,
)
const askSoon = useDebounceFn(() => draft.recipe && void asked.want(draft.recipe), 350)
watch([() => draft.recipe, () => props.source], () => void askSoon(), { immediate: true })

const noun = (kind: string) => (kind === 'fountain' ? 'fountain pen' : kind)

function words(item: Schemas['Advice'], value: number) {
  const known = desk.reading('ink', item.reading) ?? desk.reading('advice', item.reading)
  return known ? inWords(known, value) : say(value)
}

function tryIt(recipe: Recipe) {
  draft.done()
  draft.replace(recipe)
  draft.done()
}
</script>

<template>
  <ReadingNote
    v-if="verdict"
    :title="`A ${noun(verdict.kind)}?`"
    :tone="verdict.met ? 'plain' : 'attention'"
    :help="`Measured on fixed probe strokes, not on your line. It ${verdict.demands.join(', ')}.`"
  >
    <p v-if="verdict.met">Yes: {{ verdict.demands.slice(0, 2).join(', ') }}.</p>
    <p v-else>
      It hardly {{ verdict.failed[0]!.words }} ({{ say(verdict.failed[0]!.value) }}).
      <template v-if="verdict.nearest !== verdict.kind">It is really a {{ noun(verdict.nearest) }}.</template>
    </p>
  </ReadingNote>
  <ReadingNote
    v-for="a in advice"
    :key="a.title"
    :title="a.title"
    tone="attention"
    :help="`${a.doing}. Predicted: ${words(a, a.before)} → ${words(a, a.after)}.`"
  >
    <p>{{ a.evidence }}</p>
    <template #more>
      <p class="small">
        {{ a.doing
        }}<template v-if="a.recipe"
          >: {{ words(a, a.before) }} → <b>{{ words(a, a.after) }}</b></template
        >
      </p>
      <button v-if="a.recipe" type="button" class="word-button" @click="tryIt(a.recipe)">Try it</button>
    </template>
  </ReadingNote>
</template>

<style scoped>
.word-button {
  margin-top: 4px;
}
</style>

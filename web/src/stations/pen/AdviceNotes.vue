<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Recipe, type Schemas } from '@/api/client'
import ReadingNote from '@/components/ReadingNote.vue'
import { say } from '@/lib/numbers'
import { inWords } from '@/lib/readings'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'

/** What this pen really is, and what to change about it on this writing. Every try is one step of undo. */
const props = defineProps<{ source: Schemas['Source']; inked: boolean; absent: string[] }>()
const desk = useDesk()
const draft = useDraft()
const advice = shallowRef<Schemas['Advice'][]>([])
const verdict = shallowRef<Schemas['Verdict']>()

const asked = useLatest(
  async (recipe: Recipe) =>
    Promise.all([
      take(api.POST('/api/pen/judge', { body: { recipe } })),
      props.inked
        ? take(api.POST('/api/pen/advice', { body: { recipe, source: props.source } })).catch(() => ({ advice: [] }))
        : { advice: [] },
    ]),
  ([judged, told]) => {
    verdict.value = judged
    advice.value = told.advice
  },
  () => undefined,
)
const waits = ref(false)
const askSoon = useDebounceFn(() => {
  waits.value = false
  if (draft.recipe) void asked.want(draft.recipe)
}, 350)
watch(
  [() => draft.recipe, () => props.source, () => props.inked],
  () => {
    waits.value = true
    void askSoon()
  },
  { immediate: true },
)
watch([() => draft.pen?.id, () => props.source.sheet_id], () => {
  asked.forget()
  advice.value = []
  verdict.value = undefined
})
const old = computed(() => waits.value || asked.busy.value)
/** What a kind says of force says nothing of ink that carries none. */
const unfelt = computed(() => props.absent.includes('force'))

const noun = (kind: string) => (kind === 'fountain' ? 'fountain pen' : kind)

const known = (key: string) => desk.reading('ink', key) ?? desk.reading('advice', key)
function words(key: string, value: number | null) {
  const reading = known(key)
  return reading ? inWords(reading, value) : say(value ?? 0)
}
/** What changes, each with its name, as in "drag 12.0 ms → 18.3 ms". */
function told(changes: Schemas['Change'][]) {
  return changes
    .map((c) => `${known(c.reading)?.label ?? c.reading} ${words(c.reading, c.before)} → ${words(c.reading, c.after)}`)
    .join(', ')
}

/** A kept pen of the kind this one sets out to be. */
const another = computed(() =>
  desk.desk?.pens.find((p) => p.recipe.kind === verdict.value?.kind && p.id !== draft.pen?.id),
)
function callIt(kind: string) {
  draft.set('kind', kind)
  draft.done()
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
    :class="{ stale: old }"
    :title="`A ${noun(verdict.kind)}?`"
    :tone="verdict.met ? 'plain' : 'attention'"
    :help="`Measured on fixed probe strokes, not on your line. It ${verdict.demands.join(', ')}.`"
  >
    <p v-if="verdict.met">Yes: {{ verdict.demands.slice(0, 2).join(', ') }}.</p>
    <p v-if="unfelt" class="small">What is written here carries no force, so none of that shows on it.</p>
    <p v-if="!verdict.met">
      It hardly {{ verdict.failed[0]!.words }} ({{ say(verdict.failed[0]!.value) }}).
      <template v-if="verdict.nearest !== verdict.kind">It is really a {{ noun(verdict.nearest) }}.</template>
    </p>
    <template v-if="!verdict.met" #more>
      <div class="ways">
        <button
          v-if="verdict.nearest !== verdict.kind"
          type="button"
          class="word-button"
          :disabled="old"
          @click="callIt(verdict.nearest)"
        >
          Call it a {{ noun(verdict.nearest) }}
        </button>
        <DoWord v-if="another" :does="() => desk.takePen(another!.id)"> Take {{ another.recipe.name }} </DoWord>
      </div>
    </template>
  </ReadingNote>
  <ReadingNote
    v-for="a in advice"
    :key="a.title"
    :class="{ stale: old }"
    :title="a.title"
    tone="attention"
    :help="known(a.reading)?.help ?? a.doing"
  >
    <p>{{ a.evidence }}</p>
    <template #more>
      <p class="small">
        {{ a.doing
        }}<template v-if="a.recipe"
          >: {{ words(a.reading, a.before) }} → <b>{{ words(a.reading, a.after) }}</b></template
        >
      </p>
      <p v-if="a.price?.length" class="small">It also changes {{ told(a.price) }}</p>
      <button v-if="a.recipe" type="button" class="word-button" :disabled="old" @click="tryIt(a.recipe)">Try it</button>
      <div v-for="c in a.choices" :key="c.doing" class="side">
        <button type="button" class="word-button" :disabled="old" @click="tryIt(c.recipe)">{{ c.doing }}</button>
        <p class="small">{{ told(c.changes) }}</p>
      </div>
    </template>
  </ReadingNote>
</template>

<style scoped>
.word-button {
  margin-top: 4px;
}
.side .word-button {
  text-align: left;
}
.ways {
  display: grid;
  justify-items: start;
}
</style>

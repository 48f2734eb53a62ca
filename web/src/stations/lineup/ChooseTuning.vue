<script setup lang="ts">
import WaitSign from '@/components/WaitSign.vue'
import DoWord from '@/components/DoWord.vue'
import { ElOption, ElSelect } from 'element-plus'
import { StorageSerializers, useLocalStorage } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, take, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import PairOfLines from './PairOfLines.vue'

/** No sliders: two re-inkings of one's own line, choose, again; what is liked best becomes a draft. */
interface Session {
  penId: string
  sheetId: string
  recipe: Schemas['Choosing']['recipe']
  directions: number
  answers: Schemas['ChoiceMade'][]
  seed: number
}
const COUNTS = [4, 6, 8]
const desk = useDesk()
const draft = useDraft()
const router = useRouter()
/** Kept in this browser, so that it can be left and gone on with. */
const session = useLocalStorage<Session | null>('gray-quill-choosing', null, { serializer: StorageSerializers.object })
const count = ref(4)
const pen = computed(() => desk.desk?.pens.find((p) => p.id === session.value?.penId))
const body = computed<Schemas['Choosing'] | undefined>(() => {
  const s = session.value
  return s
    ? {
        recipe: s.recipe as Schemas['Choosing']['recipe'],
        source: { sheet_id: s.sheetId, part: 'line', stroke_ids: null },
        directions: s.directions,
        answers: s.answers,
        seed: s.seed,
      }
    : undefined
})
function begin() {
  if (!desk.pen || !desk.sheet || !draft.recipe) return
  found.value = undefined
  session.value = {
    penId: desk.pen.id,
    sheetId: desk.sheet.id,
    recipe: JSON.parse(JSON.stringify(draft.recipe)),
    directions: count.value,
    answers: [],
    seed: Math.floor(Math.random() * 1e6),
  }
}

const pair = shallowRef<Schemas['PairShown']>()
const refused = ref('')
/** Pairs that were asked for, by all that was answered before: what may come next is asked for while one looks. */
const known = new Map<string, Promise<Schemas['PairShown']>>()
const MOST_KNOWN = 12
function pairOf(asked: Schemas['Choosing']) {
  const key = JSON.stringify(asked)
  const there = known.get(key)
  if (there) return there
  const comes = take(api.POST('/api/choosing/pair', { body: asked }))
  known.set(key, comes)
  comes.catch(() => known.delete(key))
  for (const old of [...known.keys()].slice(0, -MOST_KNOWN)) known.delete(old)
  return comes
}
const answered = (p: Schemas['PairShown'], answer: 1 | 0 | -1) => ({
  one: p.one.place,
  other: p.other.place,
  answer,
  repeats: p.repeats,
})
/** The pairs that follow either answer, one after the other. */
async function lookOn(asked: Schemas['Choosing'], now: Schemas['PairShown']) {
  for (const answer of [1, -1] as const) {
    if (pair.value !== now) return
    await pairOf({ ...asked, answers: [...asked.answers!, answered(now, answer)] }).catch(() => undefined)
  }
}
const pairs = useLatest(
  pairOf,
  (answer, asked) => {
    pair.value = answer
    refused.value = ''
    void lookOn(asked, answer)
  },
  (error) => (refused.value = error instanceof Error ? error.message : ''),
)
watch(body, (now) => (now ? void pairs.want(now) : (pair.value = undefined)), { immediate: true })

function choose(answer: 1 | 0 | -1) {
  const [s, p] = [session.value, pair.value]
  if (!s || !p || pairs.busy.value || found.value) return
  session.value = { ...s, answers: [...s.answers, answered(p, answer)] }
}
const back = () => {
  found.value = undefined
  if (session.value) session.value = { ...session.value, answers: session.value.answers.slice(0, -1) }
}

const found = shallowRef<Schemas['PreferredPen']>()
const look = () =>
  desk.attempt(async () => {
    found.value = await take(api.POST('/api/choosing/preferred', { body: body.value! }))
  })
/** The pen that was found, as a draft of the pen it came from. */
const takeIt = () =>
  desk.attempt(async () => {
    if (!found.value || !session.value) return
    if (desk.pen?.id !== session.value.penId) await desk.changeSheet({ pen_id: session.value.penId })
    draft.replace(found.value.recipe as Parameters<typeof draft.replace>[0])
    draft.done()
    session.value = null
    await router.push('/pen')
  })
</script>

<template>
  <div class="choosing">
    <template v-if="!session">
      <p class="book first">
        Your own line comes twice, inked in two ways. Choose the one you like better, again and again: after some 15
        choices it is said which pen you like, how sure that is, and what you seem to go by.
      </p>
      <div class="row">
        <DoWord class="strong" :disabled="!desk.sheet?.strokes" :does="begin">
          Choose for {{ desk.pen?.recipe.name }}
        </DoWord>
        <label class="small"
          >among
          <ElSelect v-model="count" aria-label="Directions" style="width: 74px"
            ><ElOption v-for="n in COUNTS" :key="n" :value="n" :label="String(n)"
          /></ElSelect>
          directions</label
        >
      </div>
      <p v-if="!desk.sheet?.strokes" class="small">Write a line on the sheet first.</p>
    </template>
    <template v-else>
      <p v-if="refused" class="harm" role="alert">{{ refused }}</p>
      <div v-if="found" class="found" data-found>
        <p class="book first">{{ found.words }}</p>
        <p class="small">as it is</p>
        <img :src="found.before" alt="Your line in the pen as it is" />
        <p class="small">as you seem to like it</p>
        <img :src="found.image" alt="Your line in the pen you seem to like" />
        <p v-if="found.consistent !== null" class="small">
          {{ found.asked_twice }} {{ found.asked_twice === 1 ? 'pair was' : 'pairs were' }} shown twice, the other way
          round: {{ Math.round(found.consistent * found.asked_twice) }} answered alike.
        </p>
        <div class="row">
          <DoWord class="strong" :does="takeIt"> Take it as a draft of {{ pen?.recipe.name }} </DoWord>
          <button type="button" class="word-button" @click="found = undefined">Go on choosing</button>
          <button type="button" class="word-button" @click="session = null">End it, keep nothing</button>
        </div>
      </div>
      <template v-else-if="pair">
        <PairOfLines :one="pair.one.image" :other="pair.other.image" :busy="pairs.busy.value" @chosen="choose" />
        <div class="row">
          <button type="button" class="word-button" :disabled="pairs.busy.value" @click="choose(0)">
            No difference
          </button>
          <button type="button" class="plain-button" :disabled="!session.answers.length" @click="back">
            take the last back
          </button>
          <DoWord
            :class="{ strong: session.answers.length >= pair.enough }"
            :disabled="session.answers.length < 3"
            :does="look"
          >
            What do my choices say?
          </DoWord>
          <button type="button" class="plain-button" @click="session = null">end it, keep nothing</button>
          <span class="small" role="status"
            ><template v-if="pairs.busy.value">the next pair is on its way; </template
            >{{ session.answers.length }} chosen, some {{ pair.enough }} are enough; also by the arrow keys, = for no
            difference</span
          >
        </div>
      </template>
      <WaitSign v-else-if="!refused" words="Your line is being inked in two ways" />
    </template>
  </div>
</template>

<style scoped src="./lineup.css" />

<style scoped>
.choosing {
  overflow-y: auto;
  padding-bottom: 12px;
  scrollbar-width: thin;
}
img {
  display: block;
  width: 100%;
  max-width: 900px;
}
.found img {
  max-width: 680px;
  border: var(--line) solid var(--rule);
}
.harm {
  color: var(--harm);
}
</style>

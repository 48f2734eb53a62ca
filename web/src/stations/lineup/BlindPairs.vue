<script setup lang="ts">
import { ElInput } from 'element-plus'
import { useLocalStorage } from '@vueuse/core'
import { storeToRefs } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, takeFile, type Schemas } from '@/api/client'
import { giveFile } from '@/composables/use-files'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useLineup } from '@/stores/lineup'
import JudgedPens from './JudgedPens.vue'
import PairOfLines from './PairOfLines.vue'

/** One's own line in two pens that are not named: which is liked better; and what all answers together say. */
const FEWEST = 3
const MOST_PENS = 12
const desk = useDesk()
const lineup = useLineup()
const judge = useLocalStorage('gray-quill-judge', 'me')
const { judging: going } = storeToRefs(lineup)
const judgings = shallowRef<Schemas['JudgingItem'][]>([])
const look = () =>
  desk.attempt(async () => {
    judgings.value = (await take(api.GET('/api/pairs'))).judgings
    if (going.value && !judgings.value.some((j) => j.id === going.value)) going.value = ''
  })
void look()
const many = computed(() => lineup.chosen.length)
const begin = () =>
  desk.attempt(async () => {
    const body: Schemas['NewPairs'] = {
      pens: lineup.chosen.map((pen_id) => ({ pen_id, revision: null })),
      sheet_id: desk.sheet!.id,
      judge: judge.value.trim() || 'me',
      seed: Math.floor(Math.random() * 1e6),
    }
    const begun = await take(api.POST('/api/pairs', { body }))
    judgings.value = [begun, ...judgings.value]
    going.value = begun.id
  })

const pair = shallowRef<Schemas['PairToJudge']>()
const telling = ref(false)
const pairs = useLatest(
  ({ id, told }: { id: string; told?: Schemas['AnswerBody'] }) => {
    const params = { path: { judging_id: id } }
    return told
      ? take(api.POST('/api/pairs/{judging_id}/answers', { params, body: told }))
      : take(api.GET('/api/pairs/{judging_id}/pair', { params }))
  },
  (answer) => {
    pair.value = answer
    judgings.value = judgings.value.map((j) => (j.id === answer.id ? { ...j, asked: answer.asked } : j))
  },
  (error) => void desk.attempt(() => Promise.reject(error)),
)
watch(
  going,
  (id) => {
    pair.value = undefined
    telling.value = false
    if (id) void pairs.want({ id })
  },
  { immediate: true },
)
const now = computed(() => judgings.value.find((j) => j.id === going.value))
function answer(given: 1 | 0 | -1 | null) {
  if (pair.value && !pairs.busy.value && !telling.value)
    void pairs.want({ id: going.value, told: { asked: pair.value.asked, answer: given } })
}
const bin = (one: Schemas['JudgingItem']) =>
  desk.attempt(async () => {
    const params = { path: { judging_id: one.id } }
    judgings.value = (await take(api.PUT('/api/pairs/{judging_id}/bin', { params, body: { binned: true } }))).judgings
    if (going.value === one.id) going.value = ''
  })
const takeOut = (one: Schemas['JudgingItem']) =>
  desk.attempt(async () => giveFile(await takeFile(`/api/pairs/${one.id}/file`), `Pairs of ${one.judge}.json`))
</script>

<template>
  <div class="pairs">
    <template v-if="!going">
      <p class="book first">
        Your own line comes in two of the pens you chose, and nothing says which. Say which you like better: the answers
        rank the pens, say how sure that is, and whether they tell more than chance.
      </p>
      <form class="row" @submit.prevent="begin">
        <label class="small"
          >judged by <ElInput v-model="judge" maxlength="40" aria-label="Name of the judge" class="judge"
        /></label>
        <button
          type="submit"
          class="word-button strong"
          :disabled="many < 2 || many > MOST_PENS || !desk.sheet?.strokes"
        >
          Judge {{ many }} {{ many === 1 ? 'pen' : 'pens' }} blind
        </button>
        <span v-if="many < 2 || many > MOST_PENS" class="small">Choose 2 to {{ MOST_PENS }} pens.</span>
        <span v-else-if="!desk.sheet?.strokes" class="small">Write a line on the sheet first.</span>
      </form>
      <div v-for="one in judgings" :key="one.id" class="row line">
        <b>{{ one.judge }}</b>
        <span class="small">{{ one.pens.length }} pens, {{ one.asked }} pairs</span>
        <button type="button" class="plain-button" @click="going = one.id">go on</button>
        <button type="button" class="plain-button" @click="takeOut(one)">take out</button>
        <button type="button" class="plain-button" @click="bin(one)">bin</button>
      </div>
    </template>
    <template v-else-if="telling && now">
      <JudgedPens :judging="now" @joined="look" />
      <div class="row">
        <button type="button" class="word-button" @click="telling = false">Judge more pairs</button>
        <button type="button" class="plain-button" @click="going = ''">leave it for now</button>
      </div>
    </template>
    <template v-else-if="pair">
      <PairOfLines :one="pair.one" :other="pair.other" :busy="pairs.busy.value" @chosen="answer" />
      <div class="row">
        <button type="button" class="word-button" :disabled="pairs.busy.value" @click="answer(0)">No difference</button>
        <button type="button" class="plain-button" :disabled="!pair.asked || pairs.busy.value" @click="answer(null)">
          take the last back
        </button>
        <button type="button" class="word-button" :disabled="pair.asked < FEWEST" @click="telling = true">
          What do the answers say?
        </button>
        <button type="button" class="plain-button" @click="going = ''">leave it for now</button>
        <span class="small" role="status"
          >{{ pair.asked }} judged by {{ now?.judge }}; also by the arrow keys, = for no difference</span
        >
      </div>
    </template>
  </div>
</template>

<style scoped src="./lineup.css" />

<style scoped>
.pairs {
  overflow-y: auto;
  padding-bottom: 12px;
  scrollbar-width: thin;
}
.line {
  min-height: var(--target);
  border-top: var(--line) solid var(--rule);
}
.judge {
  width: 150px;
}
</style>

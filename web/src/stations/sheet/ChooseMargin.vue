<script setup lang="ts">
import { ref } from 'vue'
import DoWord from '@/components/DoWord.vue'
import OnOff from '@/components/OnOff.vue'
import WordTabs from '@/components/WordTabs.vue'
import { useChosen } from '@/stores/chosen'
import { useCovers } from '@/stores/covers'
import { useDesk } from '@/stores/desk'
import { useVerb } from '@/stores/verb'
import ChosenActs from './ChosenActs.vue'
import PieceList from './PieceList.vue'

/** How the pen chooses, and what can be done with what is chosen. */
defineProps<{ middle: () => [number, number] | undefined }>()
const chosen = useChosen()
const covers = useCovers()
const desk = useDesk()
const verb = useVerb()
const pieces = ref(false)
const RULES = [
  ['held', 'mostly inside'],
  ['touched', 'touched'],
  ['inside', 'wholly inside'],
  ['cut', 'cut at the ring'],
] as const
const act = (work: () => Promise<void>) => desk.attempt(work)
</script>

<template>
  <div class="choose">
    <p v-if="chosen.opening" class="book first">
      Draw from where room is wanted to where the ink below shall begin: all of it moves along.
    </p>
    <ChosenActs v-else-if="chosen.any" />
    <template v-else>
      <p class="book first">
        The pen chooses now: touch ink, cross it or draw a ring around it; a ring takes covers and pictures too. The
        same again lets it go.
      </p>
      <WordTabs v-model="verb.chooses" :tabs="RULES" label="What a ring takes" />
      <div class="states">
        <OnOff v-model="verb.boxes">A box, not a ring</OnOff>
        <OnOff v-model="verb.words">Whole words</OnOff>
        <OnOff v-model="verb.lockedToo">Locked ink too</OnOff>
      </div>
    </template>
    <div v-if="!chosen.any" class="acts">
      <DoWord :does="() => act(() => chosen.like(true))">All ink</DoWord>
      <button
        type="button"
        class="word-button"
        :aria-pressed="chosen.opening"
        @click="chosen.opening = !chosen.opening"
      >
        Open space
      </button>
      <DoWord v-if="chosen.bundle" class="wide" :does="() => act(chosen.putDown)">
        Put {{ chosen.bundle.ids.length }} {{ chosen.bundle.ids.length === 1 ? 'stroke' : 'strokes' }} here
      </DoWord>
      <DoWord v-if="covers.all.length" class="wide" :does="() => act(covers.take)">Take covers away</DoWord>
    </div>
    <OnOff
      v-if="!chosen.any && covers.all.length"
      :model-value="covers.lifted.size >= covers.all.length"
      @update:model-value="(on) => covers.liftAll(on)"
      >Covers lifted</OnOff
    >
    <button type="button" class="word-button" :aria-expanded="pieces" @click="pieces = !pieces">
      {{ chosen.ids.length ? 'Keep as a piece' : 'Pieces' }}
    </button>
    <PieceList v-if="pieces" :middle />
  </div>
</template>

<style scoped>
.choose {
  display: grid;
  gap: 10px;
}
.first {
  font-size: 16px;
  font-style: italic;
  line-height: 1.4;
}
.states {
  display: flex;
  flex-wrap: wrap;
  gap: 0 14px;
}
.acts {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.acts .word-button {
  padding: 0 6px;
}
[aria-pressed='true'] {
  border-bottom: 4px solid var(--accent);
}
.wide {
  grid-column: 1 / -1;
}
@media (max-width: 900px) {
  .choose {
    grid-column: 1 / -1;
  }
}
</style>

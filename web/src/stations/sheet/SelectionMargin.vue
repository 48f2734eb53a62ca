<script setup lang="ts">
import { ref } from 'vue'
import DoWord from '@/components/DoWord.vue'
import OnOff from '@/components/OnOff.vue'
import WordTabs from '@/components/WordTabs.vue'
import { useClipboard } from '@/stores/clipboard'
import { useSelection } from '@/stores/selection'
import { useCovers } from '@/stores/covers'
import { useDesk } from '@/stores/desk'
import { useTool } from '@/stores/tool'
import SelectionActs from './SelectionActs.vue'
import PieceList from './PieceList.vue'

/** How the pen chooses, and what can be done with what is chosen. */
defineProps<{ middle: () => [number, number] | undefined }>()
const selection = useSelection()
const clipboard = useClipboard()
const covers = useCovers()
const desk = useDesk()
const tool = useTool()
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
    <p v-if="selection.opening" class="book first">
      Draw from where room is wanted to where the ink below shall begin: all of it moves along.
    </p>
    <SelectionActs v-else-if="selection.any" />
    <template v-else>
      <p class="book first">
        The pen chooses now: touch ink, cross it or draw a ring around it; a ring takes covers and pictures too. The
        same again lets it go.
      </p>
      <WordTabs v-model="tool.chooses" :tabs="RULES" label="What a ring takes" />
      <div class="states">
        <OnOff v-model="tool.boxes">A box, not a ring</OnOff>
        <OnOff v-model="tool.words">Whole words</OnOff>
        <OnOff v-model="tool.lockedToo">Locked ink too</OnOff>
      </div>
    </template>
    <div v-if="!selection.any" class="acts">
      <DoWord :does="() => act(() => selection.like(true))">All ink</DoWord>
      <button
        type="button"
        class="word-button"
        :aria-pressed="selection.opening"
        @click="selection.opening = !selection.opening"
      >
        Open space
      </button>
      <DoWord v-if="clipboard.bundle" class="wide" :does="() => act(clipboard.putDown)">
        Put {{ clipboard.bundle.ids.length }} {{ clipboard.bundle.ids.length === 1 ? 'stroke' : 'strokes' }} here
      </DoWord>
      <DoWord v-if="covers.all.length" class="wide" :does="() => act(covers.take)">Take covers away</DoWord>
    </div>
    <OnOff
      v-if="!selection.any && covers.all.length"
      :model-value="covers.lifted.size >= covers.all.length"
      @update:model-value="(on) => covers.liftAll(on)"
      >Covers lifted</OnOff
    >
    <button type="button" class="word-button" :aria-expanded="pieces" @click="pieces = !pieces">
      {{ selection.ids.length ? 'Keep as a piece' : 'Pieces' }}
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

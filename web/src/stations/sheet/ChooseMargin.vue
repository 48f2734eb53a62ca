<script setup lang="ts">
import { ElOption, ElSelect } from 'element-plus'
import { ref } from 'vue'
import PaletteSpots from '@/components/PaletteSpots.vue'
import { takeFile } from '@/api/client'
import { giveFile } from '@/composables/use-files'
import { percent } from '@/lib/numbers'
import { flippedIn, moved, turnedIn } from '@/lib/placement'
import { useChosen } from '@/stores/chosen'
import { useCovers } from '@/stores/covers'
import { useDesk } from '@/stores/desk'
import { useVerb } from '@/stores/verb'
import PieceList from './PieceList.vue'
import WordTabs from '@/components/WordTabs.vue'

/** What choosing does, and what can be done with the ink that is chosen. */
defineProps<{ middle: () => [number, number] | undefined }>()
const chosen = useChosen()
const pieces = ref(false)
const desk = useDesk()
const covers = useCovers()
/** Cover what is chosen, to be asked what it was. */
async function cover() {
  await covers.cover(chosen.box!)
  chosen.letGo()
}
const verb = useVerb()
const LIKE = ['pen', 'colour', 'kind'] as const
const OPACITIES = [1, 0.4, 0.2] as const
const RULES = [
  ['touched', 'touched'],
  ['inside', 'wholly inside'],
  ['cut', 'cut at the ring'],
] as const
const COPY_MM = 6 // a copy lies this far down and aside
async function takeOut() {
  const picture = await takeFile(`/api/sheets/${desk.sheet!.id}/strokes/file`, { ids: chosen.ids, form: 'svg' })
  giveFile(picture, `${desk.sheet!.name}, ink.svg`)
}
const act = (work: () => Promise<void>) => void desk.attempt(work)
</script>

<template>
  <div class="choose">
    <p v-if="chosen.opening" class="book first">
      Draw from where room is wanted to where the ink below shall begin: all of it moves along.
    </p>
    <p v-else-if="!chosen.any" class="book first">
      The pen chooses now: touch ink, cross it or draw a ring around it; a ring takes covers and pictures too. The same
      again lets it go.
    </p>
    <p v-else class="book first">
      {{ chosen.words }} chosen: drag inside the frame to move
      {{ chosen.ids.length + chosen.things.all.length === 1 ? 'it' : 'them' }}, a corner to size or turn.
    </p>
    <WordTabs v-if="!chosen.any" v-model="verb.chooses" :tabs="RULES" label="What a ring takes" />
    <div class="acts">
      <template v-if="!chosen.any">
        <button type="button" class="word-button wide" :aria-pressed="verb.boxes" @click="verb.boxes = !verb.boxes">
          {{ verb.boxes ? 'By a box' : 'By a ring or a line' }}
        </button>
        <button type="button" class="word-button" :aria-pressed="verb.words" @click="verb.words = !verb.words">
          {{ verb.words ? 'Whole words' : 'Single strokes' }}
        </button>
        <button
          type="button"
          class="word-button"
          :aria-pressed="verb.lockedToo"
          @click="verb.lockedToo = !verb.lockedToo"
        >
          {{ verb.lockedToo ? 'Locked ink too' : 'Not locked ink' }}
        </button>
      </template>
      <button type="button" class="word-button" @click="act(() => chosen.like(true))">All ink</button>
      <button
        v-if="!chosen.any"
        type="button"
        class="word-button"
        :aria-pressed="chosen.opening"
        @click="chosen.opening = !chosen.opening"
      >
        Open space
      </button>
      <button v-if="chosen.bundle && !chosen.any" type="button" class="word-button wide" @click="act(chosen.putDown)">
        Put {{ chosen.bundle.ids.length }} {{ chosen.bundle.ids.length === 1 ? 'stroke' : 'strokes' }} here
      </button>
      <template v-if="chosen.any">
        <button type="button" class="word-button" @click="act(() => chosen.place(moved(COPY_MM, COPY_MM), true))">
          Duplicate
        </button>
        <button v-if="chosen.ids.length" type="button" class="word-button" @click="act(chosen.takeAlong)">
          Take along
        </button>
        <button type="button" class="word-button" @click="act(() => chosen.place(turnedIn(chosen.box!, Math.PI / 2)))">
          Quarter turn
        </button>
        <button type="button" class="word-button" @click="act(() => chosen.place(flippedIn(chosen.box!)))">Flip</button>
        <button type="button" class="word-button" @click="act(() => chosen.remove())">Delete</button>
      </template>
      <template v-if="chosen.ids.length">
        <div class="wide like">
          <p class="small">All of the same</p>
          <div class="acts thirds" role="group" aria-label="Choose all of the same">
            <button
              v-for="by in LIKE"
              :key="by"
              type="button"
              class="word-button"
              @click="act(() => chosen.like(false, by))"
            >
              {{ by }}
            </button>
          </div>
        </div>
        <button
          type="button"
          class="word-button wide"
          :aria-pressed="chosen.filled"
          @click="act(() => chosen.fillWith(chosen.filled ? null : {}))"
        >
          {{ chosen.filled ? 'Leave the inside empty' : 'Fill the inside' }}
        </button>
        <div v-if="chosen.filled" class="wide">
          <PaletteSpots
            :model-value="chosen.fill.colour"
            label="Colour of the fill"
            @update:model-value="(colour: string) => act(() => chosen.fillWith({ colour }))"
          />
          <div class="acts thirds" role="group" aria-label="Opacity of the fill">
            <button
              v-for="share in OPACITIES"
              :key="share"
              type="button"
              class="word-button"
              :aria-pressed="chosen.fill.opacity === share"
              @click="act(() => chosen.fillWith({ opacity: share }))"
            >
              {{ percent(share) }}
            </button>
          </div>
        </div>
        <button type="button" class="word-button" @click="act(() => chosen.group(true))">Group</button>
        <button type="button" class="word-button" @click="act(() => chosen.group(false))">Ungroup</button>
        <button type="button" class="word-button" @click="act(() => chosen.order('front'))">To the front</button>
        <button type="button" class="word-button" @click="act(() => chosen.order('back'))">To the back</button>
        <button type="button" class="word-button wide" @click="act(cover)">Cover it</button>
        <button type="button" class="word-button" @click="act(() => chosen.lock(true))">Lock</button>
        <button type="button" class="word-button" @click="act(() => chosen.lock(false))">Unlock</button>
        <ElSelect
          v-if="(desk.sheet?.layers?.length ?? 1) > 1"
          class="wide"
          model-value=""
          placeholder="Put on another layer"
          aria-label="Put on another layer"
          @change="(id: string) => act(() => chosen.toLayer(id))"
        >
          <ElOption v-for="layer in desk.sheet!.layers" :key="layer.id" :value="layer.id" :label="layer.name" />
        </ElSelect>
        <button type="button" class="word-button wide" @click="act(takeOut)">Take out as a drawing</button>
        <button
          type="button"
          class="word-button wide"
          :aria-pressed="chosen.wider"
          @click="chosen.wider = !chosen.wider"
        >
          {{ chosen.wider ? 'Sized, lines grow too' : 'Sized, lines keep their width' }}
        </button>
      </template>
      <button v-if="chosen.any" type="button" class="word-button wide" @click="chosen.letGo()">Let it go</button>
      <template v-if="!chosen.any && covers.all.length">
        <button type="button" class="word-button" @click="covers.liftAll(covers.lifted.size < covers.all.length)">
          {{ covers.lifted.size < covers.all.length ? 'Lift all covers' : 'Lay all covers' }}
        </button>
        <button type="button" class="word-button" @click="act(covers.take)">Take covers away</button>
      </template>
      <button type="button" class="word-button wide" :aria-expanded="pieces" @click="pieces = !pieces">
        {{ pieces ? 'Fold the pieces' : chosen.ids.length ? 'Keep as a piece' : 'Pieces' }}
      </button>
    </div>
    <PieceList v-if="pieces" class="wide" :middle />
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
.acts {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.acts .word-button {
  padding: 0 6px;
}
.acts.thirds {
  grid-template-columns: repeat(3, 1fr);
}
.thirds [aria-pressed='true'] {
  border-bottom: 4px solid var(--accent);
}
.wide {
  grid-column: 1 / -1;
}
@media (max-width: 900px) {
  .choose .acts {
    grid-column: 1 / -1;
    grid-template-columns: repeat(auto-fit, minmax(112px, 1fr));
  }
  .choose .wide {
    grid-column: span 2;
  }
}

@media (max-width: 900px) {
  .choose {
    grid-column: 1 / -1;
    grid-template-columns: repeat(auto-fit, minmax(160px, 1fr));
    align-items: center;
  }
}
</style>

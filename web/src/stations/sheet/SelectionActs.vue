<script setup lang="ts">
import { ElOption, ElSelect } from 'element-plus'
import { computed, ref } from 'vue'
import { takeFile } from '@/api/client'
import DoWord from '@/components/DoWord.vue'
import OnOff from '@/components/OnOff.vue'
import PaletteSpots from '@/components/PaletteSpots.vue'
import { giveFile } from '@/composables/use-files'
import { percent } from '@/lib/numbers'
import { flippedIn, moved, turnedIn } from '@/lib/placement'
import { useClipboard } from '@/stores/clipboard'
import { useSelection } from '@/stores/selection'
import { useCovers } from '@/stores/covers'
import { useDesk } from '@/stores/desk'

/** What can be done with what is chosen: its colour and the commonest commands in view, the rest below. */
const selection = useSelection()
const clipboard = useClipboard()
const covers = useCovers()
const desk = useDesk()
const more = ref(false)
const LIKE = ['pen', 'colour', 'kind'] as const
const OPACITIES = [1, 0.4, 0.2] as const
const COPY_MM = 6 // a copy lies this far down and aside
const act = (work: () => Promise<void>) => desk.attempt(work)
const inked = computed(() => !!selection.ids.length)

async function takeOut() {
  const picture = await takeFile(`/api/sheets/${desk.sheet!.id}/strokes/file`, { ids: selection.ids, form: 'svg' })
  giveFile(picture, `${desk.sheet!.name}, ink.svg`)
}
/** Cover what is chosen, to be asked what it was. */
async function cover() {
  await covers.cover(selection.box!)
  selection.letGo()
}
</script>

<template>
  <div class="chosen-acts">
    <p class="book first">
      {{ selection.words }} chosen: drag inside the frame to move, a corner to size or turn.
      <template v-if="inked"
        >A pen of the roll or a colour inks {{ selection.ids.length > 1 ? 'them' : 'it' }}.</template
      >
    </p>
    <PaletteSpots
      v-if="inked"
      model-value=""
      label="Colour of the chosen ink"
      @update:model-value="(colour: string) => act(() => selection.recolour(colour))"
    />
    <div class="acts">
      <button type="button" class="word-button" @click="selection.letGo()">Let it go</button>
      <DoWord :does="() => act(selection.remove)">Delete</DoWord>
      <DoWord :does="() => act(() => selection.place(moved(COPY_MM, COPY_MM), true))">Duplicate</DoWord>
      <DoWord v-if="inked" :does="() => act(clipboard.takeAlong)">Take along</DoWord>
      <DoWord v-if="inked" :does="() => act(cover)">Cover it</DoWord>
      <DoWord :does="() => act(() => selection.place(turnedIn(selection.box!, Math.PI / 2)))">Quarter turn</DoWord>
      <template v-if="inked">
        <DoWord :does="() => act(() => selection.group(true))">Group</DoWord>
        <DoWord :does="() => act(() => selection.group(false))">Ungroup</DoWord>
      </template>
      <DoWord :does="() => act(() => selection.place(flippedIn(selection.box!)))">Flip</DoWord>
      <DoWord v-if="inked" :does="() => act(() => selection.lock(true))">Lock</DoWord>
      <DoWord v-if="inked" :does="() => act(() => selection.lock(false))">Unlock</DoWord>
      <button v-if="inked" type="button" class="word-button" :aria-expanded="more" @click="more = !more">More</button>
    </div>
    <template v-if="inked && more">
      <div class="acts" role="group" aria-label="Order and files">
        <DoWord :does="() => act(() => selection.order('front'))">To the front</DoWord>
        <DoWord :does="() => act(() => selection.order('back'))">To the back</DoWord>
        <DoWord :does="() => act(takeOut)">Take out as a drawing</DoWord>
      </div>
      <div class="like">
        <p class="small">Choose all of the same</p>
        <div class="acts" role="group" aria-label="Choose all of the same">
          <DoWord v-for="by in LIKE" :key="by" :does="() => act(() => selection.like(false, by))">{{ by }}</DoWord>
        </div>
      </div>
      <OnOff :model-value="selection.filled" @update:model-value="(on) => act(() => selection.fillWith(on ? {} : null))"
        >The inside is filled</OnOff
      >
      <div v-if="selection.filled">
        <PaletteSpots
          :model-value="selection.fill.colour"
          label="Colour of the fill"
          @update:model-value="(colour: string) => act(() => selection.fillWith({ colour }))"
        />
        <div class="acts" role="group" aria-label="Opacity of the fill">
          <DoWord
            v-for="share in OPACITIES"
            :key="share"
            :aria-pressed="selection.fill.opacity === share"
            :does="() => act(() => selection.fillWith({ opacity: share }))"
          >
            {{ percent(share) }}
          </DoWord>
        </div>
      </div>
      <OnOff v-model="selection.wider">Lines grow when it is sized</OnOff>
      <ElSelect
        v-if="(desk.sheet?.layers?.length ?? 1) > 1"
        model-value=""
        placeholder="Put on another layer"
        aria-label="Put on another layer"
        @change="(id: string) => act(() => selection.toLayer(id))"
      >
        <ElOption v-for="layer in desk.sheet!.layers" :key="layer.id" :value="layer.id" :label="layer.name" />
      </ElSelect>
    </template>
  </div>
</template>

<style scoped>
.chosen-acts {
  display: grid;
  gap: 10px;
}
.first {
  font-size: 15px;
  font-style: italic;
  line-height: 1.35;
}
.acts {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
  gap: 6px;
}
.acts .word-button {
  padding: 0 2px;
  font-size: var(--small);
  line-height: 1.15;
}
.acts [aria-pressed='true'] {
  border-bottom: 4px solid var(--accent);
}
@media (max-width: 900px) {
  .acts {
    grid-template-columns: repeat(auto-fit, minmax(84px, 1fr));
  }
}
</style>

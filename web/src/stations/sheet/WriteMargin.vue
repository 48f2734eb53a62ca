<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import OnOff from '@/components/OnOff.vue'
import { computed } from 'vue'
import PaletteSpots from '@/components/PaletteSpots.vue'
import { useOwnPen } from '@/composables/use-own-pen'
import { percent, say } from '@/lib/numbers'
import { useDraft } from '@/stores/draft'
import { useScreen } from '@/stores/screen'
import { useTool } from '@/stores/tool'

/** The pen in hand, one press away: three widths around what is kept, the palette, and its opacity. */
const draft = useDraft()
const screen = useScreen()
const tool = useTool()
const BROADER = 1.5 // from one width to the next
const OPACITIES = [1, 0.7, 0.4] as const
const body = computed(() => draft.recipe?.body)
const tidies = computed({
  get: () => tool.tidies(draft.pen),
  set: (on) => (tool.tidying = { ...tool.tidying, [draft.pen!.id]: on }),
})
const ownPen = useOwnPen()
const rounded = (mm: number) => Number(mm.toPrecision(2))
const widths = computed(() => {
  const kept = draft.kept?.body?.width_mm ?? 0.5
  return [rounded(kept / BROADER), kept, rounded(kept * BROADER)]
})
const shownPx = (mm: number) => Math.min(30, Math.max(1, mm * screen.pxPerMm))

function give(path: string, value: unknown) {
  draft.set(path, value)
  draft.done()
}
</script>

<template>
  <div v-if="body" class="pen-set">
    <div class="row" role="group" aria-label="Width of the pen">
      <button
        v-for="mm in widths"
        :key="mm"
        type="button"
        :aria-pressed="Math.abs(body.width_mm - mm) < 1e-9"
        :aria-label="`${say(mm)} mm`"
        @click="give('body.width_mm', mm)"
      >
        <span class="ground"
          ><span class="line" :style="{ height: `${shownPx(mm)}px`, background: body.colour }"
        /></span>
        <span class="small">{{ say(mm) }} mm</span>
      </button>
    </div>
    <div class="row" role="group" aria-label="Opacity of the pen">
      <button
        v-for="share in OPACITIES"
        :key="share"
        type="button"
        :aria-pressed="body.opacity === share"
        @click="give('body.opacity', share)"
      >
        <span class="small">{{ percent(share) }}</span>
      </button>
    </div>
    <PaletteSpots
      :model-value="body.colour"
      label="Colour of the pen"
      @update:model-value="(colour: string) => give('body.colour', colour)"
    />
    <DoWord v-if="draft.changed" :does="() => ownPen(true)"> Keep as a pen of its own </DoWord>
    <OnOff v-model="tool.widthAsSeen">Same width on the screen, near or far</OnOff>
    <OnOff v-model="tool.scribbles">A scribble over ink rubs it out</OnOff>
    <OnOff v-model="tidies">A figure held still turns clean</OnOff>
    <OnOff v-model="tool.rings">A ring held still chooses what it holds</OnOff>
  </div>
</template>

<style scoped>
.pen-set {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 6px;
}
.row {
  display: grid;
  grid-template-columns: repeat(3, 1fr);
}
.row button {
  display: grid;
  justify-items: center;
  align-content: center;
  gap: 6px;
  min-height: var(--target);
  border-bottom: 3px solid transparent;
}
.row button[aria-pressed='true'] {
  border-bottom-color: var(--accent);
}
.ground {
  display: grid;
  place-items: center;
  width: 64px;
  height: 34px;
  background: var(--swatch-ground);
  border-radius: var(--corner);
}
.line {
  width: 44px;
  border-radius: 999px;
}
@media (max-width: 900px) {
  .pen-set {
    grid-column: 1 / -1;
    grid-template-columns: repeat(auto-fit, minmax(200px, 1fr));
  }
}
</style>

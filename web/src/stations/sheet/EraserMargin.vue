<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import OnOff from '@/components/OnOff.vue'
import { computed } from 'vue'
import { api, take } from '@/api/client'
import EraserDisc from '@/components/EraserDisc.vue'
import NumberField from '@/components/NumberField.vue'
import { say } from '@/lib/numbers'
import { useDesk } from '@/stores/desk'
import { useInk } from '@/stores/ink'
import { ERASERS_MM, KINDS, useTool, type Kind } from '@/stores/tool'
import WordTabs from '@/components/WordTabs.vue'

/** What rubbing does: how much a touch takes, how large the eraser is, and what it may touch. */
const tool = useTool()
const desk = useDesk()
const ink = useInk()
const TAKES = [
  ['rubbed', 'only where rubbed'],
  ['strokes', 'whole strokes'],
  ['ringed', 'inside a ring'],
] as const
const MOST_KEPT = 4
/** Each kind has its own switch; the last one stays on. */
function touch(kind: Kind) {
  const now = tool.eraser.of
  const rest = now.includes(kind) ? now.filter((k) => k !== kind) : [...now, kind]
  if (rest.length) tool.touches = rest
}
const kept = computed(() => desk.desk?.erasers.some(tool.isEraser))
const others = computed(() => (desk.desk?.erasers ?? []).filter((e) => !tool.isEraser(e)))
const keep = () =>
  desk.attempt(() => desk.keepDesk({ erasers: kept.value ? others.value : [...others.value, tool.eraser] }))
/** All ink of the page, or of the layer, goes; undo brings it back. */
const clear = () =>
  desk.attempt(async () => {
    const id = desk.sheet!.id
    const body = { layers: tool.layers, locked_too: tool.lockedToo }
    const params = { path: { sheet_id: id } }
    const done = await ink.mend(id, () => take(api.POST('/api/sheets/{sheet_id}/clear', { params, body })))
    const gone = done.away.length
    tool.said = gone
      ? `${gone} ${gone === 1 ? 'stroke' : 'strokes'} cleared. Undo brings them back.`
      : 'Nothing there to clear: what is locked or hidden stays.'
  })
</script>

<template>
  <div class="rub">
    <p class="book first">The pen rubs out.</p>
    <WordTabs v-model="tool.takes" :tabs="TAKES" label="What a touch takes" />
    <div v-if="tool.takes !== 'ringed'" class="sizes" role="group" aria-label="Size of the eraser">
      <button
        v-for="mm in ERASERS_MM"
        :key="mm"
        type="button"
        :aria-pressed="tool.eraserMm === mm"
        :aria-label="`${say(mm)} mm across`"
        @click="tool.eraserMm = mm"
      >
        <EraserDisc :mm />
      </button>
      <NumberField v-model="tool.eraserMm" label="Eraser" unit="mm" :min="0.2" :max="60" :decimals="1" />
    </div>
    <OnOff v-if="tool.takes !== 'ringed'" v-model="tool.asSeen">Same size on the screen, near or far</OnOff>
    <div class="kinds" role="group" aria-label="What it may touch">
      <button
        v-for="kind in KINDS"
        :key="kind"
        type="button"
        class="word-button"
        :aria-pressed="tool.eraser.of.includes(kind)"
        @click="touch(kind)"
      >
        {{ kind }}
      </button>
    </div>
    <OnOff
      v-if="(desk.sheet?.layers?.length ?? 1) > 1"
      :model-value="tool.layers === 'this'"
      @update:model-value="(on) => (tool.layers = on ? 'this' : 'all')"
      >This layer only</OnOff
    >
    <OnOff v-model="tool.lockedToo">Locked ink too</OnOff>
    <OnOff v-model="tool.once">One rub, then write</OnOff>
    <OnOff :model-value="!!kept" :disabled="!kept && others.length >= MOST_KEPT" @update:model-value="keep"
      >Lies on the roll</OnOff
    >
    <DoWord :does="clear">
      {{ tool.layers === 'this' ? 'Clear this layer' : 'Clear the page' }}
    </DoWord>
  </div>
</template>

<style scoped>
.rub {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 10px;
}
.first {
  font-size: 16px;
  font-style: italic;
}
.sizes {
  display: flex;
  align-items: center;
  gap: 4px;
}
.sizes button {
  display: grid;
  place-items: center;
  flex: none;
  width: var(--target);
  height: var(--target);
  border-bottom: 3px solid transparent;
}
.sizes button[aria-pressed='true'] {
  border-bottom-color: var(--accent);
}
.sizes :deep(.field) {
  flex: 1;
  min-width: 0;
}
.kinds {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.kinds .word-button {
  padding: 0 6px;
}
.kinds [aria-pressed='true'] {
  border-bottom: 4px solid var(--accent);
}
@media (max-width: 900px) {
  .rub {
    grid-column: 1 / -1;
    grid-template-columns: repeat(auto-fit, minmax(160px, 1fr));
    align-items: center;
  }
  .sizes {
    grid-column: span 2;
  }
}
</style>

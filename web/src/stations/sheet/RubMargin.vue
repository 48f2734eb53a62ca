<script setup lang="ts">
import NumberField from '@/components/NumberField.vue'
import { walkTabs } from '@/composables/use-tabs'
import { say } from '@/lib/numbers'
import { useDesk } from '@/stores/desk'
import { useScreen } from '@/stores/screen'
import { ERASERS_MM, useVerb } from '@/stores/verb'

/** What rubbing does: how much a touch takes, how large the eraser is, and what it may touch. */
const verb = useVerb()
const screen = useScreen()
const desk = useDesk()
const MOST_SHOWN_PX = 36
const TAKES = [
  ['rubbed', 'only where rubbed'],
  ['strokes', 'whole strokes'],
  ['ringed', 'inside a ring'],
] as const
const TOUCHES = { both: 'ink and washes', ink: 'ink', washes: 'washes' } as const
const shownPx = (mm: number) => Math.min(MOST_SHOWN_PX, mm * screen.pxPerMm)
</script>

<template>
  <div class="rub">
    <p class="book first">The pen rubs out.</p>
    <div class="word-tabs" role="tablist" aria-label="What a touch takes" @keydown="walkTabs">
      <button
        v-for="[takes, words] in TAKES"
        :key="words"
        type="button"
        role="tab"
        :aria-selected="verb.takes === takes"
        @click="verb.takes = takes"
      >
        {{ words }}
      </button>
    </div>
    <div v-if="verb.takes !== 'ringed'" class="sizes" role="group" aria-label="Size of the eraser">
      <button
        v-for="mm in ERASERS_MM"
        :key="mm"
        type="button"
        :aria-pressed="verb.eraserMm === mm"
        :aria-label="`${say(mm)} mm across`"
        @click="verb.eraserMm = mm"
      >
        <span class="disc" :style="{ width: `${shownPx(mm)}px`, height: `${shownPx(mm)}px` }" />
      </button>
      <NumberField v-model="verb.eraserMm" label="Eraser" unit="mm" :min="0.2" :max="60" :decimals="1" />
    </div>
    <button
      v-if="verb.takes !== 'ringed'"
      type="button"
      class="word-button"
      :aria-pressed="verb.asSeen"
      @click="verb.asSeen = !verb.asSeen"
    >
      {{ verb.asSeen ? 'So large on the screen' : 'So large on the page' }}
    </button>
    <div class="word-tabs" role="tablist" aria-label="What it may touch" @keydown="walkTabs">
      <button
        v-for="(words, key) in TOUCHES"
        :key="key"
        type="button"
        role="tab"
        :aria-selected="verb.touches === key"
        @click="verb.touches = key"
      >
        {{ words }}
      </button>
    </div>
    <button
      v-if="(desk.sheet?.layers?.length ?? 1) > 1"
      type="button"
      class="word-button"
      :aria-pressed="verb.layers === 'this'"
      @click="verb.layers = verb.layers === 'this' ? 'all' : 'this'"
    >
      {{ verb.layers === 'this' ? 'On this layer only' : 'On all layers' }}
    </button>
    <button type="button" class="word-button" :aria-pressed="verb.lockedToo" @click="verb.lockedToo = !verb.lockedToo">
      {{ verb.lockedToo ? 'Locked ink too' : 'Locked ink stays' }}
    </button>
    <button type="button" class="word-button" :aria-pressed="verb.once" @click="verb.once = !verb.once">
      {{ verb.once ? 'One rub, then write' : 'Rub until told otherwise' }}
    </button>
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
.disc {
  border: var(--line) solid var(--ink);
  border-radius: 50%;
  background: var(--card);
}

@media (max-width: 900px) {
  .rub {
    grid-column: 1 / -1;
    grid-template-columns: repeat(auto-fit, minmax(160px, 1fr));
    align-items: center;
  }
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import ReadingNote from '@/components/ReadingNote.vue'
import { late, roughly, say } from '@/lib/numbers'
import { callsForAttention } from '@/lib/readings'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { useLag } from '@/stores/lag'

/** What look-ahead buys and what it overshoots: by the model, on the writer's own line, and as shown here. */
const props = defineProps<{ ahead: Schemas['LookedAhead'] }>()
const desk = useDesk()
const draft = useDraft()
const lag = useLag()
const set = computed(() => draft.recipe?.steady?.ahead_ms ?? 0)
const overshoot = computed(() => desk.reading('ahead', 'overshoot_mm')!)
const judged = computed(() => props.ahead.on.filter((a) => a.on !== 'a corner'))
const loud = computed(
  () => set.value > 0 && judged.value.some((a) => callsForAttention(overshoot.value, a.overshoot_mm)),
)
function give(ms: number) {
  draft.set('steady.ahead_ms', ms)
  draft.done()
}
</script>

<template>
  <ReadingNote title="Look-ahead" :tone="loud ? 'attention' : 'plain'" :help="overshoot.help">
    <template v-if="set">
      <p>
        <span class="number">{{ set }}</span> ms ahead overshoot
      </p>
      <ul class="small ways">
        <li v-for="a in ahead.on" :key="a.on" :data-on="a.on">
          {{ a.on }}: <b>{{ say(a.overshoot_mm) }}</b> mm
        </li>
      </ul>
    </template>
    <p v-else-if="ahead.most_ms">
      up to <span class="number">{{ ahead.most_ms }}</span> ms ahead stay within {{ overshoot.attention }} mm of
      {{ judged.length > 1 ? 'your line' : 'the ink' }}
    </p>
    <p v-else class="small">none is worth it here</p>
    <p v-for="w in ahead.words" :key="w" class="small">{{ w }}</p>
    <p v-if="lag.shown?.aheadMs === set" class="small" data-shown>
      Here the ink's end was <b>{{ late(lag.shown.ahead.bare_ms!) }}</b> without,
      <b>{{ late(lag.shown.ahead.left_ms!) }}</b> with; off by {{ say(lag.shown.ahead.overshoot_mm) }} mm.
      <template v-if="lag.shown.guessed">
        This browser's own guess is off by {{ say(lag.shown.guessed.theirs_mm) }} mm
        {{ roughly(lag.shown.guessed.ahead_ms) }} ms ahead, look-ahead by {{ say(lag.shown.guessed.ours_mm) }}.
      </template>
    </p>
    <template #more>
      <div class="tries">
        <button
          v-if="ahead.most_ms && ahead.most_ms !== set"
          type="button"
          class="word-button"
          @click="give(ahead.most_ms)"
        >
          Try {{ ahead.most_ms }} ms
        </button>
        <button v-if="set" type="button" class="word-button" @click="give(0)">Leave it out</button>
      </div>
    </template>
  </ReadingNote>
</template>

<style scoped>
.ways {
  list-style: none;
  margin: 0;
  padding: 0;
}
.ways b,
.small b {
  font-weight: 650;
  color: var(--ink);
}
.tries {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(96px, 1fr));
  gap: 6px;
  margin-top: 6px;
}
</style>

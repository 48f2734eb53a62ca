<script setup lang="ts">
import { useResizeObserver, useScroll } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { PenItem, Schemas } from '@/api/client'
import { useDragOrder, withMoved } from '@/composables/use-drag-order'
import { percent, say } from '@/lib/numbers'
import { useDesk } from '@/stores/desk'
import { asSet, notKept } from '@/stores/draft'
import { useFrame } from '@/stores/frame'
import { KINDS, useVerb } from '@/stores/verb'
import EraserDisc from './EraserDisc.vue'
import PenSwatch from './PenSwatch.vue'
import VerbWords from './VerbWords.vue'

/** Pens at hand as strokes they really draw. A press picks, a press on the picked one tunes; dragging arranges. */
const desk = useDesk()
const verb = useVerb()
const frame = useFrame()
const route = useRoute()
const router = useRouter()
const strip = useTemplateRef<HTMLElement>('strip')
const upright = computed(() => frame.rollPlace === 'left' || frame.rollPlace === 'right')
const { arrivedState, measure } = useScroll(strip)
useResizeObserver(strip, () => measure())
const before = computed(() => !(upright.value ? arrivedState.top : arrivedState.left))
const after = computed(() => !(upright.value ? arrivedState.bottom : arrivedState.right))
const picked = computed(() => desk.roll.find((p) => p.id === desk.sheet?.pen_id))

function scroll(way: number) {
  const box = strip.value!
  const by = way * 0.7 * (upright.value ? box.clientHeight : box.clientWidth)
  box.scrollBy(upright.value ? { top: by } : { left: by })
}

/** What a pen draws now: its width, and its opacity where that is not full. */
function measures(pen: PenItem) {
  const { width_mm, opacity } = asSet(pen).body!
  return `${say(width_mm)} mm${opacity < 1 ? `, ${percent(opacity)}` : ''}${notKept(pen) ? ' *' : ''}`
}

const RUBS = { rubbed: 'where it goes', strokes: 'strokes', ringed: 'in a ring' } as const
/** What an eraser is set to, as short as a pen's measures. */
function rubs({ takes, size_mm, of, layers }: Schemas['Eraser']) {
  const only = of && of.length < KINDS.length ? of.join(', ') : ''
  const size = takes === 'ringed' ? '' : `${say(size_mm)} mm`
  return [size, only, layers === 'this' ? 'this layer' : ''].filter(Boolean).join(', ') || 'all ink'
}

const order = useDragOrder(
  strip,
  (id, to) =>
    void desk.attempt(() =>
      desk.orderRoll(
        withMoved(
          desk.roll.map((p) => p.id),
          id,
          to,
        ),
      ),
    ),
  () => upright.value,
)

function press(id: string) {
  if (order.dragged()) return
  if (id === desk.sheet?.pen_id) void router.push('/pen')
  else void desk.takePen(id)
  verb.now = 'write'
}
</script>

<template>
  <section class="holder" :class="{ upright, folded: frame.rollFolded }" aria-label="Pens at hand">
    <button v-if="frame.rollFolded" type="button" class="tab" @click="frame.unfold()">
      <PenSwatch v-if="picked" :pen="picked" /><span>Pens</span>
    </button>
    <template v-else>
      <button
        v-if="desk.desk && desk.desk.rolls.length > 1"
        type="button"
        class="which small"
        :aria-label="`Roll: ${desk.desk.roll}. Press for the next`"
        @click="desk.nextRoll()"
      >
        {{ desk.desk.roll }}
      </button>
      <button v-if="before" type="button" class="more" aria-label="Pens before" @click="scroll(-1)">‹</button>
      <div ref="strip" class="roll" role="toolbar" aria-label="Pen roll">
        <button
          v-for="(pen, i) in desk.roll"
          :key="pen.id"
          type="button"
          :class="{ picked: pen.id === desk.sheet?.pen_id, carried: order.carried(pen.id) }"
          :aria-pressed="pen.id === desk.sheet?.pen_id"
          :title="pen.id === desk.sheet?.pen_id ? 'Press again to tune it' : pen.recipe.name"
          v-bind="order.of(pen.id, i)"
          @click="press(pen.id)"
        >
          <span class="place" aria-hidden="true">{{ (i + 1) % 10 }}</span>
          <PenSwatch :pen="pen" />
          <span class="name">{{ pen.recipe.name }}</span>
          <span class="measures">{{ measures(pen) }}</span>
        </button>
        <template v-if="route.name === 'sheet'">
          <button
            v-for="(eraser, k) in desk.desk?.erasers"
            :key="k"
            type="button"
            :class="{ picked: verb.isEraser(eraser) }"
            :aria-pressed="verb.isEraser(eraser)"
            :title="`Rubs out ${RUBS[eraser.takes ?? 'rubbed']}`"
            @click="verb.takeEraser(eraser)"
          >
            <EraserDisc :mm="eraser.size_mm" />
            <span class="name">rub {{ RUBS[eraser.takes ?? 'rubbed'] }}</span>
            <span class="measures">{{ rubs(eraser) }}</span>
          </button>
        </template>
      </div>
      <button v-if="after" type="button" class="more" aria-label="Pens after" @click="scroll(1)">›</button>
      <VerbWords v-if="route.name === 'sheet'" class="verbs" />
    </template>
  </section>
</template>

<style scoped>
.holder {
  display: flex;
  min-width: 0;
  min-height: 0;
  border-top: var(--line) solid var(--rule);
}
.holder.upright {
  flex-direction: column;
  border-top: 0;
  border-inline: var(--line) solid var(--rule);
}
.roll {
  display: flex;
  flex: 1;
  min-width: 0;
  min-height: 0;
  overflow: auto hidden;
  scrollbar-width: none;
  padding: 0 4px;
}
.upright .verbs {
  grid-auto-flow: row;
  grid-auto-columns: auto;
  border: 0;
  border-top: var(--line) solid var(--rule);
}
@media (max-width: 640px) {
  .holder:not(.folded) {
    flex-wrap: wrap;
  }
  .roll {
    height: var(--roll);
  }
  .verbs {
    order: -1;
    flex: 1 0 100%;
    grid-auto-columns: 1fr;
    border: 0;
  }
}
.upright .roll {
  flex-direction: column;
  overflow: hidden auto;
}

.roll button {
  position: relative;
  grid-template-columns: minmax(0, 1fr);
  flex: 1 0 98px;
  min-width: 0;
  max-width: 150px;
  display: grid;
  grid-template-rows: 40px 18px 17px;
  justify-items: center;
  align-content: center;
  border-top: 4px solid transparent;
  touch-action: none;
  user-select: none;
}
.roll button :deep(img) {
  max-width: 100%;
}
.upright .roll button {
  flex: 0 0 84px;
  max-width: none;
}
.roll button.carried {
  opacity: 0.5;
}
.roll button.picked {
  border-top-color: var(--accent);
}
.picked .name {
  font-weight: 700;
}
.roll button:hover .name {
  text-decoration: underline;
}
.place {
  position: absolute;
  left: 6px;
  top: 0;
  padding: 0 2px;
  font-size: var(--small);
  color: var(--on-swatch);
  background: var(--swatch-ground);
}
.name,
.measures {
  font-size: var(--small);
  line-height: 17px;
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  padding: 0 4px;
}
.measures {
  color: var(--graphite);
}
.more,
.which {
  flex: none;
  min-width: var(--target);
  min-height: var(--target);
  font-size: 24px;
}
.which {
  width: 58px;
  font: italic var(--small) / 1.2 var(--book);
  border-right: var(--line) solid var(--rule);
}
.upright .which {
  width: auto;
  border-right: 0;
  border-bottom: var(--line) solid var(--rule);
}
.tab {
  display: flex;
  align-items: center;
  justify-content: center;
  gap: 12px;
  flex: 1;
  min-height: var(--target);
}
.upright .tab {
  writing-mode: vertical-rl;
}
.upright .tab img {
  display: none;
}
</style>

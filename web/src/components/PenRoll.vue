<script setup lang="ts">
import { onClickOutside, useResizeObserver, useScroll } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import { useRoute } from 'vue-router'
import type { PenItem, Schemas } from '@/api/client'
import { useDragOrder, withMoved } from '@/composables/use-drag-order'
import { percent, say } from '@/lib/numbers'
import { useSelection } from '@/stores/selection'
import { useDesk } from '@/stores/desk'
import { asSet, notKept } from '@/stores/draft'
import { useFrame } from '@/stores/frame'
import { KINDS, useTool } from '@/stores/tool'
import EraserDisc from './EraserDisc.vue'
import PenSwatch from './PenSwatch.vue'
import ToolWords from './ToolWords.vue'

/** Pens at hand as strokes they really draw. A press picks, or inks what is chosen; dragging arranges. */
const desk = useDesk()
const selection = useSelection()
const tool = useTool()
const frame = useFrame()
const route = useRoute()
const holder = useTemplateRef<HTMLElement>('holder')
const fold = () => frame.unfolded === 'roll' && (frame.unfolded = undefined)
onClickOutside(holder, fold)
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
  const restyles = !!selection.ids.length
  if (restyles || id !== desk.sheet?.pen_id) void desk.attempt(() => selection.takePen(id))
  if (!restyles) tool.now = 'write'
  frame.unfolded = undefined
}
</script>

<template>
  <section ref="holder" class="holder" :class="{ upright, folded: frame.rollFolded }" aria-label="Pens at hand">
    <button v-if="frame.rollFolded" type="button" class="tab" @click="frame.unfold()">
      <PenSwatch v-if="picked" :pen="picked" /><span>Pens</span>
    </button>
    <template v-else>
      <button
        v-if="frame.small"
        type="button"
        class="in-hand"
        :aria-expanded="frame.unfolded === 'roll'"
        :aria-label="`Pens at hand, ${picked?.recipe.name ?? 'none'} in hand`"
        @click="frame.turn('roll')"
      >
        <PenSwatch v-if="picked" :pen="picked" />
      </button>
      <div v-show="!frame.small || frame.unfolded === 'roll'" class="pens-of" :class="{ over: frame.small }">
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
            :title="selection.ids.length ? `Ink ${selection.words} in ${pen.recipe.name}` : pen.recipe.name"
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
              :class="{ picked: tool.isEraser(eraser) }"
              :aria-pressed="tool.isEraser(eraser)"
              :title="`Rubs out ${RUBS[eraser.takes ?? 'rubbed']}`"
              @click="tool.takeEraser(eraser)"
            >
              <EraserDisc :mm="eraser.size_mm" />
              <span class="name">rub {{ RUBS[eraser.takes ?? 'rubbed'] }}</span>
              <span class="measures">{{ rubs(eraser) }}</span>
            </button>
          </template>
        </div>
        <button v-if="after" type="button" class="more" aria-label="Pens after" @click="scroll(1)">›</button>
      </div>
      <ToolWords v-if="route.name === 'sheet'" class="verbs" />
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
.pens-of {
  display: flex;
  flex: 1;
  min-width: 0;
  min-height: 0;
}
.upright .pens-of {
  flex-direction: column;
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
/* on a telephone: the pen in hand and the verbs in a line, the other pens over the page */
@media (max-width: 560px) {
  .holder:not(.folded) {
    position: relative;
    height: 56px;
  }
  .in-hand {
    flex: 0 1 112px;
    min-width: 56px;
    padding: 0 4px;
  }
  .in-hand :deep(img) {
    width: 100%;
    object-position: left;
  }
  .pens-of.over {
    position: absolute;
    z-index: 25;
    inset: auto 0 100%;
    height: 92px;
    background: var(--card);
    border-top: var(--line) solid var(--edge);
  }
  .verbs {
    flex: 1;
    grid-auto-columns: 1fr;
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

<script setup lang="ts">
import { ElOption, ElSelect } from 'element-plus'
import { computed, ref, useTemplateRef } from 'vue'
import { trimmed } from '@/lib/numbers'
import { inWords } from '@/lib/readings'
import { useLineup } from '@/stores/lineup'

/** Weights as shares of one bar: the border between two is dragged, or moved with the arrow keys. */
const lineup = useLineup()
const bar = useTemplateRef<HTMLElement>('bar')
const parts = computed(() => Object.entries(lineup.weights).map(([key, share]) => ({ key, share })))
const others = computed(() =>
  [...(lineup.info?.criteria.map((c) => c.key) ?? []), ...lineup.scored.map((o) => o.name)].filter(
    (key) => !(key in lineup.weights),
  ),
)
const STEP = 0.02
const held = ref<number>()
let lastX = 0
function take(event: PointerEvent, k: number) {
  held.value = k
  lastX = event.clientX
  ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
}
function drag(event: PointerEvent) {
  if (held.value === undefined || !bar.value) return
  const by = (event.clientX - lastX) / bar.value.clientWidth
  lastX = event.clientX
  shift(held.value, by)
}
/** The border behind part k goes right. */
const shift = (k: number, by: number) => lineup.move(parts.value[k + 1]!.key, parts.value[k]!.key, by)
const helpOf = (key: string) => {
  const c = lineup.info?.criteria.find((one) => one.key === key)
  return c
    ? `${c.reading.help} 0 points at ${inWords(c.reading, c.nothing)}, 100 at ${inWords(c.reading, c.all)}. ${c.reason}`
    : 'Scored by hand.'
}
</script>

<template>
  <div class="shares">
    <div ref="bar" class="bar" role="group" aria-label="What counts how much">
      <template v-for="(p, k) in parts" :key="p.key">
        <span class="part" :style="{ flexGrow: p.share }" :title="helpOf(p.key)" />
        <button
          v-if="k < parts.length - 1"
          type="button"
          class="border"
          role="slider"
          :aria-label="`Between ${lineup.labelOf(p.key)} and ${lineup.labelOf(parts[k + 1]!.key)}`"
          :aria-valuenow="Math.round(100 * p.share)"
          aria-valuemin="0"
          :aria-valuemax="Math.round(100 * (p.share + parts[k + 1]!.share))"
          @pointerdown="take($event, k)"
          @pointermove="drag"
          @pointerup="held = undefined"
          @pointercancel="held = undefined"
          @keydown.right.prevent="shift(k, STEP)"
          @keydown.left.prevent="shift(k, -STEP)"
        />
      </template>
    </div>
    <ul class="names">
      <li v-for="p in parts" :key="p.key" :title="helpOf(p.key)">
        <b>{{ trimmed(100 * p.share, 1) }} %</b> {{ lineup.labelOf(p.key) }}
        <button
          v-if="parts.length > 1"
          type="button"
          class="plain-button small"
          :aria-label="`Leave out ${lineup.labelOf(p.key)}`"
          @click="lineup.drop(p.key)"
        >
          out
        </button>
      </li>
      <li v-if="others.length" v-memo="[others.join()]">
        <ElSelect
          model-value=""
          placeholder="and what else"
          aria-label="Another criterion"
          style="width: 190px"
          @change="lineup.add"
        >
          <ElOption v-for="key in others" :key="key" :value="key" :label="lineup.labelOf(key)" />
        </ElSelect>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  height: var(--target);
  align-items: stretch;
}
.part {
  min-width: 0;
  flex-basis: 0;
  margin: 12px 0;
  border-bottom: 5px solid var(--ink);
}
.border {
  flex: none;
  width: 20px;
  margin: 0 -6px;
  padding: 0;
  cursor: col-resize;
  touch-action: none;
}
.border::before {
  content: '';
  display: block;
  width: 3px;
  height: 26px;
  margin: 0 auto;
  background: var(--accent);
}
.names {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
  align-items: center;
  margin: 0;
  padding: 0;
  list-style: none;
  font-size: var(--small);
}
.names li {
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 36px;
}
</style>

<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { percent, roughly } from '@/lib/numbers'
import { inWords } from '@/lib/readings'
import { useLineup } from '@/stores/lineup'
import StackedLine from './StackedLine.vue'

/** One candidate: its place, its line, and what made it so. */
const props = defineProps<{
  place: Schemas['Place']
  /** As the weights are now, while the answer for them is on its way. */
  now: { total: number; parts: [string, number][] }
  who: Schemas['LinedUp']
  above?: string
  open: boolean
}>()
const emit = defineEmits<{ open: [] }>()
const lineup = useLineup()
const label = (key: string) => lineup.labelOf(key)
/** A value as its criterion says it. */
const said = (key: string, value: number) => inWords(lineup.info!.criteria.find((c) => c.key === key)!.reading, value)
const standing = computed(() => {
  const p = props.place
  if (p.out) return `Out: ${p.out}.`
  if (!props.above) return ''
  if (p.same) return `Nothing told of it differs from ${props.above}.`
  if (p.tied) return `Not told apart from ${props.above}.`
  return ''
})
const card = computed(() => {
  const { pen_id, revision, hand_id, device_id } = props.who
  const query = new URLSearchParams({ device_id, hand_id })
  return `/api/pens/${pen_id}/revisions/${revision}/card.pdf?${query}`
})
const words = computed(() => {
  const p = props.place
  const found = []
  if (p.strength) found.push(`Strong in ${label(p.strength)}.`)
  if (p.weakness) found.push(`Weak in ${label(p.weakness)}.`)
  if (p.cost && props.above) found.push(`Behind ${props.above} most by ${label(p.cost)}.`)
  if (p.lift) {
    const { criterion: key, needed, now } = p.lift
    found.push(`A place higher with ${label(key)} at ${said(key, needed)} (now ${said(key, now)}).`)
  }
  if (p.crossing && props.above) {
    const { criterion: key, until, share } = p.crossing
    found.push(`Level with ${props.above} if ${label(key)} counted ${percent(until)} instead of ${percent(share)}.`)
  }
  return found
})
</script>

<template>
  <li class="row" :class="{ out: place.out }">
    <button type="button" class="head" :aria-expanded="open" @click="emit('open')">
      <span class="place">{{ place.place || '–' }}</span>
      <span class="name"
        ><b>{{ who.name }}</b> <span class="small">{{ who.group }}</span></span
      >
      <StackedLine v-if="!place.out" :place="place" :pen="who.pen_id" :revision="who.revision" :parts="now.parts" />
      <span v-if="!place.out" class="total"
        ><b>{{ roughly(now.total) }}</b>
        <span class="small">{{ roughly(place.low) }} to {{ roughly(place.high) }}</span></span
      >
    </button>
    <p v-if="standing" class="small">{{ standing }}</p>
    <div v-if="open" class="more">
      <p v-for="w in words" :key="w">{{ w }}</p>
      <table>
        <tbody>
          <tr v-for="t in place.told" :key="t.criterion">
            <th scope="row">{{ label(t.criterion) }}</th>
            <td>{{ t.value === null ? 'by hand' : said(t.criterion, t.value) }}</td>
            <td>{{ Math.round(t.points) }} points</td>
            <td>{{ roughly(t.part) }} of the total</td>
          </tr>
        </tbody>
      </table>
      <a class="word-button card" :href="card" download>Setting card of this pen on this device</a>
    </div>
  </li>
</template>

<style scoped>
.card {
  margin: 6px 0 8px 40px;
}
.row {
  border-top: var(--line) solid var(--rule);
}
.head {
  display: grid;
  grid-template-columns: 28px minmax(120px, 190px) minmax(0, 1fr) 128px;
  gap: 12px;
  align-items: center;
  width: 100%;
  min-height: var(--target);
  padding: 2px 0;
  text-align: left;
}
.head:hover {
  background: var(--accent-soft);
}
.place {
  font: italic 20px var(--book);
  text-align: center;
}
.name b,
.total b {
  font-weight: 650;
}
.total .small {
  margin-left: 8px;
  white-space: nowrap;
}
p {
  margin: 0;
  padding-left: 40px;
}
.more {
  padding: 2px 0 10px;
}
table {
  margin: 6px 0 0 40px;
  border-collapse: collapse;
  font-size: var(--small);
}
th {
  font-weight: 400;
  text-align: left;
}
th,
td {
  padding: 1px 18px 1px 0;
}
@media (max-width: 700px) {
  .head {
    grid-template-columns: 28px minmax(0, 1fr) auto;
  }
  .head > .line {
    grid-column: 1 / -1;
    order: 4;
  }
  p {
    padding-left: 0;
  }
  table {
    margin-left: 0;
  }
}
</style>

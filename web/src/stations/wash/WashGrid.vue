<script setup lang="ts">
import WaitSign from '@/components/WaitSign.vue'
import { useDebounceFn } from '@vueuse/core'
import { computed, shallowRef, watch } from 'vue'
import { api, isNoInk, take, type Schemas } from '@/api/client'
import { say } from '@/lib/numbers'
import { callsForAttention } from '@/lib/readings'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useInk } from '@/stores/ink'
import { useWash } from '@/stores/wash'
import { holds, papersFor } from './papers'

/** Your words and printed ones under one to four passes, on every paper: each cell really drawn and really measured. */
const props = defineProps<{ own: string; typed: string }>()
const PASSES = 4
const MOST = 20
const desk = useDesk()
const ink = useInk()
const wash = useWash()
const papers = computed(() => papersFor(props.own))
const grid = shallowRef<Schemas['GridReply']>()
const empty = shallowRef('')

const grids = useLatest(
  (body: Schemas['GridBody']) => take(api.POST('/api/wash/grid', { body })),
  (answer) => {
    grid.value = answer
    empty.value = ''
  },
  (error) => {
    if (isNoInk(error)) empty.value = error.message
    else desk.tell(error)
  },
  { follow: true },
)
const askSoon = useDebounceFn(() => {
  if (!wash.recipe || !wash.ink) return
  if (!props.typed.trim()) {
    grids.forget()
    grid.value = undefined
    empty.value = 'There are no printed words. Type some above.'
    return
  }
  void grids.want({
    wash: wash.recipe,
    ink: wash.ink.recipe,
    source: { sheet_id: desk.sheet!.id, part: 'words', stroke_ids: null },
    typed: props.typed,
    papers: papers.value.map((p) => p.colour),
    passes: PASSES,
    px_per_mm: Math.min(16, 5 * window.devicePixelRatio),
  })
}, 60)
watch(
  [() => wash.recipe, () => wash.ink, papers, () => props.typed, () => desk.sheet?.id, () => ink.changed],
  () => void askSoon(),
  { immediate: true },
)

const known = (key: string) => desk.reading('wash', key)!
const LOST = 3 // of large text, WCAG 2.2 SC 1.4.3: under it words are gone, not only weak
const poor = (key: string, value: number) => callsForAttention(known(key), value)
const tone = (key: string, ratio: number) => (poor(key, ratio) ? (ratio < LOST ? 'lost' : 'weak') : 'good')
const nameOf = (colour: string) =>
  papers.value.find((p) => p.colour.toLowerCase() === colour.toLowerCase())?.name ?? 'yours'
</script>

<template>
  <div class="grid-holder" tabindex="0" role="group" aria-label="Passes on papers">
    <p v-if="empty" class="book">{{ empty }}</p>
    <table v-else-if="grid" :class="{ stale: grids.busy.value }">
      <caption class="visually-hidden">
        Contrast of words under passes of the wash
      </caption>
      <thead>
        <tr>
          <th scope="col" class="small">paper</th>
          <th v-for="n in PASSES" :key="n" scope="col" class="small">{{ n }} {{ n === 1 ? 'pass' : 'passes' }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="row in grid.rows" :key="row.paper" :data-paper="row.paper">
          <th scope="row">
            <span class="book">{{ nameOf(row.paper) }}</span>
            <span class="small">in {{ row.ink }}</span>
            <span class="small">writing: {{ holds(row.readable.writing!, MOST) }}</span>
            <span class="small">print: {{ holds(row.readable.typed!, MOST) }}</span>
          </th>
          <td v-for="cell in row.cells" :key="cell.passes" :data-passes="cell.passes">
            <img :src="cell.image" :alt="`Words on ${nameOf(row.paper)} paper under ${cell.passes} passes`" />
            <span class="numbers small">
              <b :class="tone('writing', cell.writing)" title="Contrast of your writing"
                >{{ say(cell.writing) }}<template v-if="poor('writing', cell.writing)">&nbsp;✕</template></b
              >
              <b :class="tone('typed', cell.typed)" title="Contrast of print"
                >{{ say(cell.typed) }}<template v-if="poor('typed', cell.typed)">&nbsp;✕</template></b
              >
              <span :class="{ odd: cell.seen !== 'clear' }" :title="`differs from the paper by ${say(cell.visibility)}`"
                >{{ cell.seen }} {{ say(cell.visibility) }}</span
              >
            </span>
          </td>
        </tr>
      </tbody>
    </table>
    <WaitSign v-else words="The papers are being washed" />
    <p v-if="grid && !empty" class="small legend">
      Under each picture: contrast of your writing, of print, and how far the wash stands out from the paper
      (CIEDE2000). ✕ marks words under 4.5:1. Tone varies by
      {{ Math.max(...grid.rows.flatMap((r) => r.cells.map((c) => c.unevenness * 100))).toFixed(1) }} % inside a stroke;
      a second pass changes it by {{ say(grid.rows[0]!.overlap) }}.
    </p>
  </div>
</template>

<style scoped>
.grid-holder {
  overflow: auto;
  min-height: 0;
  scrollbar-width: thin;
}
table {
  border-collapse: collapse;
  width: 100%;
  table-layout: fixed;
}
thead th {
  font-weight: 400;
  text-align: left;
  padding: 0 6px 2px;
}
th:first-child {
  width: 148px;
}
tbody th {
  text-align: left;
  font-weight: 400;
  vertical-align: top;
  padding: 2px 10px 8px 0;
}
tbody th .book {
  display: block;
  font-style: italic;
  font-size: 16px;
  color: var(--accent);
}
tbody th .small {
  display: block;
  line-height: 1.3;
}
td {
  padding: 0 4px 6px;
  vertical-align: top;
}
img {
  display: block;
  width: 100%;
  border: var(--line) solid var(--rule);
}
.numbers {
  display: flex;
  flex-wrap: wrap;
  gap: 0 12px;
  padding-top: 2px;
}
b {
  font-weight: 650;
  color: var(--ink);
}
b.weak {
  color: var(--attention);
}
b.lost {
  color: var(--harm);
}
.odd {
  color: var(--attention);
  font-style: italic;
}
.legend {
  padding: 4px 0 8px;
  max-width: 90ch;
}
</style>

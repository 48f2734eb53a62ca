<script setup lang="ts">
import { ElInput } from 'element-plus'
import { onMounted, ref } from 'vue'
import { api, take, type Box, type Schemas } from '@/api/client'
import { moved } from '@/lib/placement'
import { useSelection } from '@/stores/selection'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { useInk } from '@/stores/ink'
import { useJournal } from '@/stores/undo-journal'

/** Pieces to put down: those that were kept, and a set to start with. What is chosen can be kept as one. */
const props = defineProps<{ middle: () => [number, number] | undefined }>()
const desk = useDesk()
const ink = useInk()
const journal = useJournal()
const draft = useDraft()
const selection = useSelection()
const all = ref<Schemas['Pieces']>()
const name = ref('')
const SWATCH_PX_PER_MM = 3

const look = async () => (all.value = await take(api.GET('/api/pieces')))
onMounted(() => void desk.attempt(look))

function viewOf(ways: number[][][]): string {
  const [x, y] = [ways.flatMap((w) => w.map((p) => p[0]!)), ways.flatMap((w) => w.map((p) => p[1]!))]
  const [left, top] = [Math.min(...x) - 2, Math.min(...y) - 2]
  return `${left} ${top} ${Math.max(...x) + 2 - left} ${Math.max(...y) + 2 - top}`
}
const points = (way: number[][]) => way.map((p) => p.join(',')).join(' ')

/** Draw a piece of the set with the pen in hand, in the middle of what is seen. */
const putStarter = (piece: string) =>
  desk.attempt(async () => {
    const id = desk.sheet!.id
    const [x_mm, y_mm] = props.middle() ?? [40, 40]
    const body = { name: piece, x_mm, y_mm, scale: 1, draft: draft.unkept }
    const params = { path: { sheet_id: id } }
    const done = await ink.inLine(() => take(api.POST('/api/sheets/{sheet_id}/pieces', { params, body })))
    const ids = done.answers.filter((a) => a.state !== 'refused').map((a) => a.id)
    journal.note(id, { ids, binned: true })
    ink.made({ sheet: done.sheet, box: (done.box_mm ?? undefined) as Box | undefined })
    await selection.chooseIds(ids)
  })

/** Put a kept piece down in the middle of what is seen. */
const putOwn = (piece: Schemas['Sheet']) =>
  desk.attempt(async () => {
    const id = desk.sheet!.id
    const [x, y] = props.middle() ?? [40, 40]
    const detail = await take(api.GET('/api/sheets/{sheet_id}', { params: { path: { sheet_id: piece.id } } }))
    const aside = [x - piece.paper.width_mm! / 2, y - piece.paper.height_mm! / 2]
    const body: Schemas['PlaceInk'] = {
      ids: detail.stroke_ids,
      placement: moved(aside[0]!, aside[1]!),
      wider: true,
      copy_ink: true,
      to_sheet: id,
    }
    const params = { path: { sheet_id: piece.id } }
    const done = await ink.inLine(() => take(api.POST('/api/sheets/{sheet_id}/strokes/place', { params, body })))
    journal.note(id, { away: done.back, back: [] })
    ink.showAgain(id)
    selection.chooseThese(done.strokes)
  })

const keep = () =>
  desk.attempt(async () => {
    const body = { name: name.value.trim(), sheet_id: desk.sheet!.id, ids: selection.ids }
    await take(api.POST('/api/pieces', { body }))
    name.value = ''
    await look()
  })
const bin = (piece: Schemas['Sheet']) =>
  desk.attempt(async () => {
    const params = { path: { sheet_id: piece.id } }
    await take(api.PUT('/api/sheets/{sheet_id}/bin', { params, body: { binned: true } }))
    await look()
  })
</script>

<template>
  <div class="pieces">
    <form v-if="selection.ids.length" class="keep" @submit.prevent="keep">
      <ElInput v-model="name" maxlength="80" placeholder="Name of the piece" aria-label="Name of the piece" />
      <button type="submit" class="word-button" :disabled="!name.trim()">Keep</button>
    </form>
    <div v-if="all" class="grid">
      <span v-for="p in all.own" :key="p.id" class="own">
        <button type="button" :title="p.name" @click="putOwn(p)">
          <img :src="`/api/sheets/${p.id}/page.png?scale=${SWATCH_PX_PER_MM}`" :alt="p.name" loading="lazy" />
          <span class="small">{{ p.name }}</span>
        </button>
        <button type="button" class="plain-button small" :aria-label="`Into the bin: ${p.name}`" @click="bin(p)">
          bin
        </button>
      </span>
      <button v-for="p in all.starters" :key="p.name" type="button" @click="putStarter(p.name)">
        <svg :viewBox="viewOf(p.ways)" aria-hidden="true">
          <polyline v-for="(way, k) in p.ways" :key="k" :points="points(way)" />
        </svg>
        <span class="small">{{ p.name }}</span>
      </button>
    </div>
  </div>
</template>

<style scoped>
.pieces {
  grid-column: 1 / -1;
  display: grid;
  gap: 8px;
}
.keep {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 8px;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(72px, 1fr));
  gap: 4px;
}
.grid button:not(.plain-button) {
  display: grid;
  justify-items: center;
  align-content: end;
  gap: 4px;
  width: 100%;
  min-height: 76px;
  padding: 6px 2px;
  border: var(--line) solid var(--rule);
}
.own {
  display: grid;
}
img,
svg {
  width: 58px;
  height: 40px;
  object-fit: contain;
}
polyline {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.4px;
  vector-effect: non-scaling-stroke;
}
</style>

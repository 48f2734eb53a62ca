<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { useDebounceFn } from '@vueuse/core'
import { ElCheckbox, ElInput } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, takeFile, type Schemas } from '@/api/client'
import { giveFile } from '@/composables/use-files'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useGuided } from '@/stores/guided'
import { useLineup } from '@/stores/lineup'
import GuidedRun from './GuidedRun.vue'
import MovedSince from './MovedSince.vue'
import OwnTerms from './OwnTerms.vue'
import ParetoFront from './ParetoFront.vue'
import PresetPlaces from './PresetPlaces.vue'
import RankRow from './RankRow.vue'
import ShareBar from './ShareBar.vue'

/** What was measured, ranked by what counts; handed on, and kept. */
const desk = useDesk()
const lineup = useLineup()
const guided = useGuided()

const ranked = shallowRef<Schemas['GroupRanking'][]>()
/** What the answer was asked for: older than what stands on the bar while a share moves. */
const rankedBy = shallowRef<Schemas['RankBody']>()
const refused = ref('')
const ranks = useLatest(
  ({ id, body }: { id: string; body: Schemas['RankBody'] }) =>
    take(api.POST('/api/lineup/runs/{job_id}/ranking', { params: { path: { job_id: id } }, body })),
  (answer, wish) => {
    ranked.value = answer.rankings
    rankedBy.value = wish.body
    refused.value = ''
  },
  (error) => (refused.value = error instanceof Error ? error.message : ''),
)
const body = computed<Schemas['RankBody']>(() => ({
  weights: lineup.weights,
  musts: lineup.musts,
  own: lineup.scored.map((o) => ({ ...o })),
  by_kind: lineup.byKind,
}))
const wantRanks = () => {
  if (lineup.runId) void ranks.want({ id: lineup.runId, body: body.value })
}
/** Totals follow a share that is dragged by themselves; what else the core says of them may wait until it rests. */
const wantSoon = useDebounceFn(wantRanks, 120, { maxWait: 500 })
watch([() => lineup.runId, body, () => lineup.run], () => void wantSoon(), { immediate: true })
const stale = computed(() => ranks.busy.value || rankedBy.value !== body.value)

const who = (key: string) => lineup.run!.candidates.find((c) => c.key === key)!
/** Total and parts by the weights as they stand on the bar, at once; criteria set aside count for none. */
function standing(group: Schemas['GroupRanking'], key: string) {
  const run = lineup.run!
  const row = run.points[run.measured.candidates.indexOf(key)]!
  const told = Object.entries(lineup.weights).filter(([k, w]) => w > 0 && !(k in group.ranking.aside))
  const whole = told.reduce((sum, [, w]) => sum + w, 0) || 1
  const parts = told.map(([k, w]): [string, number] => {
    const own = lineup.scored.find((o) => o.name === k)
    const points = own ? (own.points[key] ?? 0) : (row[run.measured.criteria.indexOf(k)] ?? 0)
    return [k, (w / whole) * points]
  })
  return { parts, total: parts.reduce((sum, [, p]) => sum + p, 0) }
}
/** In the order of the totals as they are now. */
const shown = computed(() =>
  (ranked.value ?? []).map((group) => {
    const rows = group.ranking.places
      .filter((p) => lineup.run?.measured.candidates.includes(p.candidate))
      .map((place) => ({ place, now: standing(group, place.candidate) }))
    rows.sort((a, b) => Number(!!a.place.out) - Number(!!b.place.out) || b.now.total - a.now.total)
    return { group, rows }
  }),
)
const open = ref('')
const names = (of: string[]) => of.map((c) => who(c)?.name ?? c).join(', ')
const asideWords = (aside: Record<string, string[]>) =>
  Object.entries(aside).map(
    ([key, of]) => `${lineup.labelOf(key)} is set aside for all: it cannot be told of ${names(of)}.`,
  )
const PRESETS = computed(() => Object.keys(lineup.info?.presets ?? {}))

const said = ref('')
/** The line-up to hand on, as one file. */
const report = (form: 'html' | 'pdf' | 'csv') =>
  desk.attempt(async () => {
    said.value = ''
    const file = await takeFile(`/api/lineup/runs/${lineup.runId}/report`, {
      ...body.value,
      verdict: lineup.verdict,
      families: lineup.families,
      conditions: guided.words,
      form,
    })
    giveFile(file, `Line-up.${form}`)
    said.value = `Line-up.${form} is in your downloads.`
  })

const called = ref('')
const keep = () =>
  desk.attempt(async () => {
    const params = { path: { job_id: lineup.runId } }
    const asked = { ...body.value, name: called.value.trim(), verdict: lineup.verdict, families: lineup.families }
    const head = await take(api.POST('/api/lineup/runs/{job_id}/keep', { params, body: asked }))
    lineup.kept = [head, ...lineup.kept]
    lineup.keptAs = head.id
    called.value = ''
    said.value = `“${head.name}” is kept.`
  })
</script>

<template>
  <div class="rank">
    <div class="row presets" role="group" aria-label="What counts for">
      <button
        v-for="name in PRESETS"
        :key="name"
        type="button"
        class="plain-button"
        :aria-pressed="lineup.presetNow === name"
        @click="lineup.preset(name)"
      >
        {{ name }}
      </button>
      <ElCheckbox v-model="lineup.byKind" label="by kind of pen" />
    </div>
    <ShareBar />
    <MovedSince v-if="lineup.moved" v-bind="lineup.moved" />
    <p v-if="!lineup.run" class="book first">
      Choose pens and measure them: each is tried on the same writing, and ranked by what counts for you.
    </p>
    <p v-if="refused" class="harm" role="alert">{{ refused }}</p>
    <template v-for="{ group, rows } in shown" :key="group.group">
      <h2 v-if="group.group" class="book">{{ group.group }}</h2>
      <p v-if="group.refused" class="small">{{ group.refused }}</p>
      <ol :class="{ stale }" :aria-label="`Ranking ${group.group}`">
        <RankRow
          v-for="({ place, now }, k) in rows"
          :key="place.candidate"
          :place
          :now
          :who="who(place.candidate)"
          :above="k ? who(rows[k - 1]!.place.candidate).name : undefined"
          :open="open === place.candidate"
          @open="open = open === place.candidate ? '' : place.candidate"
        />
      </ol>
      <p v-for="words in asideWords(group.ranking.aside)" :key="words" class="small">{{ words }}</p>
      <label v-if="group.group" class="small verdict"
        >Your verdict on this family
        <ElInput
          :model-value="lineup.families[group.group] ?? ''"
          type="textarea"
          :rows="1"
          maxlength="4000"
          :aria-label="`Verdict on ${group.group}`"
          @update:model-value="(words: string) => (lineup.families = { ...lineup.families, [group.group]: words })"
        />
      </label>
      <PresetPlaces
        v-if="rows.length > 1"
        :presets="group.presets"
        :order="rows.map((r) => r.place.candidate).join('\n')"
      />
    </template>
    <GuidedRun />
    <template v-if="lineup.run">
      <p v-for="words in lineup.run.unequal" :key="words" class="small">Not the same for all: {{ words }}.</p>
      <OwnTerms :candidates="lineup.run.candidates" />
      <label class="small verdict"
        >Your verdict, for the report
        <ElInput v-model="lineup.verdict" type="textarea" :rows="2" maxlength="4000" aria-label="Your verdict" />
      </label>
      <div class="row">
        <DoWord :does="() => report('html')">Take out the report</DoWord>
        <DoWord :does="() => report('csv')">Every reading as a table</DoWord>
        <DoWord :does="() => report('pdf')">The report as PDF</DoWord>
        <span class="small" role="status">{{ said }}</span>
      </div>
      <form class="row" @submit.prevent="keep">
        <ElInput v-model="called" class="name" maxlength="60" aria-label="Name of the line-up" placeholder="its name" />
        <button type="submit" class="word-button" :disabled="!called.trim()">Keep this line-up</button>
      </form>
      <ParetoFront :id="lineup.runId" :run="lineup.run" />
    </template>
  </div>
</template>

<style scoped src="./lineup.css" />

<style scoped>
.rank {
  overflow-y: auto;
  padding: 0 4px 16px 0;
  scrollbar-width: thin;
}
.harm {
  color: var(--harm);
}
h2 {
  margin: 10px 0 0;
  font-size: 17px;
  font-style: italic;
  font-weight: 500;
}
ol {
  margin: 6px 0 8px;
  padding: 0;
  list-style: none;
}
.verdict {
  display: grid;
  max-width: 640px;
}
.verdict :deep(textarea) {
  padding: 8px 10px;
  border: var(--line) solid var(--edge);
  border-radius: var(--corner);
  background: none;
  color: inherit;
  font: inherit;
}
.name {
  width: 240px;
}
@media (max-width: 900px) {
  .rank {
    overflow: visible;
  }
}
</style>

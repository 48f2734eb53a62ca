<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { computed, ref, shallowRef } from 'vue'
import { api, take, type PenItem, type Schemas } from '@/api/client'
import { megabytes, when } from '@/lib/numbers'
import { useCabinet } from '@/stores/cabinet'
import { useDesk } from '@/stores/desk'
import { putAway, unkeptPens } from '@/stores/draft'

/** Backups as they lie, newest first; each can be checked, looked into, and gone back to. And what room all takes. */
const MOST_SAID = 40
const cabinet = useCabinet()
const desk = useDesk()
const backups = shallowRef<Schemas['BackupItem'][]>([])
const space = shallowRef<Schemas['Space']>()
const would = shallowRef<Schemas['Changes']>()
const busy = ref('')
const said = ref('')

async function during(words: string, work: () => Promise<void>) {
  busy.value = words
  await desk.attempt(work)
  busy.value = ''
}
const look = async () => {
  const [list, room] = await Promise.all([take(api.GET('/api/backups')), take(api.GET('/api/cabinet/space'))])
  backups.value = list.backups
  space.value = room
}
void desk.attempt(look)
const make = () =>
  during('copying and checking', async () => {
    backups.value = (await take(api.POST('/api/backups'))).backups
    await look()
  })
/** To the second where another was made in the same minute, and which of it where even that is the same. */
function exactly(at: string, name?: string) {
  if (backups.value.filter((b) => when(b.made_at) === when(at)).length < 2) return when(at)
  const second = backups.value.filter((b) => b.made_at.slice(0, 19) === at.slice(0, 19)).map((b) => b.name)
  const which = second.length > 1 && name ? `, the ${second.length - second.indexOf(name)}. of it` : ''
  return `${when(at)}:${at.slice(17, 19)}${which}`
}
/** Pens of which changes that are not kept still lie over what was gone back to. */
const laidOver = shallowRef<PenItem[]>([])
function letThemGo() {
  putAway(laidOver.value)
  laidOver.value = []
}
const path = (name: string) => ({ params: { path: { name } } })
const check = (name: string) =>
  during('checking it', async () => {
    const now = await take(api.POST('/api/backups/{name}/check', path(name)))
    backups.value = backups.value.map((b) => (b.name === name ? now : b))
  })
const lookInto = (name: string) =>
  during('laying it beside what is here', async () => {
    said.value = ''
    would.value = await take(api.GET('/api/backups/{name}/changes', path(name)))
  })
const back = () =>
  during('going back', async () => {
    const told = await take(api.POST('/api/backups/{name}/back', path(would.value!.backup)))
    const then = would.value!.made_at
    would.value = undefined
    await desk.load()
    cabinet.look()
    await look()
    const before = backups.value.find((b) => b.name === told.kept)
    said.value =
      `All that is kept is as it was on ${exactly(then)}. What was here before is ` +
      (before ? `the backup of ${exactly(before.made_at, before.name)}.` : 'a backup of its own.')
    laidOver.value = unkeptPens(desk.desk?.pens ?? [])
  })
const SAID: Record<string, [string, string]> = {
  'comes back': ['comes back', 'come back'],
  goes: ['goes', 'go'],
  'is as it was then': ['is as it was then', 'are as they were then'],
}
const ways = computed(() =>
  Object.entries(SAID)
    .map(([way, [one, many]]) => {
      const some = would.value?.changes.filter((c) => c.way === way) ?? []
      return { way, some, words: `${some.length} ${some.length === 1 ? one : many}` }
    })
    .filter((w) => w.some.length),
)
const named = (of: Schemas['Otherwise'][]) =>
  of
    .slice(0, MOST_SAID)
    .map((c) => `${c.kind} ${c.name}${c.binned ? ' (in the bin)' : ''}`)
    .join(', ') + (of.length > MOST_SAID ? ` and ${of.length - MOST_SAID} more` : '')
</script>

<template>
  <div class="backups">
    <div class="row">
      <DoWord class="strong" :disabled="!!busy" :does="make">Make a backup now</DoWord>
      <span class="small" role="status">{{ busy || said }}</span>
    </div>
    <p v-if="laidOver.length" class="row" role="status">
      Changes that you have not kept still lie over {{ laidOver.map((p) => p.recipe.name).join(', ') }}.
      <button type="button" class="word-button" @click="letThemGo">Put them away</button>
    </p>
    <section v-if="would" class="card" aria-label="What going back would change">
      <h2 class="book">Back to {{ exactly(would.made_at, would.backup) }}</h2>
      <p v-if="!would.changes.length">Nothing is otherwise than it was then.</p>
      <p v-for="w in ways" :key="w.way">
        <b>{{ w.words }}:</b> {{ named(w.some) }}.
      </p>
      <p class="small">What is here now is kept as a backup of its own first.</p>
      <div class="row">
        <DoWord v-if="would.changes.length" class="strong" :disabled="!!busy" :does="back"> Go back </DoWord>
        <button type="button" class="word-button" @click="would = undefined">Stay here</button>
      </div>
    </section>
    <p v-if="!backups.length" class="book first">No backup yet. One is made each day Gray Quill is started.</p>
    <div class="wide">
      <table v-if="backups.length" class="small" aria-label="Backups">
        <thead>
          <tr>
            <th scope="col">made</th>
            <th scope="col">size</th>
            <th scope="col">what it holds</th>
            <td />
          </tr>
        </thead>
        <tbody>
          <tr v-for="b in backups" :key="b.name">
            <th scope="row">{{ exactly(b.made_at, b.name) }}</th>
            <td>{{ megabytes(b.bytes) }}</td>
            <td :class="{ harm: b.good === false }">{{ b.holds || 'checked as it was made' }}</td>
            <td class="acts">
              <button type="button" class="plain-button" :disabled="!!busy" @click="check(b.name)">check</button>
              <button type="button" class="plain-button" :disabled="!!busy" @click="lookInto(b.name)">
                back to then …
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <template v-if="space">
      <h2 class="book">Where it lies</h2>
      <p class="small folder">{{ space.folder }}</p>
      <table class="small" aria-label="Room taken">
        <tbody>
          <tr>
            <th scope="row">the database</th>
            <td>{{ megabytes(space.database) }}</td>
          </tr>
          <tr v-for="(bytes, what) in space.held" :key="what">
            <th scope="row">of it {{ what }}</th>
            <td>{{ megabytes(bytes) }}</td>
          </tr>
          <tr>
            <th scope="row">backups</th>
            <td>{{ megabytes(space.backups) }}</td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped>
.backups {
  overflow-y: auto;
  padding-bottom: 16px;
}
.row {
  display: flex;
  gap: 14px;
  align-items: center;
  min-height: 52px;
}
.card {
  max-width: 820px;
  padding: 10px 16px;
  border-color: var(--ink);
}
h2 {
  margin: 10px 0 4px;
  font-size: 17px;
  font-style: italic;
  font-weight: 500;
}
.first {
  font-style: italic;
}
.wide {
  overflow-x: auto;
}
table {
  border-collapse: collapse;
}
th {
  font-weight: 400;
  text-align: left;
  white-space: nowrap;
}
th,
td {
  padding: 0 24px 0 0;
  border-top: var(--line) solid var(--rule);
}
.acts {
  white-space: nowrap;
}
.acts button {
  margin-right: 16px;
}
.harm {
  color: var(--harm);
}
.folder {
  overflow-wrap: anywhere;
}
@media (max-width: 560px) {
  .wide thead {
    display: none;
  }
  .wide tr {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 0 16px;
    border-top: var(--line) solid var(--rule);
  }
  .wide th,
  .wide td {
    padding: 0;
    border: 0;
  }
}
@media (max-width: 900px) {
  .backups {
    overflow: visible;
  }
}
</style>

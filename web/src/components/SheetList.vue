<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { computed, ref, shallowRef } from 'vue'
import { api, take, type SheetItem } from '@/api/client'
import KeptInput from '@/components/KeptInput.vue'
import { pagePicture } from '@/lib/page-picture'
import { useDesk } from '@/stores/desk'
import { useBeside } from '@/stores/beside'
import { usePages } from '@/stores/pages'

/** The sheets with their ink, to open, name, note, and put into the bin or back. */
const props = defineProps<{ search: string }>()
const emit = defineEmits<{ open: [sheaf: string]; close: [] }>()
const desk = useDesk()
const pages = usePages()
const beside = useBeside()
const editing = ref<string>()
const binned = shallowRef<SheetItem[]>()
/** Sheets, each by its first page, those written on last first; found by name, note and bookmarks. */
const found = computed(() => {
  const sheets = new Map<string, SheetItem[]>()
  for (const page of desk.desk?.sheets ?? []) sheets.set(page.sheaf, [...(sheets.get(page.sheaf) ?? []), page])
  const words = props.search.trim().toLowerCase()
  return [...sheets.values()]
    .map((pages) => pages.sort((a, b) => a.page - b.page))
    .filter((pages) => pages.some((s) => `${s.name} ${s.note} ${s.bookmark}`.toLowerCase().includes(words)))
    .map((pages) => ({ ...pages[0]!, strokes: pages.reduce((sum, p) => sum + p.strokes, 0) }))
})
function layBeside(id: string) {
  beside.lay(id)
  emit('close')
}
const counted = (n: number) => `${n} ${n === 1 ? 'stroke' : 'strokes'}`

const bin = (s: SheetItem, binning: boolean) =>
  desk.attempt(async () => {
    const params = { path: { sheet_id: s.id } }
    const moved = await take(api.PUT('/api/sheets/{sheet_id}/bin', { params, body: { binned: binning } }))
    if (binning) await desk.dropSheet(s.sheaf)
    else {
      await desk.load() // with its hand and device, which may have lain there too
      await pages.look(moved.id)
    }
    if (binned.value || !binning) await showBin()
  })
async function showBin() {
  binned.value = (await take(api.GET('/api/bin/sheets'))).sheets
}
</script>

<template>
  <div class="list">
    <div v-for="s in found" :key="s.id" class="sheet" :class="{ now: s.sheaf === desk.sheet?.sheaf }">
      <button type="button" class="open" @click="emit('open', s.sheaf)">
        <img :key="`${s.id} ${s.ink} ${s.version}`" :src="pagePicture(s)" alt="" loading="lazy" />
        <span
          ><b>{{ s.name }}</b
          ><span class="small"
            >{{ s.pages > 1 ? `${s.pages} pages, ` : '' }}{{ counted(s.strokes) }}, {{ s.paper_words }}</span
          ><span v-if="s.note" class="small book">{{ s.note }}</span></span
        >
      </button>
      <button
        type="button"
        class="plain-button small"
        :aria-expanded="editing === s.id"
        :aria-label="`Name and note of ${s.name}`"
        @click="editing = editing === s.id ? undefined : s.id"
      >
        name, note
      </button>
      <div v-if="editing === s.id" class="edit">
        <label class="small"
          >Name
          <KeptInput
            :value="s.name"
            needed
            maxlength="80"
            aria-label="Name of the sheet"
            @change="(name: string) => desk.changeSheet({ name }, s)"
        /></label>
        <label class="small"
          >Note
          <KeptInput
            :value="s.note"
            maxlength="200"
            aria-label="Note on the sheet"
            @change="(note: string) => desk.changeSheet({ note }, s)"
        /></label>
        <button v-if="s.sheaf !== desk.sheet?.sheaf" type="button" class="word-button" @click="layBeside(s.id)">
          Lay it beside
        </button>
        <DoWord :does="() => bin(s, true)">Move to the bin</DoWord>
      </div>
    </div>
    <button type="button" class="plain-button small" @click="binned ? (binned = undefined) : showBin()">The bin</button>
    <p v-if="binned && !binned.length" class="small">The bin is empty.</p>
    <p v-for="s in binned" :key="s.id" class="binned">
      {{ s.name }} <span class="small">{{ counted(s.strokes) }}</span>
      <button type="button" class="plain-button" @click="bin(s, false)">put back</button>
    </p>
  </div>
</template>

<style scoped>
.list {
  display: grid;
  margin-bottom: 12px;
}
.sheet {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  border-top: var(--line) solid var(--rule);
}
.sheet.now {
  box-shadow: inset 4px 0 0 var(--accent);
}
:root[data-surface='e-ink'] .sheet.now {
  border-left: 6px solid var(--ink);
}
.open {
  display: flex;
  align-items: center;
  gap: 16px;
  min-height: 72px;
  padding: 6px 10px;
  text-align: left;
}
.open:hover {
  background: var(--accent-soft);
}
.open > span {
  display: grid;
}
img {
  width: 62px;
  height: 62px;
  object-fit: contain;
  flex: none;
}
b {
  font-weight: 650;
}
.edit {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
  padding: 4px 10px 12px;
}
.edit label {
  display: grid;
  flex: 1 1 180px;
}
.binned {
  display: flex;
  gap: 14px;
  align-items: center;
}
</style>

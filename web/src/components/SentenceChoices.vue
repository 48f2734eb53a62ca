<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { ElInput } from 'element-plus'
import { computed, defineAsyncComponent, ref, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'
import type { Schemas } from '@/api/client'
import { useBringIn } from '@/composables/use-files'
import { usePopover } from '@/composables/use-popover'
import { FILES, useBringIn as useComing } from '@/stores/bring-in'
import { useDesk } from '@/stores/desk'
import { useLag } from '@/stores/lag'
import { usePages } from '@/stores/pages'
import DeviceOutline from './DeviceOutline.vue'
import LayerChoices from './LayerChoices.vue'
import PaperSwatch from './PaperSwatch.vue'
import PenSwatch from './PenSwatch.vue'
import SheetList from './SheetList.vue'
import type { Part } from './TheSentence.vue'
import WordTabs from './WordTabs.vue'

// come when they are opened
const HandForm = defineAsyncComponent(() => import('./HandForm.vue'))
const PageChoices = defineAsyncComponent(() => import('./PageChoices.vue'))
const PaperForm = defineAsyncComponent(() => import('./PaperForm.vue'))
const TableMeaning = defineAsyncComponent(() => import('./TableMeaning.vue'))
const UnderlayForm = defineAsyncComponent(() => import('./UnderlayForm.vue'))
const props = defineProps<{ part: Part }>()
const emit = defineEmits<{ close: []; turn: [part: Part] }>()
const root = useTemplateRef<HTMLElement>('root')
usePopover(root, () => emit('close'))
const desk = useDesk()
const router = useRouter()
const search = ref('')
const making = ref(false)
/** What of the page is chosen: its ruling, all of its paper in numbers, or what is printed under the ink. */
const OF_PAPER = { kinds: 'Ruling', form: 'Size, spacing and colour', prints: 'Pictures under the ink' } as const
const ofPaper = ref<keyof typeof OF_PAPER>(useDesk().sheet?.prints?.length ? 'prints' : 'kinds')
const TITLES: Record<Part, string> = {
  sheet: 'Which sheet',
  pen: 'Which pen',
  hand: 'Whose hand',
  device: 'On what',
  paper: 'On which paper',
  layers: 'On which layer',
  pages: 'Which page',
}

const found = (words: string) => words.toLowerCase().includes(search.value.trim().toLowerCase())
const pens = computed(() => (desk.desk?.pens ?? []).filter((p) => found(`${p.recipe.name} ${p.recipe.kind}`)))
const hands = computed(() => (desk.desk?.hands ?? []).filter((h) => found(h.hand.name)))
const devices = computed(() => (desk.desk?.devices ?? []).filter((d) => found(d.device.name)))
const papers = computed(() => Object.keys(desk.desk?.stationery ?? {}).filter(found))
const own = computed(() => (desk.desk?.papers ?? []).filter((p) => found(p.name)))
const letGo = (name: string) =>
  desk.attempt(() => desk.keepDesk({ papers: desk.desk!.papers.filter((p) => p.name !== name) }))
const paperOf = (name: string): Schemas['Paper'] => {
  const now = desk.sheet!.paper
  const set = desk.desk!.stationery[name]!
  return { ...now, spacing_mm: 5, weight_mm: 0.2, margin_mm: 0, ...set } as Schemas['Paper']
}

/** Whether the sheet lies on this paper: the same ruling, spacing and margin line. */
const isNow = (name: string) => {
  const [now, set] = [desk.sheet!.paper, paperOf(name)]
  return (['ruling', 'spacing_mm', 'margin_mm'] as const).every((k) => now[k] === set[k])
}

/** Which pages a paper is for. */
const reach = ref<Schemas['SheetChange']['reach']>('page')
const REACHES = { page: 'this page', on: 'from here on', all: 'all pages' } as const

async function choose(change: Partial<Schemas['SheetChange']>) {
  await desk.changeSheet(change)
  if (!desk.trouble) emit('close')
}

/** A device is added by measuring it: write in the live field of Lag, look at what it reports, keep it. */
function measure() {
  useLag().inspected = 'here'
  void router.push('/lag')
  emit('close')
}

async function open(sheaf: string) {
  await usePages().openSheet(sheaf)
  emit('close')
}

async function putDown(kind: 'free' | 'test' | 'strip') {
  await desk.putDown(kind)
  if (!desk.trouble) emit('close')
}

const coming = useComing()
const bringIn = useBringIn('Ink, PDF, a picture or an archive', FILES, async (file) => {
  if (await coming.bring(file)) emit('close')
})
</script>

<template>
  <section ref="root" class="choices card" :aria-label="TITLES[props.part]" tabindex="-1">
    <div class="head">
      <h2 class="book">{{ TITLES[part] }}</h2>
      <ElInput
        v-if="part !== 'layers' && part !== 'pages' && (part !== 'paper' || ofPaper === 'kinds')"
        v-model="search"
        placeholder="Find by name"
        aria-label="Find by name"
        clearable
        style="width: 220px"
      />
    </div>

    <p v-if="desk.trouble" class="harm" role="alert">{{ desk.trouble }}</p>
    <LayerChoices v-if="part === 'layers'" />
    <PageChoices v-else-if="part === 'pages'" @close="emit('close')" />
    <TableMeaning v-else-if="part === 'sheet' && coming.table" @close="emit('close')" />
    <SheetList v-else-if="part === 'sheet'" :search="search" @open="open" @close="emit('close')" />
    <div v-else-if="part === 'pen'" class="grid">
      <button
        v-for="p in pens"
        :key="p.id"
        type="button"
        class="tile"
        :class="{ now: p.id === desk.sheet?.pen_id }"
        @click="choose({ pen_id: p.id })"
      >
        <PenSwatch :pen="p" /><b>{{ p.recipe.name }}</b
        ><span class="small">{{ p.recipe.kind }}</span>
      </button>
    </div>
    <div v-else-if="part === 'hand'" class="list">
      <button
        v-for="h in hands"
        :key="h.id"
        type="button"
        class="row"
        :class="{ now: h.id === desk.sheet?.hand_id }"
        @click="choose({ hand_id: h.id })"
      >
        <span
          ><b>{{ h.hand.name }}</b>
          <span class="small"
            >{{ h.hand.x_height_mm }} mm letters, {{ h.hand.speed_mm_s }} mm/s, force
            {{ Math.round(h.hand.force * 100) }} %, pen at {{ h.hand.altitude_deg }} degrees</span
          ></span
        >
      </button>
    </div>
    <div v-else-if="part === 'device'" class="grid">
      <button
        v-for="d in devices"
        :key="d.id"
        type="button"
        class="tile"
        :class="{ now: d.id === desk.sheet?.device_id }"
        @click="choose({ device_id: d.id })"
      >
        <DeviceOutline :device="d.device" /><b>{{ d.device.name }}</b>
        <span class="small">{{ d.device.panel.ppi }} px/inch, {{ d.device.digitiser.report_hz }} reports/s</span>
      </button>
    </div>
    <template v-else>
      <WordTabs v-model="ofPaper" :tabs="OF_PAPER" label="What of the page" />
      <WordTabs
        v-if="desk.sheet!.pages > 1 && ofPaper !== 'prints'"
        v-model="reach"
        :tabs="REACHES"
        label="For which pages"
      />
      <UnderlayForm v-if="ofPaper === 'prints'" @close="emit('close')" />
      <PaperForm
        v-else-if="ofPaper === 'form'"
        :paper="desk.sheet!.paper"
        @change="(paper) => desk.changeSheet({ paper, reach })"
      />
    </template>
    <div v-if="part === 'paper' && ofPaper === 'kinds'" class="grid">
      <div v-for="p in own" :key="p.name" class="tile own">
        <button
          type="button"
          :aria-label="`Paper ${p.name}`"
          @click="choose({ paper: p.paper, reach, ...(p.prints?.length && { prints: p.prints }) })"
        >
          <img
            v-if="p.prints?.length"
            :src="`/api/papers/own.png?name=${encodeURIComponent(p.name)}`"
            alt=""
            width="62"
            height="80"
          />
          <PaperSwatch v-else :paper="p.paper" :width="62" :height="80" /><b>{{ p.name }}</b>
        </button>
        <button type="button" class="plain-button small" @click="letGo(p.name)">let it go</button>
      </div>
      <button
        v-for="name in papers"
        :key="name"
        type="button"
        class="tile"
        :class="{ now: isNow(name) }"
        @click="choose({ paper: paperOf(name), reach })"
      >
        <PaperSwatch :paper="paperOf(name)" :width="62" :height="80" /><b>{{ name }}</b>
      </button>
    </div>

    <div v-if="part === 'sheet' && !coming.table" class="foot">
      <DoWord class="strong" :does="() => putDown('free')">Put down a new sheet</DoWord>
      <button type="button" class="word-button" @click="emit('turn', 'pages')">Pages of this sheet</button>
      <DoWord :does="() => putDown('test')">New test sheet</DoWord>
      <DoWord :does="() => putDown('strip')">New force strip</DoWord>
      <button type="button" class="word-button" @click="bringIn">Bring in a file</button>
    </div>
    <p v-if="part === 'sheet'" class="small">
      A new sheet starts with the pen last used: {{ desk.pen?.recipe.name }}. Files that come in: InkML, SVG and tables
      as ink; PDF, PNG, JPEG and OpenRaster as paper under it; archives.
    </p>
    <div v-if="part === 'device'" class="foot">
      <button type="button" class="word-button strong" @click="measure">Measure this screen and pen</button>
    </div>
    <template v-if="part === 'hand'">
      <button v-if="!making" type="button" class="word-button" @click="making = true">New hand</button>
      <HandForm v-else @made="(id) => choose({ hand_id: id })" />
    </template>
  </section>
</template>

<style scoped>
.choices {
  position: absolute;
  z-index: 20;
  top: calc(100% - 4px);
  left: 28px;
  width: 640px;
  max-width: calc(100vw - 56px);
  max-height: calc(100vh - 160px);
  overflow: auto;
  padding: 12px 20px 16px;
  border-color: var(--ink);
}

.head {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin-bottom: 8px;
}
h2 {
  font-size: 17px;
  font-style: italic;
  font-weight: 500;
}
.list {
  display: grid;
  margin-bottom: 12px;
}
.row {
  display: flex;
  align-items: center;
  gap: 16px;
  min-height: 56px;
  padding: 4px 8px;
  text-align: left;
  border-top: var(--line) solid var(--rule);
}
.row span {
  display: grid;
}
.row:hover,
.tile:hover {
  background: var(--accent-soft);
}
.now {
  box-shadow: inset 4px 0 0 var(--accent);
}
:root[data-surface='e-ink'] .now {
  border-left: 6px solid var(--ink);
}
b {
  font-weight: 650;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(138px, 1fr));
  gap: 8px;
  margin-bottom: 12px;
}
.tile {
  display: grid;
  justify-items: center;
  align-content: end;
  gap: 2px;
  min-height: 88px;
  padding: 8px;
  border: var(--line) solid var(--rule);
  text-align: center;
}
.own button:first-child {
  display: grid;
  justify-items: center;
}
/* always in view, however many sheets there are */
.foot {
  position: sticky;
  bottom: -16px;
  padding: 8px 0 16px;
  background: var(--card);
  display: flex;
  gap: 12px;
  flex-wrap: wrap;
}
.file {
  display: inline-flex;
  align-items: center;
  cursor: pointer;
}
.file:focus-within {
  outline: 3px solid var(--accent);
  outline-offset: 2px;
}
p {
  margin-top: 8px;
}
.harm {
  color: var(--harm);
}
</style>

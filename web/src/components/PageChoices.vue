<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import OnOff from '@/components/OnOff.vue'
import { computed, ref, shallowRef, useTemplateRef } from 'vue'
import { useRouter } from 'vue-router'
import { api, take, type Box, type Schemas, type SheetItem } from '@/api/client'
import KeptInput from '@/components/KeptInput.vue'
import UnderlayLinks from '@/components/UnderlayLinks.vue'
import { useDragOrder, withMoved } from '@/composables/use-drag-order'
import { pagePicture } from '@/lib/page-picture'
import { useDesk } from '@/stores/desk'
import { useBeside } from '@/stores/beside'
import { usePages } from '@/stores/pages'
import { useReplay } from '@/stores/replay'
import { useStrip } from '@/stores/strip'

/** The pages of the sheet as they look: going to one, ordering by dragging, and what can be done with the one there. */
const emit = defineEmits<{ close: [] }>()
const desk = useDesk()
const pages = usePages()
const router = useRouter()
const holder = useTemplateRef<HTMLElement>('holder')
const bin = ref(false)
const marked = ref(false)
const shown = computed(() => pages.pages.filter((p) => !marked.value || p.bookmark))
const now = computed(() => desk.sheet)
void pages.look()

const order = useDragOrder(holder, (id, to) => {
  const ids = pages.pages.map((p) => p.id)
  void pages.order(withMoved(ids, id, to))
})
async function open(page: SheetItem) {
  if (order.dragged()) return
  await pages.open(page.id)
  emit('close')
}
const add = async (copy: boolean) => {
  if (now.value) await pages.add(now.value, copy)
  if (!copy) emit('close')
}
/** Marked passages and the notes of the same wash, each as it looks. */
const marking = ref(false)
const marks = shallowRef<Schemas['MarkOn'][]>()
const look = () =>
  desk.attempt(async () => {
    marking.value = !marking.value
    const params = { path: { sheet_id: now.value!.id } }
    if (marking.value) marks.value = (await take(api.GET('/api/sheets/{sheet_id}/marks', { params }))).marks
  })
const PX_PER_MM = 4
function markPicture({ page_id, mark }: Schemas['MarkOn']) {
  const [left, top, right, bottom] = mark.box_mm as Box
  const box = `left=${Math.max(0, left)}&top=${Math.max(0, top)}&right=${right}&bottom=${bottom}`
  return `/api/sheets/${page_id}/page.png?scale=${PX_PER_MM}&${box}`
}
async function goTo(m: Schemas['MarkOn']) {
  await pages.show(m.page_id, m.mark.box_mm as Box)
  emit('close')
}
/** This page stays in sight, beside the one that is gone to next. */
const beside = useBeside()
/** The page is seen coming about, or written on in the strip; both are on the sheet. */
async function replayed() {
  await router.push('/sheet')
  await useReplay().open()
  emit('close')
}
async function small() {
  await router.push('/sheet')
  useStrip().on = true
  emit('close')
}
const bookmark = (words: string) => desk.changeSheet({ bookmark: words.trim() })
</script>

<template>
  <div class="foot">
    <DoWord class="strong" :does="() => add(false)">New page</DoWord>
    <DoWord :does="() => add(true)">Copy this page</DoWord>
    <DoWord :does="() => now && pages.turn(now)">Turn it</DoWord>
    <DoWord :disabled="pages.pages.length < 2" :does="() => now && pages.bin(now, true)"> Move it to the bin </DoWord>
    <button v-if="pages.pages.length > 1" type="button" class="word-button" @click="now && beside.lay(now.id)">
      Keep it beside
    </button>
    <button v-if="now?.strokes" type="button" class="word-button" @click="replayed">Replay it</button>
    <button type="button" class="word-button" @click="small">Small writing on it</button>
  </div>
  <div class="marks">
    <label class="small"
      >Bookmark of page {{ now?.page }}
      <KeptInput
        :value="now?.bookmark"
        maxlength="60"
        placeholder="none"
        aria-label="Bookmark of this page"
        @change="bookmark"
    /></label>
    <OnOff class="small" :model-value="marking" @update:model-value="look">marked passages</OnOff>
    <OnOff v-if="pages.pages.some((p) => p.bookmark)" v-model="marked" class="small">bookmarked only</OnOff>
  </div>
  <div v-if="marking" class="list" aria-label="Marks">
    <p v-if="marks && !marks.length" class="small">Nothing is marked with a wash on these pages yet.</p>
    <button v-for="(m, k) in marks" :key="k" type="button" class="mark" @click="goTo(m)">
      <i :style="{ background: m.mark.colour }" />
      <img :src="markPicture(m)" alt="" loading="lazy" />
      <span class="small">page {{ m.page }}, {{ m.mark.name }}</span>
    </button>
  </div>
  <div v-show="!marking" ref="holder" class="pages" aria-label="Pages">
    <button
      v-for="p in shown"
      :key="p.id"
      type="button"
      class="one"
      :class="{ now: p.id === now?.id, carried: order.carried(p.id) }"
      :aria-current="p.id === now?.id ? 'page' : undefined"
      v-bind="order.of(p.id, p.page - 1)"
      @click="open(p)"
    >
      <img :key="`${p.id} ${p.ink} ${p.version}`" :src="pagePicture(p)" alt="" loading="lazy" draggable="false" />
      <span>{{ p.page }}</span>
      <span v-if="p.bookmark" class="small book">{{ p.bookmark }}</span>
    </button>
  </div>
  <p v-if="!marking" class="small">Drag a page to its place, or move it with Shift and the arrow keys.</p>
  <UnderlayLinks v-if="!marking" @close="emit('close')" />
  <button v-if="pages.binned.length" type="button" class="plain-button small" @click="bin = !bin">
    {{ bin ? 'Close the bin of this sheet' : `${pages.binned.length} in the bin of this sheet` }}
  </button>
  <div v-if="bin && pages.binned.length" class="pages">
    <button v-for="p in pages.binned" :key="p.id" type="button" class="one" @click="pages.bin(p, false)">
      <img :src="pagePicture(p)" alt="" loading="lazy" /><span class="small">put back</span>
    </button>
  </div>
</template>

<style scoped>
.foot {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  margin-bottom: 8px;
}
.marks {
  display: flex;
  flex-wrap: wrap;
  gap: 16px;
  align-items: end;
  margin-bottom: 8px;
}
.marks label {
  display: grid;
  flex: 0 1 300px;
}
.pages {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(104px, 1fr));
  gap: 8px;
  margin-bottom: 8px;
}
.list {
  display: grid;
  margin-bottom: 8px;
}
.mark {
  display: flex;
  gap: 12px;
  align-items: center;
  min-height: var(--target);
  padding: 4px 0;
  border-top: var(--line) solid var(--rule);
  text-align: left;
}
.mark:hover {
  background: var(--accent-soft);
}
.mark i {
  flex: none;
  width: 16px;
  height: 16px;
  border: var(--line) solid var(--edge);
}
.mark img {
  width: auto;
  height: auto;
  max-width: 380px;
  max-height: 64px;
  border: 0;
}
.one {
  display: grid;
  justify-items: center;
  align-content: start;
  min-height: 132px;
  padding: 6px;
  border: var(--line) solid var(--rule);
  text-align: center;
  touch-action: pan-y;
}
.one:hover {
  background: var(--accent-soft);
}
.one.now {
  box-shadow: inset 0 -4px 0 var(--accent);
}
:root[data-surface='e-ink'] .one.now {
  border: 4px solid var(--ink);
}
.one.carried {
  opacity: 0.5;
}
img {
  height: 96px;
  max-width: 100%;
  object-fit: contain;
  border: var(--line) solid var(--rule);
}
</style>

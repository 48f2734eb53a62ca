<script setup lang="ts">
import { useDebounceFn, useEventListener, useResizeObserver } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import HandWriter from '@/components/HandWriter.vue'
import LeaderLines from '@/components/LeaderLines.vue'
import NumberedWords from '@/components/NumberedWords.vue'
import ReadingNote from '@/components/ReadingNote.vue'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useInk } from '@/stores/ink'
import PageView from './PageView.vue'

/** Notes the margin shows, and the kind of place on the ink each one's line ends at. */
const NOTES: [key: string, anchor?: string][] = [
  ['light and firm', 'width'],
  ['drag', 'trail'],
  ['tips', 'tips'],
  ['force'],
  ['wobble'],
]
const desk = useDesk()
const ink = useInk()
const view = useTemplateRef<InstanceType<typeof PageView>>('view')
const root = useTemplateRef<HTMLElement>('root')
const margin = useTemplateRef<HTMLElement>('margin')
const prompts = ref<Schemas['Prompt'][]>([])
const read = shallowRef<Schemas['ReadReply']>()
const before = shallowRef<Schemas['Note'][]>([])
const lines = ref<{ x0: number; y0: number; x1: number; y1: number }[]>([])

const sheets = useLatest(
  (id: string) => take(api.GET('/api/sheets/{sheet_id}', { params: { path: { sheet_id: id } } })),
  (detail) => {
    prompts.value = detail.prompts
    desk.replaceSheet(detail.sheet)
  },
)
const reads = useLatest(
  (id: string) => take(api.GET('/api/sheets/{sheet_id}/readings', { params: { path: { sheet_id: id } } })),
  (answer) => {
    if (read.value?.strokes) before.value = read.value.notes
    read.value = answer
    setTimeout(drawLines)
  },
)
watch(
  () => desk.sheet?.id,
  (id) => {
    read.value = undefined
    before.value = []
    lines.value = []
    prompts.value = []
    ink.startSheet()
    sheets.forget()
    reads.forget()
    if (!id) return
    void sheets.want(id)
    void reads.want(id)
  },
  { immediate: true },
)
const readSoon = useDebounceFn(() => desk.sheet && void reads.want(desk.sheet.id), 350)

const notes = computed(() =>
  NOTES.flatMap(([key, anchor]) => {
    const note = read.value?.notes.find((n) => n.key === key)
    if (!note) return []
    const old = before.value.find((n) => n.key === key)
    return [{ note, anchor, was: old && old.words !== note.words ? `was ${old.words}` : '' }]
  }),
)
const reports = computed(() => read.value?.notes.find((n) => n.key === 'reports')?.words)

const drawLinesSoon = () => setTimeout(drawLines)

function drawLines() {
  const frame = root.value?.getBoundingClientRect()
  lines.value = []
  // a margin below the page is too far for lines
  if (!frame || !margin.value || !read.value || !view.value || margin.value.offsetTop > 200) return
  for (const note of margin.value.querySelectorAll<HTMLElement>('[data-anchor]')) {
    const place = note.getBoundingClientRect()
    const y0 = place.top + 12
    const seen = (read.value.anchors[note.dataset.anchor!] ?? [])
      .map(([x, y]) => view.value!.onScreen([x!, y!]))
      .filter((p) => !!p)
    if (!seen.length || y0 < frame.top || y0 > frame.bottom) continue
    const noteIsRight = place.left > seen[0]!.x
    const x0 = noteIsRight ? place.left - 6 : place.right + 6
    if (noteIsRight ? seen[0]!.x > x0 : seen[0]!.x < x0) continue
    const far = (p: { x: number; y: number }) => Math.hypot(p.x - x0, 3 * (p.y - y0))
    const at = seen.reduce((best, p) => (far(p) < far(best) ? p : best))
    lines.value.push({ x0: x0 - frame.left, y0: y0 - frame.top, x1: at.x - frame.left, y1: at.y - frame.top })
  }
}
useResizeObserver(root, drawLines)
onMounted(drawLines)

const undo = () => desk.sheet && desk.attempt(() => ink.undo(desk.sheet!.id))
const redo = () => desk.sheet && desk.attempt(() => ink.redo(desk.sheet!.id))
useEventListener('keydown', (event: KeyboardEvent) => {
  if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'z') return
  if (event.target instanceof HTMLElement && event.target.closest('input, textarea')) return
  event.preventDefault()
  void (event.shiftKey ? redo() : undo())
})
</script>

<template>
  <section ref="root" class="station" :class="desk.stationSide">
    <PageView ref="view" :prompts="prompts" @settled="readSoon" @moved="drawLines" />
    <aside ref="margin" class="margin" aria-label="Readings" @scroll="drawLines" @click="drawLinesSoon">
      <div class="steps">
        <button type="button" class="word-button" :disabled="!ink.undoable.length" @click="undo">Undo</button>
        <button type="button" class="word-button" :disabled="!ink.redoable.length" @click="redo">Redo</button>
      </div>
      <div v-if="read?.strokes" class="notes" :class="{ stale: reads.busy.value }">
        <ReadingNote
          v-for="{ note, anchor, was } in notes"
          :key="note.key"
          :data-anchor="anchor"
          :title="note.title"
          :help="note.help"
          :tone="note.attention ? 'attention' : 'plain'"
        >
          <p><NumberedWords :words="note.words" /></p>
          <p v-if="note.more" class="small">{{ note.more }}</p>
          <p v-if="was" class="small">{{ was }}</p>
        </ReadingNote>
        <p v-if="read.bare" class="small harm">
          {{ read.bare }} {{ read.bare === 1 ? 'stroke' : 'strokes' }} cannot be drawn by the pen that wrote: shown as
          bare paths.
        </p>
        <p class="small">from {{ read.strokes }} {{ read.strokes === 1 ? 'stroke' : 'strokes' }}: {{ reports }}</p>
      </div>
      <p v-else class="book first">
        Write on the sheet with your pen, a finger or the mouse. Your readings appear here. Or:
      </p>
      <HandWriter />
    </aside>
    <LeaderLines :lines="lines" />
  </section>
</template>

<style scoped>
.station {
  position: relative;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 236px;
  gap: 24px;
  height: 100%;
  padding: 16px 24px 0 32px;
}
.station.right {
  grid-template-columns: 236px minmax(0, 1fr);
  padding: 16px 32px 0 24px;
}
.station.right .margin {
  order: -1;
}
.margin {
  display: flex;
  flex-direction: column;
  gap: 10px;
  overflow-y: auto;
  padding: 0 4px 12px;
  scrollbar-width: thin;
}
.notes {
  display: contents;
}
.steps {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.harm {
  color: var(--harm);
}
.first {
  font-size: 16px;
  font-style: italic;
  line-height: 1.5;
}

@media (max-width: 900px) {
  .station,
  .station.right {
    grid-template: minmax(180px, 1fr) auto / minmax(0, 1fr);
    overflow-y: auto;
    padding: 12px 16px 0;
    gap: 8px;
  }
  .station.right .margin {
    order: 0;
  }
  .margin {
    display: grid;
    grid-template-columns: 1fr 1fr 1fr;
    max-height: 260px;
  }
}
</style>

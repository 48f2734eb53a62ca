<script setup lang="ts">
import { useResizeObserver } from '@vueuse/core'
import { onMounted, onScopeDispose, ref, useTemplateRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import InkAgain from '@/components/InkAgain.vue'
import DoesNotShow from '@/components/DoesNotShow.vue'
import HandWriter from '@/components/HandWriter.vue'
import LeaderLines from '@/components/LeaderLines.vue'
import NumberedWords from '@/components/NumberedWords.vue'
import ReadingNote from '@/components/ReadingNote.vue'
import { useLatest } from '@/composables/use-latest'
import { useBeside } from '@/stores/beside'
import { useSelection } from '@/stores/selection'
import { useDesk } from '@/stores/desk'
import { useFrame } from '@/stores/frame'
import { useUnderlay } from '@/stores/underlay'
import { useReplay } from '@/stores/replay'
import { useJournal } from '@/stores/undo-journal'
import { useTool } from '@/stores/tool'
import BesideView from './BesideView.vue'
import SelectionMargin from './SelectionMargin.vue'
import PageView from './PageView.vue'
import PointMargin from './PointMargin.vue'
import EraserMargin from './EraserMargin.vue'
import RuleMargin from './RuleMargin.vue'
import { SCOPES, useReadings } from './use-readings'
import { useSheetKeys } from './use-sheet-keys'
import WriteMargin from './WriteMargin.vue'
import WordTabs from '@/components/WordTabs.vue'

const desk = useDesk()
const selection = useSelection()
const beside = useBeside()
const underlay = useUnderlay()
const replay = useReplay()
const frame = useFrame()
const journal = useJournal()
const tool = useTool()
const view = useTemplateRef<InstanceType<typeof PageView>>('view')
const root = useTemplateRef<HTMLElement>('root')
const margin = useTemplateRef<HTMLElement>('margin')
const { scope, speakOf, read, busy, readSoon, notes, inks, older, reports } = useReadings()
const prompts = ref<Schemas['Prompt'][]>([])
const lines = ref<{ x0: number; y0: number; x1: number; y1: number }[]>([])

const sheets = useLatest(
  (id: string) => take(api.GET('/api/sheets/{sheet_id}', { params: { path: { sheet_id: id } } })),
  (detail) => {
    prompts.value = detail.prompts
    desk.replaceSheet(detail.sheet)
  },
)
watch(
  () => desk.sheet?.id,
  (id) => {
    lines.value = []
    prompts.value = []
    sheets.forget()
    if (!id) return
    void sheets.want(id)
    void journal.look(id)
  },
  { immediate: true },
)
onScopeDispose(() => (tool.now = 'write'))
watch(
  () => desk.looked,
  () => {
    if (!desk.sheet) return
    void sheets.want(desk.sheet.id)
    void journal.look(desk.sheet.id)
  },
)

const drawLinesSoon = () => setTimeout(drawLines)
watch(
  [read, () => tool.now, () => tool.setsPen, () => selection.ids, () => beside.page, () => replay.on],
  drawLinesSoon,
  {
    flush: 'post',
  },
)

function drawLines() {
  const frame = root.value?.getBoundingClientRect()
  lines.value = []
  // a margin below the page is too far for lines, and they would cross a page that lies beside,
  // or lead to ink that is not shown yet
  if (!frame || !margin.value || !read.value || !view.value || margin.value.offsetTop > 200 || beside.page || replay.on)
    return
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

const { undo, redo } = useSheetKeys((times) => view.value?.closer(times))
</script>

<template>
  <section ref="root" class="station" :class="[desk.stationSide, { folded: frame.marginFolded }]">
    <div class="papers" :class="{ two: beside.page }">
      <PageView ref="view" :prompts="prompts" @settled="readSoon" @moved="drawLines" />
      <BesideView />
    </div>
    <aside
      v-show="!frame.small || frame.unfolded === 'margin'"
      ref="margin"
      class="margin"
      aria-label="Readings"
      @scroll="drawLines"
      @click="drawLinesSoon"
    >
      <button
        type="button"
        class="plain-button small fold"
        :aria-expanded="!frame.marginFolded"
        data-stays-open
        @click="frame.marginFolded = !frame.marginFolded"
      >
        {{ frame.marginFolded ? 'open' : 'fold' }}
      </button>
      <div class="steps">
        <button type="button" class="word-button" :disabled="!journal.undoable(desk.sheet?.id)" @click="undo">
          Undo
        </button>
        <button type="button" class="word-button" :disabled="!journal.redoable(desk.sheet?.id)" @click="redo">
          Redo
        </button>
      </div>
      <DoesNotShow />
      <WordTabs
        v-if="read?.strokes && !['rub', 'rule', 'read', 'point'].includes(tool.now)"
        :model-value="selection.choosing ? 'chosen' : scope"
        :tabs="SCOPES"
        label="Which ink is read"
        @update:model-value="speakOf"
      />
      <p v-if="tool.now === 'read'" class="small">
        Swipe sideways to turn pages, upward to go on. Nothing is written; press “write” to write again.
      </p>
      <p v-if="underlay.moving" class="small">
        Drag the picture with the pen.
        <button type="button" class="word-button" @click="underlay.moving = undefined">It lies well</button>
      </p>
      <p v-if="tool.said" class="small" role="status">{{ tool.said }}</p>
      <SelectionMargin v-if="tool.now === 'choose'" :middle="() => view?.middle()" />
      <EraserMargin v-else-if="tool.now === 'rub'" />
      <RuleMargin v-else-if="tool.now === 'rule'" :middle="() => view?.middle()" />
      <PointMargin v-else-if="tool.now === 'point'" />
      <WriteMargin v-else-if="tool.setsPen" />
      <div
        v-if="read?.strokes && (tool.now === 'write' || selection.ids.length)"
        class="notes"
        :class="{ stale: busy }"
      >
        <ReadingNote
          v-if="read.plain?.length"
          title="In words"
          help="What your ink shows, said without numbers of its own."
        >
          <p v-for="words in read.plain" :key="words">{{ words }}</p>
        </ReadingNote>
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
        <div class="small">
          <p v-for="i in inks.slice(0, 4)" :key="i.key">{{ i.words }}</p>
          <p v-if="inks.length > 4">and {{ inks.length - 4 }} more pens</p>
          <p v-if="read.layers">Read {{ read.layers }}</p>
          <p>{{ reports }}</p>
        </div>
        <InkAgain v-if="older" :ids="selection.ids.length ? selection.ids : undefined" />
      </div>
      <p v-else-if="tool.now === 'write' && !read && desk.sheet?.strokes" class="book first" role="status">
        What the ink shows is being read.
      </p>
      <p v-else-if="tool.now === 'write'" class="book first">
        Write a first line on the sheet, with your pen, a finger or the mouse: what it shows is said here. Or:
      </p>
      <HandWriter v-if="tool.now === 'write'" />
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
.papers {
  display: grid;
  grid-template: minmax(0, 1fr) / minmax(0, 1fr);
  gap: 12px;
  min-width: 0;
  min-height: 0;
}
.papers.two {
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
}
.papers.two :deep(.rare) {
  display: none;
}
@media (max-width: 1000px) {
  .papers.two {
    grid-template: minmax(0, 1fr) minmax(0, 1fr) / minmax(0, 1fr);
  }
}
.margin {
  display: flex;
  flex-direction: column;
  gap: 10px;
  overflow-y: auto;
  padding: 0 4px 12px;
  scrollbar-width: thin;
}
.station.folded {
  grid-template-columns: minmax(0, 1fr) 52px;
}
.station.folded.right {
  grid-template-columns: 52px minmax(0, 1fr);
}
.folded .margin > :not(.fold, .steps) {
  display: none;
}
.folded .steps {
  grid-template-columns: minmax(0, 1fr);
}
.folded .steps .word-button {
  padding: 0;
  font-size: var(--small);
}
.fold {
  align-self: flex-end;
  flex: none;
  min-width: var(--target);
  margin: -8px 0;
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
    grid-template: minmax(180px, 1fr) 260px / minmax(0, 1fr); /* the page does not move as words come and go */
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
    align-items: start;
    max-height: 260px;
  }
}
/* on a telephone the page has all of it; the margin opens over it */
@media (max-width: 560px) {
  .station,
  .station.right {
    grid-template: minmax(0, 1fr) / minmax(0, 1fr);
    overflow: hidden;
    padding: 6px 8px 0;
  }
  .margin {
    position: absolute;
    z-index: 15;
    inset: auto 0 0;
    grid-template-columns: 1fr 1fr;
    max-height: 60%;
    padding: 8px 16px 12px;
    background: var(--card);
    border-top: var(--line) solid var(--edge);
  }
  .margin .fold {
    display: none;
  }
}
</style>

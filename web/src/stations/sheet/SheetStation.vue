<script setup lang="ts">
import { useDebounceFn, useEventListener, useResizeObserver } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import LeaderLines from '@/components/LeaderLines.vue'
import ReadingNote from '@/components/ReadingNote.vue'
import { percent, roughly, say } from '@/components/numbers'
import { useDesk } from '@/stores/desk'
import { useInk } from '@/stores/ink'
import HandWriter from './HandWriter.vue'
import PageView from './PageView.vue'

type Readings = Record<string, number>
const desk = useDesk()
const ink = useInk()
const view = useTemplateRef<InstanceType<typeof PageView>>('view')
const root = useTemplateRef<HTMLElement>('root')
const margin = useTemplateRef<HTMLElement>('margin')
const prompts = ref<Schemas['PromptItem'][]>([])
const read = shallowRef<Schemas['ReadReply']>()
const before = shallowRef<Readings>()
const lines = ref<{ x0: number; y0: number; x1: number; y1: number }[]>([])

watch(
  () => desk.sheet?.id,
  async (id) => {
    read.value = before.value = undefined
    lines.value = []
    prompts.value = []
    ink.startSheet()
    if (!id) return
    await desk.attempt(async () => {
      const detail = await take(api.GET('/api/sheets/{sheet_id}', { params: { path: { sheet_id: id } } }))
      prompts.value = detail.prompts
      desk.replaceSheet(detail.sheet)
    })
    await readInk()
  },
  { immediate: true },
)

async function readInk() {
  const id = desk.sheet?.id
  if (!id) return
  const answer = await take(api.GET('/api/sheets/{sheet_id}/readings', { params: { path: { sheet_id: id } } })).catch(
    () => undefined,
  )
  if (!answer || id !== desk.sheet?.id) return
  if (read.value?.strokes) before.value = read.value.readings
  read.value = answer
  setTimeout(drawLines)
}
const readSoon = useDebounceFn(readInk, 350)

const r = computed(() => read.value?.readings ?? {})
const was = (key: string, words: (v: number) => string) => {
  const old = before.value?.[key]
  const now = r.value[key]
  return old !== undefined && now !== undefined && words(old) !== words(now) ? `was ${words(old)}` : ''
}

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
      <template v-if="read?.strokes">
        <ReadingNote
          data-anchor="width"
          title="Light and firm"
          help="The thinnest and thickest your pen drew, without the outermost 5 % of its length on either side. The
            line ends at the thickest mark."
        >
          <p>
            <span class="number">{{ say(r.width_p05_mm!) }}</span> to
            <span class="number">{{ say(r.width_p95_mm!) }}</span> mm, ×{{ say(r.range_ratio!) }}
          </p>
          <p class="small">{{ was('range_ratio', (v) => `×${say(v)}`) }}</p>
        </ReadingNote>
        <ReadingNote
          data-anchor="trail"
          title="Drag"
          help="How long the steadied tip needs to get where your nib is, and how far behind it trails on the way. The
            line ends where it trailed farthest. Less steadying in the Pen station shortens both."
        >
          <p v-if="r.drag_ms">
            <span class="number">{{ roughly(r.drag_ms) }}</span> ms, the ink trails
            <span class="number">{{ say(r.trail_mm!) }}</span> mm
          </p>
          <p v-else>none: this pen does not steady</p>
          <p v-if="r.drag_ms" class="small">calms {{ roughly(r.wobble_db!) }} dB of tremor</p>
        </ReadingNote>
        <ReadingNote
          data-anchor="tips"
          title="Tips"
          help="Width at the very start and end of strokes over their middle width; 1 is blunt, 0 a needle."
        >
          <p>
            start <span class="number">{{ say(r.start_tip!) }}</span>, end
            <span class="number">{{ say(r.end_tip!) }}</span>
          </p>
        </ReadingNote>
        <ReadingNote
          title="Your force"
          :tone="r.ceiling_share! > 0.05 || r.floor_share! > 0.05 ? 'attention' : 'plain'"
          help="Where nine tenths of your force lie. Samples stuck at the pen's floor or ceiling all come out equally
            thin or thick; the Pen station can move both."
        >
          <p>
            <span class="number">{{ percent(r.force_p05!) }}</span> to
            <span class="number">{{ percent(r.force_p95!) }}</span>
          </p>
          <p class="small">
            {{ percent(r.floor_share!) }} at the floor, {{ percent(r.ceiling_share!) }} at the ceiling
          </p>
        </ReadingNote>
        <ReadingNote
          v-if="r.wobble_in_mm"
          title="Wobble"
          help="How far the path strays from itself with everything quicker than 7 Hz taken out: tremor, noise and the
            quickest parts of letters."
        >
          <p>
            <span class="number">{{ say(r.wobble_in_mm) }}</span> mm,
            <span class="number">{{ say(r.wobble_out_mm!) }}</span> in ink
          </p>
        </ReadingNote>
        <p class="small">
          from {{ r.samples }} reports in {{ read.strokes }} {{ read.strokes === 1 ? 'stroke' : 'strokes' }},
          {{ say(r.report_hz!) }} a second<template v-if="r.gaps">, {{ r.gaps }} gaps</template>
        </p>
      </template>
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
.steps {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.first {
  font-size: 16px;
  font-style: italic;
  line-height: 1.5;
}

@media (max-width: 900px) {
  .station,
  .station.right {
    grid-template: minmax(0, 1fr) auto / minmax(0, 1fr);
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

<script setup lang="ts">
import { useDevicePixelRatio, useElementSize, useEventListener } from '@vueuse/core'
import { ElOption, ElSelect } from 'element-plus'
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import ReadingNote from '@/components/ReadingNote.vue'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { useInk } from '@/stores/ink'
import HandWriter from '../sheet/HandWriter.vue'
import { changes } from './changes'
import GroupControls from './GroupControls.vue'
import PressChart from './PressChart.vue'
import { useReink, type Picture } from './use-reink'
import { isDark } from '@/components/numbers'

const desk = useDesk()
const draft = useDraft()
const ink = useInk()
const group = ref('press')
const strip = useTemplateRef<HTMLElement>('strip')
const { width, height } = useElementSize(strip)
const { pixelRatio } = useDevicePixelRatio()
const size = computed(() => ({ width: Math.min(4000, Math.round(width.value * pixelRatio.value)), height: Math.round(height.value * pixelRatio.value) }))
/** Pictures are shown pixel for pixel. */
const fit = (p: Picture) => ({ left: `${p.left / pixelRatio.value}px`, top: `${p.top / pixelRatio.value}px`, width: `${p.width / pixelRatio.value}px`, height: `${p.height / pixelRatio.value}px` })
const label = computed(() => ({ background: desk.sheet?.paper.colour, color: isDark(desk.sheet?.paper.colour ?? '#ffffff') ? '#d8d4c8' : '#565c65' }))
const kept = useReink(computed(() => draft.kept), size)
const now = useReink(computed(() => draft.recipe), size)
const force = shallowRef<Schemas['ForceReply']>()
const groups = computed(() => Object.entries(desk.desk?.recipe_fields ?? {}).filter(([, fields]) => fields.some((f) => (f.options as string[]).length !== 1)).map(([name]) => name))
const notes = computed(() => changes(kept.readings.value, now.readings.value))

watch(() => [desk.sheet?.id, ink.changed], async () => {
  if (!desk.sheet) return
  const body = { sheet_id: desk.sheet.id, part: 'line' as const, stroke_ids: null }
  force.value = await take(api.POST('/api/force', { body })).catch(() => undefined)
  kept.refresh()
  now.refresh()
}, { immediate: true })

const press = computed(() => draft.recipe?.press)
const missing = computed(() => {
  const absent = force.value?.absent ?? []
  return absent.length ? `This line carries no ${absent.join(' and no ')}: what depends on it shows no effect here.` : ''
})

function goBack(revision: number) {
  const then = draft.revisions.find((r) => r.revision === revision)
  if (then) draft.replace(then.recipe)
  draft.done()
}

useEventListener('keydown', (event: KeyboardEvent) => {
  if (!(event.ctrlKey || event.metaKey) || (event.target as HTMLElement).closest('input[type=text], textarea')) return
  const key = event.key.toLowerCase()
  if (key === 'z' && event.shiftKey) draft.redo()
  else if (key === 'z') draft.undo()
  else if (key === 's') void draft.keep()
  else return
  event.preventDefault()
})
</script>

<template>
  <section v-if="draft.recipe && press" class="station" :class="desk.stationSide">
    <aside class="margin" aria-label="Readings, kept and now">
      <ReadingNote v-for="n in notes" :key="n.title" :title="n.title" :help="n.help" :tone="n.attention ? 'attention' : 'plain'">
        <p v-if="n.was"><span class="small">{{ n.was }} →</span> <span class="number">{{ n.now }}</span></p>
        <p v-else>{{ n.now }}</p>
      </ReadingNote>
      <p class="small">{{ missing }}</p>
    </aside>

    <div class="bench">
      <div class="ink card" :style="{ background: desk.sheet!.paper.colour }">
        <div ref="strip" class="strip">
          <img v-if="kept.picture.value" :src="kept.picture.value.image" alt="Your line with the kept revision" data-ink="kept" :style="fit(kept.picture.value)" />
          <span class="small book" :style="label">kept revision {{ draft.pen!.revision }}</span>
        </div>
        <div class="strip">
          <img v-if="now.picture.value" :src="now.picture.value.image" alt="Your line with the pen as it is set now" data-ink="now" :style="fit(now.picture.value)" />
          <span class="small book" :style="label">now</span>
        </div>
        <div v-if="now.empty.value" class="none">
          <p class="book">There is no line on {{ desk.sheet!.name }} to tune this pen against. Write one on the sheet, or:</p>
          <HandWriter />
        </div>
      </div>

      <div class="tools">
        <section class="card press" aria-label="Press">
          <h2>Press <em class="book">over your own force</em></h2>
          <PressChart :points="press.points as [number, number][]" :floor="press.floor" :ceiling="press.ceiling" :counts="force?.counts ?? []" :samples="force?.samples ?? 0"
            :plan="now.plan.value" :kept="kept.plan.value" @points="(p) => draft.set('press.points', p)" @floor="(v) => draft.set('press.floor', v)"
            @ceiling="(v) => draft.set('press.ceiling', v)" @done="draft.done" />
        </section>
        <section class="card group" :aria-label="group">
          <div class="tabs" role="tablist">
            <button v-for="g in groups" :key="g" type="button" role="tab" :aria-selected="g === group" @click="group = g">{{ g }}</button>
          </div>
          <GroupControls :group="group" />
        </section>
      </div>

      <div class="keep">
        <button type="button" class="word-button strong" :disabled="!draft.changed" @click="draft.keep()">Keep as revision {{ draft.next }}</button>
        <button type="button" class="word-button" :disabled="!draft.undoable" @click="draft.undo">Undo</button>
        <button type="button" class="word-button" :disabled="!draft.redoable" @click="draft.redo">Redo</button>
        <ElSelect class="back" :model-value="undefined" placeholder="Go back to a revision" aria-label="Go back to a revision" @change="goBack">
          <ElOption v-for="r in draft.revisions" :key="r.revision" :value="r.revision" :label="`revision ${r.revision}, ${r.created_at.slice(0, 10)}${r.note ? ', ' + r.note : ''}`" />
        </ElSelect>
      </div>
    </div>
  </section>
</template>

<style scoped>
.station { display: grid; grid-template-columns: minmax(0, 1fr) 228px; gap: 24px; height: 100%; padding: 16px 24px 8px 32px; }
.station.right { grid-template-columns: 228px minmax(0, 1fr); padding: 16px 32px 8px 24px; }
.station:not(.right) .margin { order: 1; }
.margin { display: grid; align-content: start; gap: 12px; overflow-y: auto; padding: 0 4px; scrollbar-width: thin; }
.bench { display: grid; grid-template-rows: minmax(150px, 1fr) auto auto; gap: 12px; min-height: 0; }
.ink { position: relative; display: grid; grid-template-rows: 1fr 1fr; min-height: 0; }
.strip { position: relative; min-height: 0; overflow: hidden; }
.strip + .strip { border-top: var(--line) solid var(--rule); }
.strip img { position: absolute; }
.strip span { position: absolute; right: 10px; top: 4px; font-style: italic; padding: 0 6px; }
.none { position: absolute; inset: 0; display: grid; place-content: center; gap: 12px; background: var(--card); padding: 24px; }
.tools { display: grid; grid-template-columns: minmax(300px, 400px) minmax(0, 1fr); gap: 12px; height: 312px; }
.tools .card { padding: 10px 16px; min-height: 0; }
h2 { font-size: var(--size); font-weight: 650; margin-bottom: 4px; }
h2 em { font-weight: 400; font-size: 14px; margin-left: 8px; }
.group { overflow-y: auto; scrollbar-width: thin; }
.tabs { display: flex; flex-wrap: wrap; gap: 0 2px; margin-bottom: 4px; border-bottom: var(--line) solid var(--rule); }
.tabs button { min-height: var(--target); padding: 0 9px; border-bottom: 4px solid transparent; text-transform: capitalize; color: var(--graphite); }
.tabs button[aria-selected='true'] { color: var(--ink); font-weight: 650; border-bottom-color: var(--accent); }
.keep { display: flex; gap: 12px; }
.back { max-width: 260px; margin-left: auto; }

@media (max-width: 900px) {
  .station,
  .station.right { grid-template: minmax(0, 1fr) auto / minmax(0, 1fr); padding: 12px 16px 8px; gap: 8px; }
  .station .margin,
  .station:not(.right) .margin { order: 1; grid-template-columns: 1fr 1fr 1fr; max-height: 220px; }
  .tools { grid-template-columns: minmax(0, 1fr); height: auto; }
  .press { max-width: 460px; }
  .bench { overflow-y: auto; }
}
</style>

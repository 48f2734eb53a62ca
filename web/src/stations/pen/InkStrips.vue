<script setup lang="ts">
import { useDevicePixelRatio, useElementSize } from '@vueuse/core'
import { ElOption, ElSelect } from 'element-plus'
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { api, take, type Recipe, type Schemas } from '@/api/client'
import { say } from '@/lib/numbers'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { useInk } from '@/stores/ink'
import OneStrip from './OneStrip.vue'
import ScribbleField from './ScribbleField.vue'
import ShadingPatches from './ShadingPatches.vue'
import WordTabs from '@/components/WordTabs.vue'

/** Ways to see the pen on your own line: before and after, heat, three widths, a ladder, other pens. */
const props = defineProps<{
  source: Schemas['Source']
  inked: boolean
  corners: number[][]
  group: string
  spotAt?: { x_mm: number; y_mm: number }
}>()
const emit = defineEmits<{ spot: [place: { x_mm: number; y_mm: number }]; against: [recipe: Recipe | undefined] }>()
/** What is shown can be taken over: one step of undo. */
function takeOver(recipe: Recipe) {
  draft.done()
  draft.replace(recipe)
  draft.done()
}
function set(path: string, value: number) {
  draft.done()
  draft.set(path, Number(value.toFixed(3)))
  draft.done()
}
const RUNGS = { width: 'body.width_mm', opacity: 'body.opacity', range: 'press.range' } as const
/** What the ends of a heat scale can become: the lightest and firmest force the ends of the press curve. */
const ENDS = { force: ['press.floor', 'press.ceiling'] } as Partial<Record<string, [string, string]>>
const ends = computed(() => ENDS[quantity.value])
/** A strip that is not the pen as it is now. */
const other = (key: string) => key !== 'now' && key !== 'x1'
const VIEWS = {
  change: 'before and after',
  heat: 'heat',
  widths: 'thin, middle, thick',
  ladder: 'ladder',
  pens: 'beside others',
  scribble: 'scribble',
  shading: 'shading',
} as const
const desk = useDesk()
const draft = useDraft()
const ink = useInk()
const view = ref<keyof typeof VIEWS>('change')
watch(
  () => props.group,
  (now, before) => {
    if (now === 'tooth') view.value = 'shading'
    else if (before === 'tooth' && view.value === 'shading') view.value = 'change'
  },
)
const quantity = ref<'width' | 'force' | 'speed'>('width')
const over = ref<'width' | 'opacity' | 'range'>('width')
const others = ref<string[]>([])
const area = useTemplateRef<HTMLElement>('area')
const { width, height } = useElementSize(area)
const { pixelRatio } = useDevicePixelRatio()
const heat = shallowRef<Schemas['HeatReply']>()
const rungs = shallowRef<Schemas['LadderReply']>()

const label = computed(() => ({
  background: desk.sheet?.paper.colour,
  color: desk.sheet?.paper_is_dark ? '#d8d4c8' : '#565c65',
}))
const scaled = (recipe: Recipe, k: number): Recipe => ({
  ...recipe,
  body: { ...recipe.body!, width_mm: Math.min(20, Math.max(0.05, recipe.body!.width_mm * k)) },
})
/** What this pen can stand beside: the other pens, and its own earlier revisions. */
const choices = computed(() => [
  ...desk
    .desk!.pens.filter((p) => p.id !== draft.pen!.id)
    .map((p) => ({ key: p.id, words: p.recipe.name, recipe: p.recipe })),
  ...draft.revisions.map((p) => ({
    key: `revision-${p.revision}`,
    words: `${p.recipe.name}, revision ${p.revision}`,
    recipe: p.recipe,
  })),
])
const strips = computed(() => {
  const now = draft.recipe!
  if (view.value === 'change')
    return [
      { key: 'kept', words: `kept revision ${draft.pen!.revision}`, recipe: draft.kept! },
      { key: 'now', words: 'now', recipe: now },
    ]
  if (view.value === 'widths')
    return [0.6, 1, 1.7].map((k) => ({
      key: `x${k}`,
      words: `${say(scaled(now, k).body!.width_mm)} mm`,
      recipe: scaled(now, k),
    }))
  const beside = others.value.map((key) => choices.value.find((c) => c.key === key)).filter((c) => !!c)
  return [{ key: 'now', words: `${now.name}, now`, recipe: now }, ...beside]
})
watch(
  [view, others],
  () => emit('against', view.value === 'pens' && others.value.length ? strips.value[1]?.recipe : undefined),
  { deep: true },
)

const size = () => ({
  width_px: Math.min(4000, Math.round(width.value * pixelRatio.value)),
  height_px: Math.min(4000, Math.round(height.value * pixelRatio.value)),
})
const heats = useLatest(
  (body: Schemas['HeatBody']) => take(api.POST('/api/pen/heat', { body })),
  (a) => (heat.value = a),
  undefined,
  { follow: true },
)
const ladders = useLatest(
  (body: Schemas['LadderBody']) => take(api.POST('/api/pen/ladder', { body })),
  (a) => (rungs.value = a),
  undefined,
  { follow: true },
)
watch([view, quantity, over, () => draft.recipe, () => props.source, width, height, () => ink.changed], () => {
  if (!draft.recipe || width.value < 50 || height.value < 50) return
  if (view.value === 'heat' && props.inked)
    void heats.want({ recipe: draft.recipe, source: props.source, quantity: quantity.value, ...size() })
  if (view.value === 'ladder')
    void ladders.want({ recipe: draft.recipe, over: over.value, paper_colour: desk.sheet!.paper.colour, ...size() })
})
const shown = (v: number) =>
  over.value === 'width' ? `${say(v)} mm` : over.value === 'range' ? `×${say(v)}` : `${Math.round(v * 100)} %`
</script>

<template>
  <div class="strips" :data-view="view">
    <div class="views">
      <WordTabs v-model="view" :tabs="VIEWS" label="Views of your line" />
      <ElSelect v-if="view === 'heat'" v-model="quantity" aria-label="Heat of" style="width: 110px"
        ><ElOption v-for="q in ['width', 'force', 'speed']" :key="q" :value="q"
      /></ElSelect>
      <ElSelect v-if="view === 'ladder'" v-model="over" aria-label="Ladder of" style="width: 120px"
        ><ElOption v-for="q in ['width', 'opacity', 'range']" :key="q" :value="q"
      /></ElSelect>
      <ElSelect
        v-if="view === 'pens'"
        v-model="others"
        multiple
        :multiple-limit="3"
        collapse-tags
        placeholder="Choose up to three"
        aria-label="Other pens"
        style="width: 230px"
      >
        <ElOption v-for="c in choices" :key="c.key" :value="c.key" :label="c.words" />
      </ElSelect>
    </div>
    <div ref="area" class="area card" :style="{ background: desk.sheet!.paper.colour }">
      <ShadingPatches v-if="view === 'shading'" />
      <ScribbleField
        v-else-if="view === 'scribble' && desk.sheet && draft.recipe"
        :recipe="draft.recipe"
        :paper="desk.sheet.paper"
      />
      <template v-else-if="view === 'heat'">
        <img v-if="heat" :src="heat.image" class="whole" alt="Your line coloured by what made it" data-ink="heat" />
        <p v-if="heat" class="scale small" :style="label">
          <button v-if="ends" type="button" @click="set(ends[0], heat.low)">{{ say(heat.low) }} as floor</button
          ><template v-else>{{ say(heat.low) }}</template
          ><i v-for="c in heat.colours" :key="c" :style="{ background: c }"></i
          ><button v-if="ends" type="button" @click="set(ends[1], heat.high)">{{ say(heat.high) }} as ceiling</button
          ><template v-else>{{ say(heat.high) }} {{ heat.unit }}</template>
        </p>
      </template>
      <template v-else-if="view === 'ladder'">
        <img
          v-if="rungs"
          :src="rungs.image"
          class="whole"
          alt="The pen at rising values over dark lines"
          data-ink="ladder"
        />
        <ol v-if="rungs" class="values small" :style="{ color: label.color }">
          <li v-for="v in rungs.values" :key="v">
            <button type="button" :aria-label="`Take ${shown(v)}`" @click="set(RUNGS[over], v)">{{ shown(v) }}</button>
          </li>
        </ol>
      </template>
      <template v-else-if="inked">
        <OneStrip
          v-for="s in strips"
          :key="s.key"
          :recipe="s.recipe"
          :source="source"
          :words="s.words"
          :name="s.key"
          :label="label"
          :marks="s.key === 'now' && view === 'change' ? corners : []"
          :spot="s.key === 'now' || view === 'change' ? spotAt : undefined"
          :takable="view !== 'change' && other(s.key)"
          @take="takeOver(s.recipe)"
          @spot="(p) => emit('spot', p)"
        />
      </template>
      <slot v-if="view !== 'scribble' && view !== 'ladder' && view !== 'shading'" />
    </div>
  </div>
</template>

<style scoped>
.strips {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-height: 0;
}
.views {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
}
.area {
  position: relative;
  display: grid;
  grid-auto-rows: minmax(0, 1fr);
  min-height: 0;
  overflow: hidden;
}
.whole {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.scale {
  position: absolute;
  right: 10px;
  bottom: 6px;
  display: flex;
  align-items: center;
  gap: 0;
  padding: 2px 6px;
}
.scale i {
  width: 9px;
  height: 14px;
}
.scale i:first-of-type {
  margin-left: 8px;
}
.scale i:last-of-type {
  margin-right: 8px;
}
.scale button {
  min-height: var(--target);
  padding: 0 8px;
  text-decoration: underline;
}
/* the whole rung is the target */
.values button {
  width: 100%;
  height: 100%;
  padding: 0 14px;
  text-align: left;
  text-decoration: underline;
}
.values button:hover {
  background: color-mix(in srgb, var(--accent) 10%, transparent);
}
.values {
  position: absolute;
  inset: 0;
  display: grid;
  grid-auto-rows: minmax(0, 1fr);
  list-style: none;
  margin: 0;
  padding: 0;
}
</style>

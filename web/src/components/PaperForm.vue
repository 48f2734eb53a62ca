<script setup lang="ts">
import { ElColorPicker, ElOption, ElRadioButton, ElRadioGroup, ElSelect } from 'element-plus'
import { computed, shallowRef, watch } from 'vue'
import { api, take, type Schemas, type SheetItem } from '@/api/client'
import NumberField from '@/components/NumberField.vue'
import { useLatest } from '@/composables/use-latest'
import { callsForAttention, inWords } from '@/lib/readings'
import PaletteSpots from './PaletteSpots.vue'
import { useDesk } from '@/stores/desk'

type Paper = SheetItem['paper']
const props = defineProps<{ paper: Paper }>()
const emit = defineEmits<{ change: [paper: Paper] }>()
const desk = useDesk()
const set = (part: Partial<Paper>) => emit('change', { ...props.paper, ...part })

const landscape = computed(() => props.paper.width_mm > props.paper.height_mm)
const sizeName = computed(() => {
  const [short, long] = [props.paper.width_mm, props.paper.height_mm].sort((a, b) => a - b)
  return (
    Object.entries(desk.desk?.paper_sizes_mm ?? {}).find(
      ([, mm]) => Math.abs(mm[0]! - short!) < 0.05 && Math.abs(mm[1]! - long!) < 0.05,
    )?.[0] ?? 'own size'
  )
})

function setSize(name: string) {
  const mm = desk.desk?.paper_sizes_mm[name]
  if (mm) set(landscape.value ? { width_mm: mm[1]!, height_mm: mm[0]! } : { width_mm: mm[0]!, height_mm: mm[1]! })
}

function turn(way: string) {
  if ((way === 'landscape') !== landscape.value)
    set({ width_mm: props.paper.height_mm, height_mm: props.paper.width_mm })
}

/** Whether the ruling drowns the ink, and which spacing suits the letters, read of the sheet on the desk. */
const found = shallowRef<Schemas['OnPaper']>()
const reading = useLatest(
  ({ id, paper }: { id: string; paper: Paper }) =>
    take(api.POST('/api/sheets/{sheet_id}/on-paper', { params: { path: { sheet_id: id } }, body: { paper } })),
  (answer) => (found.value = answer),
  () => undefined,
)
watch([() => desk.sheet?.id, () => props.paper], ([id, paper]) => id && void reading.want({ id, paper }), {
  immediate: true,
})
const ruled = computed(() => ['ruled', 'squared', 'dotted', 'columns'].includes(props.paper.ruling))
const suits = computed(() => (ruled.value ? found.value?.suits_mm : null))
const told = computed(() => {
  const r = found.value
  if (!r) return ''
  const known = (key: string) => desk.reading('on paper', key)!
  const say = (key: keyof Schemas['OnPaper']) => `${known(key).label} ${inWords(known(key), r[key])}`
  const words = props.paper.ruling === 'blank' ? [say('ink')] : [`${say('ink')}, ${say('rules')}`]
  if (callsForAttention(known('over_rules'), r.over_rules)) words.push('these rules drown thin lines')
  if (r.x_height_mm !== null) words.push(`letters: ${say('x_height_mm')}, ${say('reach_mm')}`)
  if (r.fill !== null)
    words.push(`${say('fill')}${callsForAttention(known('fill'), r.fill) ? ': lines run into each other' : ''}`)
  return `${words.join('; ')}.`
})

/** A new sheet colour brings the ruling that suits it. */
const colour = (value: string) =>
  desk.attempt(async () => {
    const { rule_colour } = await take(
      api.POST('/api/desk/colours', { body: { paper_colour: value, colours: [], pen: null } }),
    )
    set({ colour: value, rule_colour })
  })
</script>

<template>
  <div class="form">
    <label
      >Size
      <ElSelect :model-value="sizeName" aria-label="Size" @update:model-value="setSize">
        <ElOption v-for="name in Object.keys(desk.desk?.paper_sizes_mm ?? {})" :key="name" :value="name" />
      </ElSelect>
    </label>
    <label
      >Lies
      <ElRadioGroup
        :model-value="landscape ? 'landscape' : 'portrait'"
        aria-label="Orientation"
        @update:model-value="(v) => turn(String(v))"
      >
        <ElRadioButton value="portrait">portrait</ElRadioButton
        ><ElRadioButton value="landscape">landscape</ElRadioButton>
      </ElRadioGroup>
    </label>
    <label
      >Width, mm
      <NumberField
        label="Width, mm"
        :model-value="paper.width_mm"
        :min="30"
        :max="1000"
        :decimals="1"
        @update:model-value="(v) => set({ width_mm: v })"
    /></label>
    <label
      >Height, mm
      <NumberField
        label="Height, mm"
        :model-value="paper.height_mm"
        :min="30"
        :max="1000"
        :decimals="1"
        @update:model-value="(v) => set({ height_mm: v })"
    /></label>
    <label
      >Spacing, mm
      <NumberField
        label="Spacing, mm"
        :model-value="paper.spacing_mm"
        :min="1.5"
        :max="30"
        :decimals="2"
        @update:model-value="(v) => set({ spacing_mm: v })"
    /></label>
    <label
      >Line weight, mm
      <NumberField
        label="Line weight, mm"
        :model-value="paper.weight_mm"
        :min="0.05"
        :max="1.5"
        :decimals="2"
        @update:model-value="(v) => set({ weight_mm: v })"
    /></label>
    <label
      >Top band, mm
      <NumberField
        label="Top band, mm"
        :model-value="paper.band_mm"
        :min="0"
        :max="300"
        :decimals="1"
        @update:model-value="(v) => set({ band_mm: v })"
    /></label>
    <label
      >Margin line, mm from the edge
      <span class="pair">
        <NumberField
          label="Margin line, mm"
          :model-value="paper.margin_mm"
          :min="0"
          :max="80"
          :decimals="2"
          @update:model-value="(v) => set({ margin_mm: v })"
        />
        <ElSelect
          v-if="paper.margin_mm"
          :model-value="paper.margin_side"
          aria-label="Margin line at"
          @update:model-value="(v: Paper['margin_side']) => set({ margin_side: v })"
          ><ElOption v-for="side in ['left', 'right', 'both']" :key="side" :value="side"
        /></ElSelect>
      </span>
    </label>
    <template v-if="paper.ruling === 'columns' || paper.ruling === 'frames'">
      <label
        >Columns
        <NumberField
          label="Columns"
          :model-value="paper.columns"
          :min="1"
          :max="12"
          :decimals="0"
          @update:model-value="(v) => set({ columns: v })"
      /></label>
      <label v-if="paper.ruling === 'columns'"
        >First column, mm
        <NumberField
          label="First column, mm"
          :model-value="paper.first_mm"
          :min="0"
          :max="300"
          :decimals="1"
          @update:model-value="(v) => set({ first_mm: v })"
      /></label>
    </template>
    <label
      >Colour
      <span class="colours">
        <button
          v-for="(value, name) in desk.desk?.paper_colours"
          :key="name"
          type="button"
          class="spot"
          :style="{ background: value }"
          :aria-label="name"
          :title="String(name)"
          :aria-pressed="value === paper.colour"
          @click="colour(value)"
        />
        <PaletteSpots :model-value="paper.colour" label="Own colours" @update:model-value="colour" />
        <ElColorPicker :model-value="paper.colour" aria-label="Own colour" @change="(v) => v && colour(v)" />
      </span>
    </label>
    <p v-if="told" class="small told" data-on-paper>
      {{ told }}
      <button
        v-if="suits && suits !== paper.spacing_mm"
        type="button"
        class="word-button"
        @click="set({ spacing_mm: suits })"
      >
        {{ suits }} mm suits this hand
      </button>
    </p>
  </div>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px 24px;
}
.pair {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 8px;
}
.pair .el-select {
  width: 96px;
}
.told {
  grid-column: 1 / -1;
  margin: 0;
  max-width: 80ch;
}
label {
  display: grid;
  gap: 4px;
  font-size: var(--small);
}
.colours {
  flex-wrap: wrap;
  display: flex;
  gap: 8px;
  align-items: center;
}
.spot {
  width: 44px;
  height: 44px;
  border: var(--line) solid var(--edge);
  border-radius: var(--corner);
}
.spot[aria-pressed='true'] {
  outline: 3px solid var(--accent);
  outline-offset: 1px;
}
</style>

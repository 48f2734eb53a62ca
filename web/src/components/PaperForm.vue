<script setup lang="ts">
import { ElColorPicker, ElOption, ElRadioButton, ElRadioGroup, ElSelect } from 'element-plus'
import { computed } from 'vue'
import { api, take, type SheetItem } from '@/api/client'
import PaletteSpots from './PaletteSpots.vue'
import NumberField from '@/components/NumberField.vue'
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
  </div>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px 24px;
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

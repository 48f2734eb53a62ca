<script setup lang="ts">
import { ElOption, ElRadioButton, ElRadioGroup, ElSelect } from 'element-plus'
import { usePanels } from '@/stores/panels'
import type { Shown } from './film'

/** What of the page in time is shown, what is done after writing, and how much of the page it is. */
const shown = defineModel<Shown | 'waits'>('shown', { required: true })
const then = defineModel<string>('then', { required: true })
const widthMm = defineModel<number>('widthMm', { required: true })
const WIDTHS_MM = [20, 40, 60, 90]
const WORDS = { seen: 'seen', believed: 'believed', waits: 'waits' } as const
const HELP = {
  seen: 'What the writer sees',
  believed: 'What the program believes is shown',
  waits: 'How long each place took until it was true',
} as const
const panels = usePanels()
</script>

<template>
  <div class="ways">
    <ElRadioGroup v-model="shown" aria-label="What is shown"
      ><ElRadioButton v-for="(words, key) in WORDS" :key="key" :value="key" :title="HELP[key]">{{
        words
      }}</ElRadioButton></ElRadioGroup
    >
    <label class="small"
      >then<ElSelect v-model="then" aria-label="What is done then" class="then"
        ><ElOption v-for="t in panels.ways!.film_then" :key="t" :value="t" :label="t" /></ElSelect
    ></label>
    <label class="small"
      >part<ElSelect v-model="widthMm" aria-label="Part of the page" class="part"
        ><ElOption v-for="w in WIDTHS_MM" :key="w" :value="w" :label="`${w} mm`" /></ElSelect
    ></label>
  </div>
</template>

<style scoped>
.ways {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 20px;
}
label {
  display: flex;
  align-items: center;
  gap: 8px;
}
.then {
  width: 160px;
}
.part {
  width: 104px;
}
</style>

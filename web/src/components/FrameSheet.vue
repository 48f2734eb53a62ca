<script setup lang="ts">
import { ElCheckbox, ElOption, ElRadioButton, ElRadioGroup, ElSelect } from 'element-plus'
import { TOOLS } from '@/lib/writing-sound'
import { STATIONS } from '@/stations'
import GestureForm from './GestureForm.vue'
import PopOver from './PopOver.vue'
import NumberField from './NumberField.vue'
import { PLACES, SIZES, useFrame } from '@/stores/frame'

/** Where the roll lies, what folds, which stations show, how large words are: as this device and this hand want it. */
const emit = defineEmits<{ close: [] }>()
const frame = useFrame()
const canStayAwake = 'wakeLock' in navigator
const show = (path: string, on: boolean) =>
  (frame.hidden = on ? frame.hidden.filter((p) => p !== path) : [...frame.hidden, path])
</script>

<template>
  <PopOver title="The frame on this device" label="The frame" @close="emit('close')">
    <div class="row">
      <span class="small">the roll lies at the</span>
      <ElRadioGroup v-model="frame.place" aria-label="The roll lies at the"
        ><ElRadioButton v-for="p in PLACES" :key="p" :value="p">{{ p }}</ElRadioButton></ElRadioGroup
      >
    </div>
    <ElCheckbox v-model="frame.folded">the roll is folded</ElCheckbox>
    <ElCheckbox v-model="frame.foldsWhileWriting">it folds by itself while writing</ElCheckbox>
    <ElCheckbox v-model="frame.marginFolded">the sheet's margin is folded</ElCheckbox>
    <ElCheckbox v-model="frame.awake" :disabled="!canStayAwake">
      the screen stays awake while you write{{ canStayAwake ? '' : ': only over a trusted connection' }}
    </ElCheckbox>
    <ElCheckbox v-model="frame.darkPage">at night the page is shown dark; files stay as they are</ElCheckbox>
    <div class="row">
      <span class="small">pages follow</span>
      <ElRadioGroup v-model="frame.follows" aria-label="Pages follow"
        ><ElRadioButton value="downward">downward</ElRadioButton
        ><ElRadioButton value="sideways">sideways</ElRadioButton></ElRadioGroup
      >
    </div>
    <div class="row">
      <span class="small">words are</span>
      <ElRadioGroup v-model="frame.words" aria-label="Size of words"
        ><ElRadioButton v-for="(_, name) in SIZES" :key="name" :value="name">{{ name }}</ElRadioButton></ElRadioGroup
      >
    </div>
    <div class="row">
      <span class="small">writing sounds like</span>
      <ElSelect v-model="frame.sound" aria-label="Writing sounds like" style="width: 150px">
        <ElOption value="off" label="nothing" />
        <ElOption v-for="(tool, name) in TOOLS" :key="name" :value="name" :label="tool.words" />
      </ElSelect>
      <NumberField
        v-if="frame.sound !== 'off'"
        v-model="frame.volume"
        label="Volume"
        unit="%"
        :min="1"
        :max="100"
        :decimals="0"
      />
    </div>
    <GestureForm />
    <div class="row stations">
      <span class="small">stations shown</span>
      <ElCheckbox
        v-for="s in STATIONS.slice(1)"
        :key="s.path"
        :model-value="!frame.hidden.includes(s.path)"
        @change="(on) => show(s.path, Boolean(on))"
        >{{ s.word }}</ElCheckbox
      >
    </div>
  </PopOver>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 14px;
  min-height: var(--target);
}
.el-checkbox {
  min-height: var(--target);
  white-space: normal;
}
</style>

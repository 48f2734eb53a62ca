<script setup lang="ts">
import { ElCheckbox, ElRadioButton, ElRadioGroup } from 'element-plus'
import { useTemplateRef } from 'vue'
import { useLittleSheet } from '@/composables/use-little-sheet'
import { STATIONS } from '@/stations'
import DeedsForm from './DeedsForm.vue'
import { useDesk } from '@/stores/desk'
import { PLACES, SIZES, useFrame } from '@/stores/frame'

/** Where the roll lies, what folds, which stations show, how large words are: as this device and this hand want it. */
const emit = defineEmits<{ close: [] }>()
const desk = useDesk()
const frame = useFrame()
const root = useTemplateRef<HTMLElement>('root')
useLittleSheet(root, () => emit('close'))
const canStayAwake = 'wakeLock' in navigator
const show = (path: string, on: boolean) =>
  (frame.hidden = on ? frame.hidden.filter((p) => p !== path) : [...frame.hidden, path])
</script>

<template>
  <section ref="root" class="out card" :class="desk.stationSide" role="dialog" aria-label="The frame" tabindex="-1">
    <h2 class="book">The frame on this device</h2>
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
    <div class="row">
      <span class="small">words are</span>
      <ElRadioGroup v-model="frame.words" aria-label="Size of words"
        ><ElRadioButton v-for="(_, name) in SIZES" :key="name" :value="name">{{ name }}</ElRadioButton></ElRadioGroup
      >
    </div>
    <DeedsForm />
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
  </section>
</template>

<style scoped>
.out {
  position: fixed;
  z-index: 30;
  bottom: 16px;
  left: 132px;
  width: min(520px, calc(100vw - 32px));
  max-height: calc(100vh - 32px);
  overflow-y: auto;
  padding: 14px 20px;
  border-color: var(--ink);
  display: grid;
  gap: 4px;
  justify-items: start;
}
.out.right {
  left: auto;
  right: 132px;
}
h2 {
  font-size: 17px;
  font-style: italic;
  font-weight: 500;
}
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
@media (max-width: 900px) {
  .out,
  .out.right {
    left: 16px;
    right: auto;
    bottom: 72px;
    max-height: calc(100vh - 100px);
  }
}
</style>

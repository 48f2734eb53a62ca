<script setup lang="ts">
import { ElRadioButton, ElRadioGroup } from 'element-plus'
import { ref } from 'vue'
import CardSizer from '@/components/CardSizer.vue'
import { say } from '@/lib/numbers'
import { useDesk } from '@/stores/desk'
import { useScreen } from '@/stores/screen'
import CheckAim from './CheckAim.vue'
import CheckGlass from './CheckGlass.vue'
import CheckLines from './CheckLines.vue'
import CheckPen from './CheckPen.vue'
import type { Checked } from './checked'
import HowItWrites from './HowItWrites.vue'
import KeepScreen from './KeepScreen.vue'

/** The screen in front of the user: what its pen tells, how it aims, how straight it is, and how it is to write. */
const STEPS = {
  pen: 'pen',
  aim: 'aim',
  lines: 'straightness',
  glass: 'what it shows',
  writes: 'how it writes',
  keep: 'keep it',
}
const step = ref<keyof typeof STEPS>('pen')
const desk = useDesk()
const screen = useScreen()
const checked = ref<Checked>({})
const sizing = ref(false)
</script>

<template>
  <section class="station screen-check" :class="desk.stationSide">
    <div class="head">
      <h2 class="book">This screen</h2>
      <ElRadioGroup v-model="step" aria-label="What is looked at"
        ><ElRadioButton v-for="(words, key) in STEPS" :key="key" :value="key">{{ words }}</ElRadioButton></ElRadioGroup
      >
      <button type="button" class="plain-button small" @click="sizing = true">
        {{ screen.sized ? `${say(screen.pxPerMm)} px a mm, by a card` : 'Size it by a bank card' }}
      </button>
    </div>
    <CheckPen v-if="step === 'pen'" v-model="checked" />
    <CheckAim v-else-if="step === 'aim'" />
    <CheckLines v-else-if="step === 'lines'" v-model="checked" />
    <CheckGlass v-else-if="step === 'glass'" v-model="checked" />
    <HowItWrites v-else-if="step === 'writes'" />
    <KeepScreen v-else :checked />
    <CardSizer v-if="sizing" @close="sizing = false" />
  </section>
</template>

<style scoped>
.screen-check {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  gap: 14px;
  height: 100%;
  padding: 16px 32px;
  overflow-y: auto;
}
.head {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 20px;
}
h2 {
  font-size: 20px;
  font-style: italic;
  font-weight: 500;
}
.screen-check :deep(.check) {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 280px;
  gap: 24px;
  min-height: 0;
}
.screen-check.right :deep(.check) {
  grid-template-columns: 280px minmax(0, 1fr);
}
.screen-check.right :deep(.told) {
  order: -1;
}
.screen-check :deep(.stack) {
  position: relative;
  min-height: 260px;
}
.screen-check :deep(.check > canvas),
.screen-check :deep(.stack > canvas) {
  display: block;
  width: 100%;
  height: 100%;
  min-height: 260px;
  touch-action: none;
  cursor: crosshair;
  color: var(--on-swatch);
}
.screen-check :deep(.stack > svg) {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
}
.screen-check :deep(.row) {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 14px;
}
.screen-check :deep(.loud) {
  color: var(--attention);
}
.screen-check :deep(.stack > canvas) {
  position: absolute;
  inset: 0;
}
.screen-check :deep(.stack),
.screen-check :deep(.check > canvas) {
  background: var(--swatch-ground);
}
.screen-check :deep(.told) {
  display: grid;
  gap: 10px;
  align-content: start;
  justify-items: start;
}
@media (max-width: 900px) {
  .screen-check {
    padding: 12px 16px;
  }
  .screen-check :deep(.check),
  .screen-check.right :deep(.check) {
    grid-template-columns: minmax(0, 1fr);
    grid-template-rows: minmax(300px, 1fr) auto;
  }
  /* words that come do not move the crosses */
  .screen-check :deep(.told) {
    min-height: 300px;
  }
  .screen-check.right :deep(.told) {
    order: 0;
  }
}
</style>

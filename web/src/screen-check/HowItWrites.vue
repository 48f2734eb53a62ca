<script setup lang="ts">
import { ElCheckbox, ElRadioButton, ElRadioGroup } from 'element-plus'
import { ref } from 'vue'
import { useFrame } from '@/stores/frame'
import { SETTLES, useScreenSettings } from '@/stores/screen-settings'

/** What slow panels want of writing, each by itself, and what it buys. */
const settings = useScreenSettings()
const frame = useFrame()
const canStayAwake = 'wakeLock' in navigator
const [BLACK_MS, WHITE_MS] = [400, 400]
const blink = ref('')
function clearGhosts() {
  blink.value = 'black'
  setTimeout(() => (blink.value = 'white'), BLACK_MS)
  setTimeout(() => (blink.value = ''), BLACK_MS + WHITE_MS)
}
</script>

<template>
  <div class="ways">
    <button type="button" class="word-button" :aria-pressed="settings.slow" @click="settings.beSlow(!settings.slow)">
      {{ settings.slow ? 'Write as a quick screen does' : 'All that e-paper likes' }}
    </button>
    <ElCheckbox v-model="settings.plain">
      plain ink while writing
      <span class="small"
        >black or white with hard edges: pixels a fast path sets at once. Washes stay as they are</span
      >
    </ElCheckbox>
    <div class="row">
      <span>settled ink comes</span>
      <ElRadioGroup v-model="settings.settles" aria-label="Settled ink comes"
        ><ElRadioButton v-for="(_, words) in SETTLES" :key="words" :value="words">{{
          words
        }}</ElRadioButton></ElRadioGroup
      >
      <span class="small">after the pen has paused, one full picture instead of one a stroke</span>
    </div>
    <ElCheckbox v-model="settings.turns">
      the page turns by views
      <span class="small">instead of following the fingers: one picture a turn</span>
    </ElCheckbox>
    <ElCheckbox v-if="settings.canCarry" v-model="settings.carries">
      the system carries the line on to the nib
      <span class="small">plain round pens only; what it draws cannot be timed from here: film it</span>
    </ElCheckbox>
    <ElCheckbox v-model="frame.awake" :disabled="!canStayAwake">
      the screen stays awake while you write
      <span v-if="!canStayAwake" class="small">only over a trusted connection</span>
    </ElCheckbox>
    <button type="button" class="word-button" @click="clearGhosts">Clear ghosts</button>
    <Teleport to="body"
      ><div v-if="blink" class="blink" :style="{ background: blink }" aria-hidden="true" data-blink
    /></Teleport>
  </div>
</template>

<style scoped>
.ways {
  display: grid;
  gap: 6px;
  align-content: start;
  justify-items: start;
  max-width: 640px;
}
.el-checkbox {
  min-height: var(--target);
  height: auto;
  white-space: normal;
}
.ways :deep(.small) {
  display: block;
  line-height: 1.3;
}
.blink {
  position: fixed;
  z-index: 90;
  inset: 0;
}
</style>

<script setup lang="ts">
import { ElSlider } from 'element-plus'
import { computed, ref, useTemplateRef } from 'vue'
import { usePopover } from '@/composables/use-popover'
import { CARD_MM, useScreen } from '@/stores/screen'
import { say } from '@/lib/numbers'

/** The outline of a bank card, matched to a real one, so that millimetres on this screen are millimetres. */
const emit = defineEmits<{ close: [] }>()
const root = useTemplateRef<HTMLElement>('root')
usePopover(root, () => emit('close'), false)
const screen = useScreen()
const px = ref(screen.pxPerMm)
const outline = computed(() => ({
  width: `${CARD_MM.width * px.value}px`,
  height: `${CARD_MM.height * px.value}px`,
  borderRadius: `${CARD_MM.corner * px.value}px`,
}))
function keep() {
  screen.size(px.value)
  emit('close')
}
</script>

<template>
  <section ref="root" class="sizer card" role="dialog" aria-label="Size of this screen" tabindex="-1">
    <p class="book">
      Hold a bank card against the glass and make the outline as large as the card: {{ CARD_MM.width.toFixed(2) }} ×
      {{ CARD_MM.height }} mm.
    </p>
    <div class="place"><div class="outline" :style="outline" data-card /></div>
    <label class="inline small"
      >size
      <ElSlider
        v-model="px"
        :min="2"
        :max="12"
        :step="0.01"
        :show-tooltip="false"
        aria-label="Pixels a millimetre"
      /><span>{{ say(px) }} px a mm</span></label
    >
    <div class="ends">
      <button type="button" class="word-button strong" @click="keep">It fits</button>
      <button type="button" class="word-button" @click="emit('close')">Leave it</button>
    </div>
  </section>
</template>

<style scoped>
.sizer {
  position: fixed;
  z-index: 30;
  inset: 40px 40px auto;
  max-width: 1160px;
  padding: 16px 24px;
  border-color: var(--ink);
  max-height: calc(100vh - 80px);
  overflow: auto;
}
.place {
  min-height: 220px;
  padding: 16px 0;
  overflow: auto;
}
.outline {
  border: 2px solid var(--ink);
  background: var(--paper);
}
.inline {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) auto;
  align-items: center;
  gap: 16px;
}
.ends {
  display: flex;
  gap: 12px;
  margin-top: 8px;
}
</style>

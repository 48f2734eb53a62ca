<script setup lang="ts">
import { ElOption, ElSelect } from 'element-plus'
import { computed } from 'vue'
import { GESTURE_ACTIONS, useGestureActions, type GestureAction, type Trigger } from '@/stores/gesture-actions'

/** What a button, a tap or a swipe is set to do. */
const props = defineProps<{ trigger: Trigger; words: string; label: string }>()
const gestures = useGestureActions()
/** A button held while the pen goes can say what its way does; taps cannot be held. */
const offered = computed(() =>
  (Object.keys(GESTURE_ACTIONS) as GestureAction[]).filter(
    (deed) => props.trigger !== 'eraser' || ['nothing', 'rub', 'choose'].includes(deed),
  ),
)
</script>

<template>
  <label class="small">
    {{ words }}
    <ElSelect
      :model-value="gestures.deedOf(trigger)"
      :aria-label="label"
      style="width: 190px"
      @change="(deed: GestureAction) => (gestures.set = { ...gestures.set, [trigger]: deed })"
    >
      <ElOption v-for="deed in offered" :key="deed" :value="deed" :label="GESTURE_ACTIONS[deed]" />
    </ElSelect>
  </label>
</template>

<style scoped>
label {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  min-height: var(--target);
}
</style>

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
    (action) => props.trigger !== 'eraser' || ['nothing', 'rub', 'choose'].includes(action),
  ),
)
</script>

<template>
  <label class="small">
    {{ words }}
    <ElSelect
      :model-value="gestures.actionOf(trigger)"
      :aria-label="label"
      style="width: 190px"
      @change="(action: GestureAction) => (gestures.set = { ...gestures.set, [trigger]: action })"
    >
      <ElOption v-for="action in offered" :key="action" :value="action" :label="GESTURE_ACTIONS[action]" />
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

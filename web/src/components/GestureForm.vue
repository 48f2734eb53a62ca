<script setup lang="ts">
import { ElInput } from 'element-plus'
import { ref } from 'vue'
import {
  GESTURE_ACTIONS,
  HELD,
  SWIPES,
  TRIGGERS,
  useGestureActions,
  type GestureAction,
} from '@/stores/gesture-actions'
import GestureChoice from './GestureChoice.vue'

/** What buttons, taps and keys of one's own do. */
const gestures = useGestureActions()
const TAKEN = 'wrcu+-=?[]0123456789'
const said = ref('')
const own = (Object.keys(GESTURE_ACTIONS) as GestureAction[]).filter((action) => action !== 'nothing')
function giveKey(action: GestureAction, typed: string) {
  const key = typed.trim().slice(-1).toLowerCase()
  const other = own.find((d) => d !== action && key && gestures.keys[d] === key)
  said.value = TAKEN.includes(key) && key ? `“${key}” does something already.` : ''
  if (said.value) return
  gestures.keys = { ...gestures.keys, ...(other ? { [other]: '' } : {}), [action]: key }
}
</script>

<template>
  <div class="gestures">
    <GestureChoice
      v-for="(words, trigger) in TRIGGERS"
      :key="trigger"
      :trigger
      :words="HELD.includes(trigger) ? `${words}, held` : words"
      :label="words"
    />
    <details>
      <summary class="small">Swipes of fingers</summary>
      <GestureChoice
        v-for="{ trigger, words } in SWIPES"
        :key="trigger"
        :trigger
        :words
        :label="`A swipe of ${words}`"
      />
    </details>
    <details>
      <summary class="small">Keys of one's own</summary>
      <label v-for="action in own" :key="action" class="small">
        {{ GESTURE_ACTIONS[action] }}
        <ElInput
          :model-value="gestures.keys[action] ?? ''"
          :aria-label="`Key for ${GESTURE_ACTIONS[action]}`"
          maxlength="2"
          style="width: 56px"
          @input="(typed: string) => giveKey(action, typed)"
        />
      </label>
      <p v-if="said" class="small said" role="alert">{{ said }}</p>
    </details>
  </div>
</template>

<style scoped>
.gestures,
details[open] {
  display: grid;
  gap: 4px;
  width: 100%;
}
label {
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  min-height: var(--target);
}
summary {
  min-height: var(--target);
  line-height: var(--target);
  cursor: pointer;
}
.said {
  color: var(--harm);
}
</style>

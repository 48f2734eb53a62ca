<script setup lang="ts">
import { ElInput, ElRadioButton, ElRadioGroup } from 'element-plus'
import { reactive } from 'vue'
import { api, take, type HandItem } from '@/api/client'
import { useDesk } from '@/stores/desk'
import ValueSlider from './ValueSlider.vue'

const emit = defineEmits<{ made: [id: string] }>()
const desk = useDesk()
const hand = reactive<Record<string, unknown>>({ ...desk.hand?.hand, name: 'My hand' })
const fields = desk.desk?.hand_fields ?? []

async function make() {
  await desk.attempt(async () => {
    const id = `hand-${crypto.randomUUID().slice(0, 8)}`
    const made = await take(api.POST('/api/hands', { body: { id, hand: hand as HandItem['hand'] } }))
    desk.desk?.hands.push(made)
    emit('made', id)
  })
}
</script>

<template>
  <div class="form">
    <template v-for="f in fields" :key="f.name">
      <label v-if="f.kind === 'text'"
        >{{ f.label }} <ElInput v-model="hand[f.name] as string" :aria-label="f.label"
      /></label>
      <label v-else-if="f.kind === 'choice'"
        >{{ f.label }}
        <ElRadioGroup v-model="hand[f.name] as string" :aria-label="f.label"
          ><ElRadioButton v-for="o in f.options" :key="o" :value="o">{{ o }}</ElRadioButton></ElRadioGroup
        >
      </label>
      <ValueSlider v-else :field="f" :value="hand[f.name] as number" @change="(v) => (hand[f.name] = v)" />
    </template>
    <button type="button" class="word-button strong" @click="make">Keep this hand</button>
  </div>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px 24px;
  align-items: end;
}
label {
  display: grid;
  gap: 4px;
  font-size: var(--small);
}
</style>

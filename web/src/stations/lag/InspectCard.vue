<script setup lang="ts">
import { ElInput } from 'element-plus'
import { ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import ReadingNote from '@/components/ReadingNote.vue'
import { percent, say } from '@/components/numbers'
import { useDesk } from '@/stores/desk'
import { useInk } from '@/stores/ink'

/** What the digitiser behind this sheet's strokes reports, and a device of one's own made from it. */
const desk = useDesk()
const ink = useInk()
const found = shallowRef<Schemas['InspectReply']>()
const refusal = ref('')
const name = ref('My device')
const source = () => ({ sheet_id: desk.sheet!.id, part: 'sheet' as const, stroke_ids: null })

watch([() => desk.sheet?.id, () => ink.changed], async () => {
  if (!desk.sheet) return
  try {
    found.value = await take(api.POST('/api/inspect', { body: source() }))
    refusal.value = ''
  } catch (error) {
    found.value = undefined
    refusal.value = (error as Error).message
  }
}, { immediate: true })

const keep = () => desk.attempt(async () => {
  const made = await take(api.POST('/api/devices', { body: { name: name.value, like: desk.device!.id, source: source() } }))
  desk.desk?.devices.push(made)
  await desk.changeSheet({ device_id: made.id })
})
</script>

<template>
  <ReadingNote title="What is reported" help="Read off the strokes of this sheet: how often the device reports, how evenly, with how many levels of force, and what it leaves out.">
    <template v-if="found">
      <p><span class="number">{{ say(found.report_hz) }}</span> a second, ± {{ percent(found.clock_jitter) }}; {{ say(found.per_frame) }} a frame</p>
      <p class="small">{{ found.levels }} force levels seen, from {{ percent(found.force_low) }} to {{ percent(found.force_high) }}<template v-if="found.rest_noise_mm !== null">; noise at rest {{ say(found.rest_noise_mm) }} mm</template></p>
      <p v-for="w in found.words" :key="w" class="small missing">{{ w }}</p>
    </template>
    <p v-else class="small">{{ refusal }}</p>
    <template v-if="found" #more>
      <div class="own"><ElInput v-model="name" maxlength="60" aria-label="Name of the device" /><button type="button" class="word-button" :disabled="!name.trim()" @click="keep">Keep</button></div>
    </template>
  </ReadingNote>
</template>

<style scoped>
.missing { color: var(--attention); }
.own { display: grid; grid-template-columns: 1fr auto; gap: 6px; margin-top: 6px; }
.own .word-button { padding: 0 10px; }
</style>

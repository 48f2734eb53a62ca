<script setup lang="ts">
import { onMounted } from 'vue'
import PopOver from '@/components/PopOver.vue'
import { useLastTouch } from '@/stores/last-touch'
import { usePalm } from '@/stores/palm'

/** What the palm rules made of the last touch, in words; one press says what it was where they were wrong. */
const emit = defineEmits<{ close: [] }>()
const last = useLastTouch()
const palm = usePalm()
onMounted(() => void last.ask())
</script>

<template>
  <PopOver title="The last touch" label="The last touch" @close="emit('close')">
    <p v-if="last.why" data-why>{{ last.why.words }}</p>
    <p v-else class="small">It is too long ago to say why.</p>
    <template v-if="last.toldNow">
      <p role="status">
        Kept: it was {{ last.toldNow.palm ? 'your palm' : 'your finger' }}. The next search for rules, in Palm, uses
        {{ palm.told === 1 ? 'it' : `it and ${palm.told - 1} more` }}.
      </p>
      <button type="button" class="word-button" @click="last.takeBack()">Take that back</button>
    </template>
    <span v-else-if="last.why" class="says">
      <button type="button" class="word-button" @click="last.tell(true)">That was my palm</button>
      <button type="button" class="word-button" @click="last.tell(false)">That was my finger</button>
    </span>
    <button type="button" class="word-button" @click="emit('close')">Close</button>
  </PopOver>
</template>

<style scoped>
.says {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
</style>

<script setup lang="ts">
import { ElInput } from 'element-plus'
import { ref, watch } from 'vue'

/** Words that something is called: typed freely, and given on with Enter or when the field is left. */
const { value, needed } = defineProps<{ value: string | undefined; needed?: boolean }>()
const emit = defineEmits<{ change: [words: string] }>()
const text = ref(value ?? '')
watch(
  () => value,
  (now) => (text.value = now ?? ''),
)

function give(words: string) {
  if (needed && !words.trim())
    text.value = value ?? '' // it is called something
  else if (words.trim() !== value) emit('change', words.trim())
}
</script>

<template>
  <ElInput v-model="text" @change="give" />
</template>

<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useDesk } from '@/stores/desk'
import { useInk } from '@/stores/ink'

/**
 * Offer to ink strokes again in the newest revision of the pen in hand: those named, of whatever pen, or all of its own
 * on the sheet.
 */
const props = defineProps<{ ids?: string[] }>()
const desk = useDesk()
const ink = useInk()
const busy = ref(false)
const done = ref<{ strokes: number }>()
const words = computed(() => {
  const n = props.ids?.length
  if (!n) return `Ink this sheet again in revision ${desk.pen?.newest}`
  const which = n === 1 ? 'this stroke' : `these ${n} strokes`
  return `Ink ${which} in ${desk.pen?.recipe.name}, revision ${desk.pen?.newest}`
})
watch(
  [() => desk.pen?.id, () => desk.pen?.revision, () => desk.sheet?.id, () => props.ids],
  () => (done.value = undefined),
)

async function again() {
  const [sheet, pen] = [desk.sheet, desk.pen]
  if (!sheet || !pen) return
  busy.value = true
  const strokes = await desk.attempt(() =>
    ink.inkAgain(sheet.id, [{ pen_id: pen.id, revision: pen.newest, ids: props.ids ?? null }]),
  )
  busy.value = false
  if (strokes !== undefined) done.value = { strokes }
}
async function undo() {
  await desk.attempt(() => ink.undo(desk.sheet!.id))
  done.value = undefined
}
</script>

<template>
  <p v-if="done" class="small again" role="status">
    {{ done.strokes ? `${done.strokes} ${done.strokes === 1 ? 'stroke' : 'strokes'} inked again.` : 'All of it was.' }}
    <button v-if="done.strokes" type="button" class="plain-button" @click="undo">Take that back</button>
  </p>
  <button v-else type="button" class="word-button" :disabled="busy" @click="again">{{ words }}</button>
</template>

<style scoped>
.again {
  display: flex;
  gap: 12px;
  align-items: center;
}
</style>

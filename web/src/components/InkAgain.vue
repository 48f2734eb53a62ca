<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { computed, ref, watch } from 'vue'
import { useDesk } from '@/stores/desk'
import { asSet, notKept } from '@/stores/draft'
import { useInk } from '@/stores/ink'

/**
 * Offer to ink strokes again as the pen in hand writes now, kept or not: those named, of whatever pen, or all of its
 * own on the sheet.
 */
const props = defineProps<{ ids?: string[] }>()
const desk = useDesk()
const ink = useInk()
const done = ref<{ strokes: number }>()
const words = computed(() => {
  const n = props.ids?.length
  const as = desk.pen && notKept(desk.pen) ? 'as it writes now' : `revision ${desk.pen?.newest}`
  if (!n) return `Ink this sheet again in ${desk.pen?.recipe.name}, ${as}`
  const which = n === 1 ? 'this stroke' : `these ${n} strokes`
  return `Ink ${which} in ${desk.pen?.recipe.name}, ${as}`
})
watch(
  [() => desk.pen?.id, () => desk.pen && JSON.stringify(asSet(desk.pen)), () => desk.sheet?.id, () => props.ids],
  () => (done.value = undefined),
)

async function again() {
  const [sheet, pen] = [desk.sheet, desk.pen]
  if (!sheet || !pen) return
  const strokes = await desk.attempt(() => ink.inkAgain(sheet.id, pen, props.ids))
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
  <DoWord v-else :does="again">{{ words }}</DoWord>
</template>

<style scoped>
.again {
  display: flex;
  gap: 12px;
  align-items: center;
}
</style>

<script setup lang="ts">
import { useDesk } from '@/stores/desk'
import { useFrame } from '@/stores/frame'
import { useInk } from '@/stores/ink'
import { useJournal } from '@/stores/undo-journal'

/** What is wanted at hand while writing on a small screen, where the sheet's margin is folded away. */
const desk = useDesk()
const frame = useFrame()
const ink = useInk()
const journal = useJournal()
const step = (back: boolean) => {
  const id = desk.sheet?.id
  if (id) void desk.attempt(() => (back ? ink.undo(id) : ink.redo(id)))
}
</script>

<template>
  <button type="button" class="plain-button" :disabled="!journal.undoable(desk.sheet?.id)" @click="step(true)">
    Undo
  </button>
  <button type="button" class="plain-button" :disabled="!journal.redoable(desk.sheet?.id)" @click="step(false)">
    Redo
  </button>
  <button type="button" class="plain-button" :aria-expanded="frame.unfolded === 'margin'" @click="frame.turn('margin')">
    Margin
  </button>
</template>

<style scoped>
button:disabled {
  opacity: 0.6;
}
</style>

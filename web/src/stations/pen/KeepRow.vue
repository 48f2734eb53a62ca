<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { useEventListener } from '@vueuse/core'
import { ElOption, ElSelect } from 'element-plus'
import type { Schemas } from '@/api/client'
import InkAgain from '@/components/InkAgain.vue'
import { useKeeping } from '@/composables/use-keeping'
import { pageName } from '@/lib/names'
import { when } from '@/lib/numbers'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'

/** Keep what was tuned, go back and forth in it, by keys too, and choose the ink it is tuned against. */
defineProps<{ source: Schemas['Source'] }>()
/** Whose ink; undefined for that of the sheet on the desk. */
const sheetId = defineModel<string>('sheetId')
const part = defineModel<'line' | 'sheet'>('part', { required: true })
const desk = useDesk()
const draft = useDraft()
const { keep, justKept } = useKeeping()

function goBack(revision: number) {
  const then = draft.revisions.find((r) => r.revision === revision)
  if (then) draft.replace(then.recipe)
  draft.done()
}

useEventListener('keydown', (event: KeyboardEvent) => {
  if (!(event.ctrlKey || event.metaKey) || (event.target as HTMLElement).closest('input[type=text], textarea')) return
  const key = event.key.toLowerCase()
  if (key === 'z' && event.shiftKey) draft.redo()
  else if (key === 'z') draft.undo()
  else if (key === 's') void keep()
  else return
  event.preventDefault()
})
</script>

<template>
  <div class="keep">
    <DoWord class="strong" :disabled="!draft.changed" :does="keep"> Keep as revision {{ draft.next }} </DoWord>
    <InkAgain v-if="justKept && desk.sheet?.strokes" />
    <button type="button" class="word-button" :disabled="!draft.undoable" @click="draft.undo">Undo</button>
    <button type="button" class="word-button" :disabled="!draft.redoable" @click="draft.redo">Redo</button>
    <ElSelect
      class="from"
      :title="desk.desk!.sheets.find((x) => x.id === source.sheet_id)?.name"
      :model-value="source.sheet_id"
      aria-label="Whose ink"
      @change="(id: string) => (sheetId = id)"
    >
      <ElOption
        v-for="s in desk.desk!.sheets.filter((x) => x.strokes || x.id === source.sheet_id)"
        :key="s.id"
        :value="s.id"
        :label="pageName(s)"
      />
    </ElSelect>
    <ElSelect v-model="part" class="part" aria-label="How much of it"
      ><ElOption value="line" label="its longest line" /><ElOption value="sheet" label="all of it"
    /></ElSelect>
    <ElSelect
      class="back"
      :model-value="undefined"
      placeholder="Go back to"
      aria-label="Go back to a revision"
      @change="goBack"
    >
      <ElOption
        v-for="r in draft.revisions"
        :key="r.revision"
        :value="r.revision"
        :label="`revision ${r.revision}, ${when(r.created_at)}${r.note ? ', ' + r.note : ''}`"
      />
    </ElSelect>
  </div>
</template>

<style scoped>
.keep {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
}
.keep .word-button {
  padding: 0 12px;
  white-space: nowrap;
}
.from {
  width: 160px;
  margin-left: auto;
}
.part {
  width: 148px;
}
.back {
  width: 130px;
}

@media (max-width: 900px) {
  .from {
    margin-left: 0;
  }
}
</style>

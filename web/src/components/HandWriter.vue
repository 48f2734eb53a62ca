<script setup lang="ts">
import { ElInput } from 'element-plus'
import { ref } from 'vue'
import { api, take, type Box } from '@/api/client'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { useInk } from '@/stores/ink'
import { useJournal } from '@/stores/undo-journal'

/** Let the simulated hand of the sentence write, below what is there. */
const desk = useDesk()
const ink = useInk()
const journal = useJournal()
const draft = useDraft()
const text = ref('hollow sedge, trap three')
const seed = ref(1)
const busy = ref(false)

async function write(prompts: boolean) {
  const id = desk.sheet?.id
  if (!id) return
  busy.value = true
  await desk.attempt(async () => {
    const answer = await ink.inLine(() =>
      take(
        api.POST('/api/sheets/{sheet_id}/write', {
          params: { path: { sheet_id: id } },
          body: { text: prompts ? '' : text.value, prompts, seed: seed.value, draft: draft.unkept },
        }),
      ),
    )
    seed.value += 1
    journal.note(id, { ids: answer.answers.filter((a) => a.state !== 'refused').map((a) => a.id), binned: true })
    ink.made({ sheet: answer.sheet, box: (answer.box_mm ?? undefined) as Box | undefined })
  })
  busy.value = false
}
</script>

<template>
  <form class="writer" @submit.prevent="write(false)">
    <ElInput v-model="text" maxlength="400" aria-label="Text for the simulated hand" />
    <button type="submit" class="word-button" :disabled="busy || !text.trim()">Let the hand write</button>
    <button v-if="desk.sheet?.prompts" type="button" class="word-button" :disabled="busy" @click="write(true)">
      Let it do the prompts
    </button>
  </form>
</template>

<style scoped>
.writer {
  display: grid;
  gap: 8px;
}
</style>

<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { ref, shallowRef } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useBringIn } from '@/composables/use-files'
import { useCabinet } from '@/stores/cabinet'
import { useDesk } from '@/stores/desk'
import SharedPen from './SharedPen.vue'

/** An archive is looked through first: what would come, what is here already, what would lie beside another. */
const cabinet = useCabinet()
const desk = useDesk()
const waiting = shallowRef<{ file: File; look: Schemas['ArchiveCame'] }>()
const pen = shallowRef<File>()
const took = ref('')
const said = shallowRef<Schemas['ArchiveCame']>()
const busy = ref('')
const raw = (file: File) => ({
  body: '' as never,
  bodySerializer: () => file,
  headers: { 'Content-Type': 'application/zip' },
})
async function ask(file: File, onlyLook: boolean) {
  busy.value = onlyLook ? 'looking through it' : 'bringing it in'
  try {
    return await take(api.POST('/api/archive', { params: { query: { only_look: onlyLook } }, ...raw(file) }))
  } finally {
    busy.value = ''
  }
}
const choose = useBringIn('Archive to bring in', '.zip', async (file) => {
  said.value = undefined
  took.value = ''
  pen.value = waiting.value = undefined
  const look = await ask(file, true)
  // on whose hand would it be seen, before there is a sheet
  if (look.shared_pen && desk.sheet) pen.value = file
  else waiting.value = { file, look }
})
const comeIn = () =>
  desk.attempt(async () => {
    said.value = await ask(waiting.value!.file, false)
    waiting.value = undefined
    await desk.load()
    const [first] = desk.desk?.sheets ?? []
    if (!desk.sheet && first) await desk.openSheet(first.id)
    cabinet.look()
  })
</script>

<template>
  <div class="in">
    <p class="book first">
      An archive, one thing taken out of a cabinet, or a pen somebody shared. Nothing here is overwritten: what is the
      same is passed over, and what differs comes in beside it.
    </p>
    <div class="row">
      <button type="button" class="word-button strong" :disabled="!!busy" @click="choose">Choose a file</button>
      <span class="small" role="status">{{ busy || took }}</span>
    </div>
    <SharedPen
      v-if="pen"
      :file="pen"
      @done="
        (words) => {
          pen = undefined
          took = words
        }
      "
    />
    <section v-if="waiting" class="card" aria-label="What would come in">
      <h2 class="book">{{ waiting.file.name }}</h2>
      <p>{{ waiting.look.words }}</p>
      <p v-for="words in waiting.look.left_out" :key="words" class="small">Would be left out: {{ words }}.</p>
      <div class="row">
        <DoWord class="strong" :disabled="!!busy" :does="comeIn">Bring it in</DoWord>
        <button type="button" class="word-button" @click="waiting = undefined">Leave it</button>
      </div>
    </section>
    <section v-if="said" aria-label="What came in">
      <p>{{ said.words }}</p>
      <p v-for="words in said.left_out" :key="words" class="small">Left out: {{ words }}.</p>
    </section>
  </div>
</template>

<style scoped>
.in {
  overflow-y: auto;
  padding-bottom: 16px;
}
.first {
  max-width: 64ch;
  font-size: 17px;
  font-style: italic;
}
.row {
  display: flex;
  gap: 14px;
  align-items: center;
  min-height: 52px;
}
.card {
  max-width: 760px;
  padding: 10px 16px;
  border-color: var(--ink);
}
h2 {
  font-size: 17px;
  font-weight: 500;
  overflow-wrap: anywhere;
}
</style>

<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import { api, take, takeFile, type Schemas } from '@/api/client'
import { giveFile, useBringIn } from '@/composables/use-files'
import { useCabinet } from '@/stores/cabinet'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'

/** A pen for others: shared whole, or as plain numbers another driver can take over; and such numbers read back. */
const cabinet = useCabinet()
const desk = useDesk()
const draft = useDraft()
const router = useRouter()
const forms = shallowRef<Schemas['FormItem'][]>([])
void desk.attempt(async () => {
  forms.value = (await take(api.GET('/api/pens/forms'))).forms
})
const said = ref('')
const pen = () => desk.desk!.pens.find((p) => p.id === cabinet.detail!.thing.id)!
const share = () =>
  desk.attempt(async () => {
    const { id, recipe } = pen()
    giveFile(await takeFile(`/api/pens/${id}/shared?sheet_id=${desk.sheet!.id}`), `${recipe.name}.zip`)
    said.value = `${recipe.name}.zip is in your downloads: the pen, its history, your line and its setting cards.`
  })
const pathOf = (form: string) => `/api/pens/${pen().id}/revisions/${pen().revision}/forms/${form}`
const takeOut = (form: Schemas['FormItem']) =>
  desk.attempt(async () => {
    const name = `${pen().recipe.name} ${form.name}.${form.ending}`
    giveFile(await takeFile(pathOf(form.name)), name)
    said.value = `${name} is in your downloads.`
  })
let wanted = ''
const choose = useBringIn('Form to read back', '.csv,.json,.inkml,.xml', async (file) => {
  const asked = {
    params: { path: { pen_id: pen().id, revision: String(pen().revision), form: wanted } },
    body: '' as never,
    bodySerializer: () => file,
    headers: { 'Content-Type': 'application/octet-stream' },
  }
  const told = await take(api.POST('/api/pens/{pen_id}/revisions/{revision}/forms/{form}', asked))
  await desk.changeSheet({ pen_id: pen().id })
  draft.replace(told.recipe)
  desk.news = `${told.words} It is tried on your writing; keep it or undo it.`
  await router.push('/pen')
})
function readBack(form: string) {
  wanted = form
  choose()
}
</script>

<template>
  <h3 class="book">For others</h3>
  <DoWord :does="share">Share it</DoWord>
  <p class="small">With its history, your line in it, what is read there, and a setting card for each device.</p>
  <div v-for="f in forms" :key="f.name" class="form">
    <span>{{ f.words }}</span>
    <span class="acts">
      <button type="button" class="plain-button small" @click="takeOut(f)">take out</button>
      <button type="button" class="plain-button small" @click="readBack(f.name)">read back</button>
    </span>
    <span class="small lacks">It cannot hold {{ f.not_held }}.</span>
  </div>
  <p class="small" role="status">{{ said }}</p>
</template>

<style scoped>
h3 {
  margin: 6px 0 4px;
  font-size: 17px;
  font-style: italic;
  font-weight: 500;
}
.form {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  align-items: center;
  border-top: var(--line) solid var(--rule);
}
.acts {
  display: flex;
  gap: 14px;
}
.lacks {
  grid-column: 1 / -1;
  padding-bottom: 6px;
}
</style>

<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { ElInput, ElOption, ElSelect, ElSwitch } from 'element-plus'
import { computed, shallowRef } from 'vue'
import { api, take, type PenItem } from '@/api/client'
import { useBringIn } from '@/composables/use-files'
import { useOwnPen } from '@/composables/use-own-pen'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'

/** What the pen is called, what it sets out to be, where it is kept. */
const desk = useDesk()
const draft = useDraft()
const binned = shallowRef<PenItem[]>()
const onRoll = computed(() => draft.pen!.roll_place !== null)

const setOnce = (path: string, value: unknown) => {
  draft.set(path, value)
  draft.done()
}

const ownPen = useOwnPen()

const toBin = () =>
  desk.attempt(async () => {
    const gone = draft.pen!
    const next = desk.desk!.pens.find((p) => p.id !== gone.id)
    if (!next) throw new Error('This is the only pen. Duplicate it first.')
    await take(api.PUT('/api/pens/{pen_id}/bin', { params: { path: { pen_id: gone.id } }, body: { binned: true } }))
    await desk.changeSheet({ pen_id: next.id })
    desk.desk!.pens = desk.desk!.pens.filter((p) => p.id !== gone.id)
    binned.value = undefined
  })

const showBin = () =>
  desk.attempt(async () => {
    binned.value = (await take(api.GET('/api/bin/pens'))).pens
  })

const restore = (pen: PenItem) =>
  desk.attempt(async () => {
    await take(api.PUT('/api/pens/{pen_id}/bin', { params: { path: { pen_id: pen.id } }, body: { binned: false } }))
    desk.replacePen({ ...pen, binned: false })
    binned.value = binned.value?.filter((p) => p.id !== pen.id)
  })

const setRoll = (on: boolean) =>
  desk.attempt(async () => {
    const ids = desk.roll.map((p) => p.id).filter((id) => id !== draft.pen!.id)
    await desk.orderRoll(on ? [...ids, draft.pen!.id] : ids)
  })

const bringIn = useBringIn('Pen, JSON', '.json,application/json', async (file) => {
  const made = await take(
    api.POST('/api/pens/files', {
      body: '',
      bodySerializer: () => file,
      headers: { 'Content-Type': 'application/json' },
    }),
  )
  desk.replacePen(made)
  await desk.changeSheet({ pen_id: made.id })
})
</script>

<template>
  <div class="identity">
    <label
      >Name
      <ElInput
        :model-value="draft.recipe!.name"
        maxlength="60"
        aria-label="Name"
        @update:model-value="(v: string) => v.trim() && draft.set('name', v)"
        @change="draft.done"
    /></label>
    <label
      >Sets out to be a
      <ElSelect :model-value="draft.recipe!.kind" aria-label="Kind" @change="(v: string) => setOnce('kind', v)"
        ><ElOption v-for="k in desk.desk!.pen_kinds" :key="k" :value="k"
      /></ElSelect>
    </label>
    <label
      >Note for revision {{ draft.next }}
      <ElInput v-model="draft.note" maxlength="200" aria-label="Note for the next revision" placeholder="what changed"
    /></label>
    <label class="roll"
      >On the pen roll
      <ElSwitch :model-value="onRoll" aria-label="On the pen roll" @change="(v) => setRoll(Boolean(v))"
    /></label>
    <div class="do">
      <DoWord :does="() => ownPen()">Duplicate</DoWord>
      <DoWord :does="toBin">Move to the bin</DoWord>
      <DoWord :does="showBin">Look in the bin</DoWord>
      <button type="button" class="word-button" @click="bringIn">Bring in a pen</button>
    </div>
    <p v-if="binned && !binned.length" class="small">The bin is empty.</p>
    <ul v-else-if="binned">
      <li v-for="p in binned" :key="p.id">
        {{ p.recipe.name }} <button type="button" class="plain-button" @click="restore(p)">put back</button>
      </li>
    </ul>
  </div>
</template>

<style scoped>
.identity {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px 24px;
}
label {
  display: grid;
  gap: 2px;
  font-size: var(--small);
}
.roll {
  align-items: center;
  grid-template-columns: auto auto;
  justify-content: start;
  gap: 16px;
}
.do {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.file {
  display: inline-flex;
  align-items: center;
  cursor: pointer;
  font-size: var(--size);
}
.file:focus-within {
  outline: 3px solid var(--accent);
  outline-offset: 2px;
}
ul {
  grid-column: 1 / -1;
  list-style: none;
}
li {
  display: flex;
  gap: 16px;
  align-items: center;
}
</style>

<script setup lang="ts">
import { useTemplateRef } from 'vue'
import { api, take } from '@/api/client'
import { useDesk } from '@/stores/desk'
import { usePalm } from '@/stores/palm'
import { usePalmTrial } from '@/stores/palm-trial'

/** The contacts of the drill on the map as CSV, and those of another recording brought in for it. */
const trial = usePalmTrial()
const palm = usePalm()
const desk = useDesk()
const chooser = useTemplateRef<HTMLInputElement>('chooser')

const takeOut = () =>
  desk.attempt(async () => {
    const own = trial.own.find((p) => p.drill === trial.drill)
    const asked = own
      ? api.POST('/api/palm/contacts.csv', { body: own.stream, parseAs: 'blob' })
      : api.GET('/api/palm/contacts.csv', {
          params: { query: { ...palm.pair!, drill: trial.drill, seed: trial.seed } },
          parseAs: 'blob',
        })
    const link = document.createElement('a')
    link.href = URL.createObjectURL((await take<Blob>(asked as never)) as Blob)
    link.download = `${trial.drill}.csv`
    link.click()
    URL.revokeObjectURL(link.href)
  })
async function bringIn() {
  const file = chooser.value?.files?.[0]
  if (!file) return
  await desk.attempt(async () => {
    const [width_mm, height_mm] = trial.reply!.screen_mm as [number, number]
    const stream = await take(
      api.POST('/api/palm/contacts', {
        params: { query: { width_mm, height_mm } },
        body: '',
        bodySerializer: () => file,
        headers: { 'Content-Type': 'text/csv' },
      }),
    )
    const drill = trial.drill
    trial.own = [
      ...trial.own.filter((p) => p.drill !== drill),
      { drill, stream: { ...stream, screen_mm: [width_mm, height_mm] } },
    ]
  })
  chooser.value!.value = ''
}
</script>

<template>
  <p class="files small">
    <button type="button" class="plain-button" @click="takeOut">Contacts as CSV</button>
    <button type="button" class="plain-button" @click="chooser?.click()">Bring contacts in</button>
    <input
      ref="chooser"
      type="file"
      accept=".csv,text/csv"
      class="visually-hidden"
      tabindex="-1"
      aria-label="Contacts, CSV"
      @change="bringIn"
    />
  </p>
</template>

<style scoped>
.files {
  display: flex;
  gap: 20px;
  margin-top: 6px;
}
.plain-button {
  text-decoration: underline;
}
</style>

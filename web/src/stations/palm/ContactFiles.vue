<script setup lang="ts">
import { api, take, takeFile } from '@/api/client'
import { giveFile, useBringIn } from '@/composables/use-files'
import { useDesk } from '@/stores/desk'
import { usePalm } from '@/stores/palm'
import { usePalmTrial } from '@/stores/palm-trial'

/** The contacts of the drill on the map as CSV, and those of another recording brought in for it. */
const trial = usePalmTrial()
const palm = usePalm()
const desk = useDesk()

const query = () =>
  new URLSearchParams({ ...palm.pair!, drill: trial.drill, hard: String(trial.hard), seed: String(trial.seed) })

const takeOut = () =>
  desk.attempt(async () => {
    const own = trial.own.filter((p) => p.drill === trial.drill)[(trial.part?.take ?? 1) - 1]
    const data = own
      ? await take(api.POST('/api/palm/contacts.csv', { body: own.stream, parseAs: 'blob' }))
      : await takeFile(`/api/palm/contacts.csv?${query()}`)
    giveFile(data, `${trial.drill}.csv`)
  })

const bringIn = useBringIn('Contacts, CSV', '.csv,text/csv', async (file) => {
  const [width_mm, height_mm] = trial.reply!.screen_mm
  const drill = trial.drill
  const stream = await take(
    api.POST('/api/palm/contacts', {
      params: { query: { width_mm, height_mm } },
      body: '',
      bodySerializer: () => file,
      headers: { 'Content-Type': 'text/csv' },
    }),
  )
  trial.did({ drill, stream, enlarged: false }, [])
})
</script>

<template>
  <p class="files small">
    <button type="button" class="plain-button" @click="takeOut">Contacts as CSV</button>
    <button type="button" class="plain-button" @click="bringIn">Bring contacts in</button>
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

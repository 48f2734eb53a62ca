<script setup lang="ts">
import { ref } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useDesk } from '@/stores/desk'
import { useLineup } from '@/stores/lineup'

/** Line-ups that were kept: laid out as they were, or measured again with the pens of today. */
defineProps<{ busy: boolean }>()
const emit = defineEmits<{ again: [kept: Schemas['LineupHead']] }>()
const desk = useDesk()
const lineup = useLineup()
void lineup.needKept()
const binned = ref<Schemas['LineupHead']>()
const bin = (one: Schemas['LineupHead'], away: boolean) =>
  desk.attempt(async () => {
    const params = { path: { kept_id: one.id } }
    const told = await take(api.PUT('/api/lineup/kept/{kept_id}/bin', { params, body: { binned: away } }))
    lineup.kept = told.lineups
    binned.value = away ? one : undefined
  })
const day = (at: string) => new Date(at).toLocaleDateString(undefined, { day: 'numeric', month: 'short' })
</script>

<template>
  <section v-if="lineup.kept.length || binned" class="kept" aria-label="Kept line-ups">
    <h2 class="book">Kept</h2>
    <p v-if="binned" class="small" role="status">
      “{{ binned.name }}” is in the bin.
      <button type="button" class="plain-button" @click="bin(binned, false)">put it back</button>
    </p>
    <div v-for="one in lineup.kept" :key="one.id" class="one">
      <button
        type="button"
        class="plain-button name"
        :aria-pressed="lineup.keptAs === one.id"
        :disabled="busy"
        @click="desk.attempt(() => lineup.openKept(one))"
      >
        {{ one.name }}
      </button>
      <span class="small">{{ one.candidates }} candidates, {{ day(one.created_at) }}</span>
      <span class="acts">
        <button type="button" class="plain-button small" :disabled="busy" @click="emit('again', one)">
          measure again
        </button>
        <button type="button" class="plain-button small" :disabled="busy" @click="bin(one, true)">bin</button>
      </span>
    </div>
  </section>
</template>

<style scoped>
.kept {
  overflow-y: auto;
  max-height: 34%;
  border-top: var(--line) solid var(--rule);
  scrollbar-width: thin;
}
h2 {
  margin: 6px 0 0;
  font-size: 15px;
  font-style: italic;
  font-weight: 500;
}
.one {
  display: grid;
  padding-bottom: 4px;
}
.name {
  justify-self: start;
  text-align: left;
}
.name[aria-pressed='true'] {
  border-bottom: 3px solid var(--accent);
  font-weight: 650;
}
.acts {
  display: flex;
  gap: 16px;
}
</style>

<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { inWords } from '@/lib/readings'
import { useLineup } from '@/stores/lineup'

/** What moved since a line-up was kept, and what of that is noise. */
defineProps<{ name: string; told: Schemas['MovedSince']; leftOut: string[] }>()
const lineup = useLineup()
const said = (key: string, value: number) => inWords(lineup.info!.criteria.find((c) => c.key === key)!.reading, value)
</script>

<template>
  <section class="moved" aria-label="What moved since">
    <p class="book first">
      “{{ name }}” measured again: {{ told.same }} readings are what they were, {{ told.moved.length || 'none' }}
      {{ told.moved.length === 1 ? 'is' : 'are' }} not.
    </p>
    <p v-for="words in told.changed" :key="words" class="small">Since then {{ words }}.</p>
    <p v-for="words in leftOut" :key="words" class="small">Left out: {{ words }}.</p>
    <table v-if="told.moved.length" class="small">
      <thead>
        <tr>
          <th scope="col">candidate</th>
          <th scope="col">criterion</th>
          <th scope="col">then</th>
          <th scope="col">now</th>
          <th scope="col">which is</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="m in told.moved" :key="`${m.key} ${m.criterion}`">
          <td>{{ m.name }}</td>
          <td>{{ lineup.labelOf(m.criterion) }}</td>
          <td>{{ said(m.criterion, m.before) }}</td>
          <td>{{ said(m.criterion, m.now) }}</td>
          <td>{{ m.sure ? (m.better ? 'better, surely' : 'worse, surely') : 'within noise' }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>

<style scoped src="./lineup.css" />

<style scoped>
.moved {
  overflow-x: auto;
}
</style>

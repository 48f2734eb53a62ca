<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { useLineup } from '@/stores/lineup'

/** Everyone's place by what counts for whom, in the order they stand in now. */
defineProps<{ presets: Schemas['GroupRanking']['presets']; order: string }>()
const lineup = useLineup()
const nameOf = (key: string) => lineup.run?.candidates.find((c) => c.key === key)?.name ?? key
</script>

<template>
  <table class="small">
    <caption class="small">
      Places by what counts for whom
    </caption>
    <thead>
      <tr>
        <td />
        <th v-for="name in Object.keys(presets)" :key="name" scope="col">{{ name }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="key in order.split('\n')" :key>
        <th scope="row">{{ nameOf(key) }}</th>
        <td v-for="(places, name) in presets" :key="name">{{ places[key] || '–' }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped src="./lineup.css" />

<style scoped>
@media (max-width: 900px) {
  table {
    display: block;
    overflow-x: auto;
  }
}
</style>

<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { roughly } from '@/lib/numbers'

/** Stated, modelled, live and filmed side by side, each with what it covers and how it lies to the model. */
defineProps<{ figures: Schemas['Figure'][] }>()
const MISSING: Record<string, string> = {
  stated: 'this device states none; give one when you keep a device of your own',
  live: 'write in the field beside',
  filmed: 'film the pen in the margin',
  felt: 'write under hidden delays',
}
const missing = (have: Schemas['Figure'][]) =>
  Object.entries(MISSING).filter(([name]) => !have.some((f) => f.name === name))
</script>

<template>
  <table>
    <tbody>
      <tr v-for="f in figures" :key="f.name" :data-figure="f.name">
        <th scope="row">{{ f.name }}</th>
        <td class="ms">
          <b>{{ roughly(f.ms) }}</b><template v-if="f.plus_minus_ms !== null">
            ± {{ roughly(f.plus_minus_ms) }}</template
          >
          ms
        </td>
        <td>
          {{ f.covers }}<span class="small">{{ f.words }}</span>
        </td>
      </tr>
      <tr v-for="[name, words] in missing(figures)" :key="name" class="small">
        <th scope="row">{{ name }}</th>
        <td>none yet</td>
        <td>{{ words }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
.ms {
  white-space: nowrap;
}
td .small {
  display: block;
}
</style>

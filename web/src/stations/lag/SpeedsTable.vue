<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { bare, inWords } from '@/lib/readings'
import { useDesk } from '@/stores/desk'

type Key = Exclude<keyof Schemas['AtSpeed'], 'speed_mm_s'>

/** What quick small writing loses on this device, speed by speed. The first row is the speed asked for. */
const props = defineProps<{ speeds: Schemas['AtSpeed'][] }>()
const desk = useDesk()
const known = (key: string) => desk.reading('speeds', key)!
/** The columns, each with a second reading in small print where there is one. */
const COLUMNS: { key: Key; beside?: Key; silent?: Key }[] = [
  { key: 'p50_ms' },
  { key: 'gap_mm_p50', beside: 'gap_mm_p95' },
  { key: 'detail_mm' },
  { key: 'start_mm', beside: 'strokes_lost', silent: 'strokes_lost' },
  { key: 'bridged', beside: 'bridged_mm', silent: 'bridged' },
  { key: 'stall_share', beside: 'stall_ms' },
]
const sorted = computed(() => [...props.speeds].sort((a, b) => a.speed_mm_s - b.speed_mm_s))
</script>

<template>
  <table>
    <thead>
      <tr class="small">
        <th scope="col">speed<br />mm/s</th>
        <th v-for="c in COLUMNS" :key="c.key" scope="col" :title="known(c.key).help">
          {{ known(c.key).label }}<br />{{ known(c.key).unit }}
        </th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="s in sorted" :key="s.speed_mm_s" :class="{ here: s === speeds[0] }" :data-speed="s.speed_mm_s">
        <th scope="row">{{ s.speed_mm_s }}</th>
        <td v-for="c in COLUMNS" :key="c.key" :data-reading="c.key">
          <b>{{ bare(known(c.key), s[c.key]) }}</b>{{ ' '
          }}<span v-if="c.beside && !(c.silent && !s[c.silent])" class="small" :title="known(c.beside).help"
            >{{ known(c.beside).label }} {{ inWords(known(c.beside), s[c.beside]) }}</span
          >
        </td>
      </tr>
    </tbody>
  </table>
  <p class="small">
    Small letters of 1.8 mm on this device.
    {{
      COLUMNS.slice(2)
        .map((c) => known(c.key).help)
        .join(' ')
    }}
  </p>
</template>

<style scoped>
td .small {
  display: block;
}
.here th {
  font-weight: 650;
  color: var(--accent);
}
p {
  margin-top: 6px;
  max-width: 70ch;
}
</style>

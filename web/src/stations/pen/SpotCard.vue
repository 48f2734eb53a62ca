<script setup lang="ts">
import { computed } from 'vue'
import { roughly, say } from '@/lib/numbers'

/** What the hand did at a spot of the ink, and what made its width: body times factors. */
const props = defineProps<{ spot?: Record<string, number> }>()
const rows = computed(() => {
  const s = props.spot
  if (!s) return []
  const times = (f: number) => `× ${say(f)}`
  return [
    ['body', `${say(s.body_mm!)} mm`, ''],
    ['press', times(s.press_factor!), `force ${Math.round(s.force! * 100)} %`],
    ['pace', times(s.pace_factor!), `${roughly(s.speed_mm_s!)} mm/s`],
    ['ends', times(s.taper_factor!), ''],
    [
      'width',
      `${say(s.width_mm!)} mm`,
      s.lean_factor! > 1.01 ? `and ${say(s.lean_factor!)} times as long, leaning` : '',
    ],
    ['pen at', `${Math.round(s.altitude_deg!)} degrees`, `pointing to ${Math.round(s.azimuth_deg!)}`],
  ]
})
</script>

<template>
  <div>
    <h2>Why so wide here <em class="book">press a spot on your line</em></h2>
    <table v-if="spot">
      <tbody>
        <tr v-for="[name, value, why] in rows" :key="name" :class="{ sum: name === 'width' }">
          <th>{{ name }}</th>
          <td>{{ value }}</td>
          <td class="small">{{ why }}</td>
        </tr>
      </tbody>
    </table>
    <p v-else class="book hint">
      Press anywhere on the lower line: force, speed and lean at that spot appear here, with the share each had in the
      width.
    </p>
  </div>
</template>

<style scoped>
table {
  border-collapse: collapse;
  margin-top: 6px;
}
th {
  text-align: left;
  font-weight: 400;
  padding: 4px 24px 4px 0;
}
td {
  padding: 4px 20px 4px 0;
  font-weight: 650;
}
td.small {
  font-weight: 400;
}
.sum th,
.sum td {
  border-top: var(--line) solid var(--ink);
  border-bottom: var(--line) solid var(--rule);
}
.hint {
  font-style: italic;
  margin-top: 12px;
  max-width: 40ch;
}
</style>

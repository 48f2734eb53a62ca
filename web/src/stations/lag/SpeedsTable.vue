<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { percent, roughly, say } from '@/components/numbers'

/** What quick small writing loses on this device, speed by speed. The first row is the speed asked for. */
const props = defineProps<{ speeds: Schemas['SpeedItem'][] }>()
const sorted = computed(() => [...props.speeds].sort((a, b) => a.speed_mm_s - b.speed_mm_s))
</script>

<template>
  <table>
    <thead>
      <tr class="small">
        <th scope="col">speed<br />mm/s</th>
        <th scope="col">delay<br />ms</th>
        <th scope="col">gap, 95 % under<br />mm</th>
        <th scope="col">detail lost<br />mm</th>
        <th scope="col">starts lost<br />mm</th>
        <th scope="col">reports lost<br />longest, mm</th>
        <th scope="col">stalls<br />longest, ms</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="s in sorted" :key="s.speed_mm_s" :class="{ here: s === speeds[0] }" :data-speed="s.speed_mm_s">
        <th scope="row">{{ s.speed_mm_s }}</th>
        <td>
          <b>{{ roughly(s.p50_ms) }}</b>
        </td>
        <td>
          <b>{{ say(s.gap_mm_p50) }}</b>, {{ say(s.gap_mm_p95) }}
        </td>
        <td>
          <b>{{ say(s.detail_mm) }}</b>
        </td>
        <td>
          {{ say(s.start_mm)
          }}<span v-if="s.strokes_lost" class="small">and {{ s.strokes_lost }} of {{ s.strokes }} strokes</span>
        </td>
        <td>
          <template v-if="s.bridged">{{ s.bridged }}, {{ say(s.bridged_mm) }}</template
          ><template v-else>none</template>
        </td>
        <td>
          <template v-if="s.stall_share">{{ percent(s.stall_share) }} of pictures, </template>{{ roughly(s.stall_ms) }}
        </td>
      </tr>
    </tbody>
  </table>
  <p class="small">
    Small letters of 1.8 mm on this device. Detail lost: how far the true path strays from the straight joins of its
    reports. Starts lost: the way before a stroke is noticed. Stalls: pictures in which the ink did not grow, and the
    longest time it stood.
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

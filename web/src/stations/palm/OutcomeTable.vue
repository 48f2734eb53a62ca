<script setup lang="ts">
import { computed } from 'vue'
import { percent, say } from '@/components/numbers'
import { usePalmTrial } from '@/stores/palm-trial'
import ContactFiles from './ContactFiles.vue'

/** What came of each drill, and of all together; pressing a drill shows it on the map, with all of its numbers. */
const trial = usePalmTrial()
const kept = (c: Record<string, number> | null | undefined) => c?.palm_kept ?? 0
const palms = (c: Record<string, number> | null | undefined) => kept(c) + (c?.palm_refused ?? 0)
const rows = computed(() =>
  trial.reply
    ? [...trial.reply.parts.map((p) => ({ name: p.drill, o: p.outcome })), { name: 'all', o: trial.reply.total }]
    : [],
)
const o = computed(() => trial.part?.outcome)
const details = computed(
  () =>
    o.value &&
    ([
      ['stray marks', String(o.value.stray_marks), 'stray_marks'],
      ['page left off', `${say(o.value.page_shift_mm)} mm`, 'page_shift_mm'],
      ['jiggle', `${say(o.value.jiggle_mm)} mm`, 'jiggle_mm'],
      ['zoomed', percent(o.value.zoom_pct / 100), 'zoom_pct'],
      ['unwanted taps', String(o.value.taps), 'taps'],
      ['nib ink lost', `${o.value.lost_ink_mm ? say(o.value.lost_ink_mm) : 0} mm`, 'lost_ink_mm'],
      [
        'delay',
        o.value.gestures > o.value.refused_gestures ? `${o.value.added_delay_ms.toFixed(0)} ms` : '–',
        'added_delay_ms',
      ],
    ] as const),
)
</script>

<template>
  <div class="outcome">
    <table>
      <thead>
        <tr class="small">
          <th scope="col">drill</th>
          <th scope="col">palms through</th>
          <th scope="col">page off, mm</th>
          <th scope="col">gestures refused</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.name" :class="{ here: r.name === trial.drill }" :data-drill="r.name">
          <th scope="row">
            <button v-if="r.name !== 'all'" type="button" @click="trial.drill = r.name">{{ r.name }}</button><template
              v-else
              >all together</template
            >
          </th>
          <td :class="{ wrong: r.o.noticed.includes('palms_kept') }">
            {{ kept(r.o.confusion) }} of {{ palms(r.o.confusion) }}
          </td>
          <td :class="{ wrong: r.o.noticed.includes('page_shift_mm') }">{{ say(r.o.page_shift_mm) }}</td>
          <td :class="{ wrong: r.o.noticed.includes('refused_gestures') }">
            <template v-if="r.o.gestures">{{ r.o.refused_gestures }} of {{ r.o.gestures }}</template
            ><template v-else>–</template>
          </td>
        </tr>
      </tbody>
    </table>
    <dl v-if="details" class="small">
      <div v-for="[name, value, reading] in details" :key="name">
        <dt>{{ name }}</dt>
        <dd :class="{ wrong: trial.part!.outcome.noticed.includes(reading) }">{{ value }}</dd>
      </div>
    </dl>
    <ContactFiles />
  </div>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
}
th {
  text-align: left;
  font-weight: 400;
  padding: 0 8px 0 0;
  vertical-align: bottom;
  line-height: 1.25;
}
tbody th {
  white-space: nowrap;
}
tbody button {
  min-height: 32px;
  text-decoration: underline;
  text-decoration-color: var(--rule);
  text-underline-offset: 3px;
}
td {
  padding: 0 8px 0 0;
  white-space: nowrap;
}
tr.here th button {
  font-weight: 650;
  color: var(--accent);
}
tbody tr:last-child th,
tbody tr:last-child td {
  border-top: var(--line) solid var(--ink);
  padding-top: 4px;
}
dl {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 2px 20px;
  margin-top: 12px;
}
dl div {
  display: flex;
  justify-content: space-between;
  border-bottom: var(--line) solid var(--rule);
}
dd {
  margin: 0;
  color: var(--ink);
}
.wrong {
  color: var(--harm);
  font-weight: 650;
}
:root[data-surface='e-ink'] .wrong {
  text-decoration: underline;
}
</style>

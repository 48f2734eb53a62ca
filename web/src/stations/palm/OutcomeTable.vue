<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { say } from '@/lib/numbers'
import { callsForAttention, inWords } from '@/lib/readings'
import { useDesk } from '@/stores/desk'
import { usePalmTrial } from '@/stores/palm-trial'
import ContactFiles from './ContactFiles.vue'

type Outcome = Schemas['Outcome']

/** What came of each drill, and of all together; pressing a drill shows it on the map, with all of its numbers. */
const trial = usePalmTrial()
const desk = useDesk()
const known = (key: keyof Outcome) => desk.reading('palm', key)!
const palms = (o: Outcome) => o.palms_kept + (o.confusion?.palm_refused ?? 0)
const wrong = (o: Outcome, key: keyof Outcome) => callsForAttention(known(key), o[key] as number)
const rows = computed(() =>
  trial.reply
    ? [
        ...trial.reply.drills.map((d) => ({ name: d.drill, o: d.outcome, of: d.takes > 1 ? d : undefined })),
        { name: 'all', o: trial.reply.total, of: undefined },
      ]
    : [],
)
const DETAILS = [
  'stray_marks',
  'page_shift_mm',
  'jiggle_mm',
  'zoomed',
  'taps',
  'lost_ink_mm',
  'stray_ink_mm',
  'added_delay_ms',
] as const
const o = computed(() => trial.part?.outcome)
/** The least and the most of one take. */
const spread = (ends: readonly number[]) => {
  const [low, high] = ends.map((v) => (Number.isInteger(v) ? String(v) : say(v)))
  return low === high ? ` ${low} each` : ` ${low} to ${high} each`
}
function show(drill: string, take: number) {
  trial.drill = drill
  trial.shownTake = take
}
/** A delay is told of gestures that were kept only. */
const told = (now: Outcome, key: (typeof DETAILS)[number]) =>
  inWords(known(key), key === 'added_delay_ms' && now.gestures <= now.refused_gestures ? null : now[key])
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
            <button v-if="r.name !== 'all'" type="button" @click="show(r.name, 1)">{{ r.name }}</button><template v-else
              >all together</template
            >
            <small v-if="r.of" class="takes" role="group" :aria-label="`Takes of ${r.name}`">
              <button
                v-for="k in r.of.takes"
                :key="k"
                type="button"
                :aria-pressed="r.name === trial.drill && k === trial.part?.take"
                @click="show(r.name, k)"
              >
                {{ k }}
              </button>
            </small>
          </th>
          <td :class="{ wrong: wrong(r.o, 'palms_kept') }">
            {{ r.o.palms_kept }} of {{ palms(r.o) }}<small v-if="r.of">{{ spread(r.of.palms_kept) }}</small>
          </td>
          <td :class="{ wrong: wrong(r.o, 'page_shift_mm') }">
            {{ say(r.o.page_shift_mm) }}<small v-if="r.of">{{ spread(r.of.page_shift_mm) }}</small>
          </td>
          <td :class="{ wrong: wrong(r.o, 'refused_gestures') }">
            <template v-if="r.o.gestures"
              >{{ r.o.refused_gestures }} of {{ r.o.gestures
              }}<small v-if="r.of">{{ spread(r.of.refused_gestures) }}</small></template
            ><template v-else>–</template>
          </td>
        </tr>
      </tbody>
    </table>
    <dl v-if="o" class="small">
      <div v-for="key in DETAILS" :key="key">
        <dt :title="known(key).help">{{ known(key).label }}</dt>
        <dd :class="{ wrong: wrong(o, key) }">{{ told(o, key) }}</dd>
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
td small {
  display: block;
}
.takes {
  display: block;
}
.takes button {
  min-width: 26px;
}
.takes [aria-pressed='true'] {
  font-weight: 650;
  text-decoration-color: var(--ink);
}
.wrong {
  color: var(--harm);
  font-weight: 650;
}
:root[data-surface='e-ink'] .wrong {
  text-decoration: underline;
}
</style>

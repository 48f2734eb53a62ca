<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { ElOption, ElSelect } from 'element-plus'
import { computed, ref } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import OnOwn from './OnOwn.vue'
import JobProgress from '@/components/JobProgress.vue'
import { percent, say } from '@/lib/numbers'
import { useJob } from '@/composables/use-job'
import { useDesk } from '@/stores/desk'
import { usePalm } from '@/stores/palm'
import { usePalmTrial } from '@/stores/palm-trial'

/**
 * Missed palms against refused gestures: each rule by itself, the joint settings, and the rules that fit this hand on
 * this device.
 */
const trial = usePalmTrial()
const palm = usePalm()
const desk = useDesk()
const { job, busy, follow, cancel } = useJob('palm rules', 'searching palm rules')
const rule = ref('after_ms')
const field = (name: string) => (trial.info?.controls ?? []).find((f) => f.name === name)
const swept = computed(() => [...new Set(trial.sweep?.points.map((p) => p.rule) ?? [])])
const points = computed(
  () => trial.sweep?.points.filter((p) => p.rule === rule.value).sort((a, b) => a.value - b.value) ?? [],
)
const DASHES = ['', '6 3', '2 3', '9 3 2 3', '1 4', '12 4', '4 2 1 2']
const SIDE = 210
const curve = (c: Schemas['Curve']) =>
  c.points
    .map(([refused, hit], k) => `${k ? 'L' : 'M'}${(refused * SIDE).toFixed(1)} ${(hit * SIDE).toFixed(1)}`)
    .join('')
const at = computed(() => {
  const o = trial.reply?.total
  const palms = (o?.palms_kept ?? 0) + (o?.confusion?.palm_refused ?? 0)
  return {
    x: o?.gestures ? (o.refused_gestures / o.gestures) * SIDE : 0,
    y: SIDE - (palms ? (o?.palms_kept ?? 0) / palms : 0) * SIDE,
  }
})

/** How much a rule's value matters, all else as recommended. */
const reach = (name: string) =>
  Math.max(
    ...trial
      .sweep!.points.filter((p) => p.rule === name)
      .map((p) => p.palms_kept + p.gestures_refused + p.delay_ms / 1000),
  )

async function search() {
  await desk.attempt(async () => {
    const asked = `${palm.pair!.hand_id}/${palm.pair!.device_id}`
    const body = { ...palm.pair!, zone: trial.zone ?? null, own: trial.own, rules: trial.rules! }
    const done = await follow(take(api.POST('/api/palm/sweeps', { body })))
    if (!done || asked !== `${palm.pair?.hand_id}/${palm.pair?.device_id}`) return // of whom it was asked
    trial.sweep = await take(api.GET('/api/palm/sweeps/{job_id}', { params: { path: { job_id: done.id } } }))
    rule.value = swept.value.reduce((a, b) => (reach(b) > reach(a) ? b : a))
  })
}
const apply = () =>
  trial.sweep &&
  (trial.rules = { ...trial.sweep.rules, finger_ink: trial.rules!.finger_ink, page_lock: trial.rules!.page_lock })
const shares = (o: Schemas['Outcome']) => {
  const palms = o.palms_kept + (o.confusion?.palm_refused ?? 0)
  return (
    `${o.palms_kept} of ${palms} palms let through, ` +
    `${o.refused_gestures} of ${o.gestures} gestures refused, page left ${say(o.page_shift_mm)} mm off`
  )
}
</script>

<template>
  <div class="trade">
    <div class="ask">
      <DoWord class="strong" :disabled="busy" :does="search">
        {{ trial.own.length ? 'Find rules for what I did' : 'Find rules for this hand' }}
      </DoWord>
      <JobProgress v-if="busy && job" :job="job" words="sweeping the rules" @cancel="cancel" />
      <DoWord v-if="trial.sweep && trial.sweep.on_own?.helps !== false" class="apply" data-apply :does="apply"
        >Apply them</DoWord
      >
    </div>
    <p v-if="!trial.sweep" class="book">
      Every rule is swept over the drills, alone and with the others, and the settings that let no palm through and
      refuse no gesture are sought{{ trial.own.length ? '' : ', on other seeds than those shown' }}.
      <template v-if="palm.told">
        {{ palm.told }} of what you told of touches on the sheet {{ palm.told === 1 ? 'is' : 'are' }} among them.
      </template>
    </p>
    <div v-else class="two">
      <figure>
        <svg
          :viewBox="`-34 -8 ${SIDE + 44} ${SIDE + 44}`"
          role="img"
          aria-label="Palms missed over fingers refused, for each rule by itself"
        >
          <rect :width="SIDE" :height="SIDE" class="frame" />
          <path
            v-for="(c, k) in trial.sweep.curves"
            :key="c.rule"
            :d="curve(c)"
            class="curve"
            :style="{ strokeDasharray: DASHES[k % DASHES.length] }"
          >
            <title>{{ c.rule }}</title>
          </path>
          <circle :cx="at.x" :cy="at.y" r="5" class="here" />
          <text :x="SIDE / 2" :y="SIDE + 26" text-anchor="middle">fingers refused</text>
          <text :transform="`translate(-20 ${SIDE / 2}) rotate(-90)`" text-anchor="middle">palms missed</text>
          <text x="-4" :y="SIDE + 4" text-anchor="end">0</text>
          <text x="-4" y="6" text-anchor="end">1</text>
          <text :x="SIDE" :y="SIDE + 14" text-anchor="end">1</text>
        </svg>
        <figcaption class="small">
          <span v-for="(c, k) in trial.sweep.curves" :key="c.rule"
            ><svg width="26" height="8">
              <line
                x1="0"
                x2="26"
                y1="4"
                y2="4"
                class="curve"
                :style="{ strokeDasharray: DASHES[k % DASHES.length] }"
              />
            </svg>
            {{ c.rule }} {{ c.area === null ? '' : c.area.toFixed(2) }}</span
          >
        </figcaption>
      </figure>
      <div>
        <OnOwn v-if="trial.sweep.on_own" :found="trial.sweep.on_own" />
        <p v-else>
          <b>Recommended</b>: {{ shares(trial.sweep.expected) }}; without any rules {{ shares(trial.sweep.without) }}.
        </p>
        <ul class="reasons">
          <li v-for="r in trial.sweep.reasons" :key="r.rule" :data-reason="r.rule">
            <b>{{ `${field(r.rule)?.label} ${r.value} ${field(r.rule)?.unit}`.trim() }}</b>:
            <span class="small">{{ r.words }}</span>
          </li>
        </ul>
        <div class="joint">
          <ElSelect v-model="rule" aria-label="Rule swept"
            ><ElOption v-for="n in swept" :key="n" :value="n" :label="field(n)?.label ?? n"
          /></ElSelect>
          <table>
            <thead>
              <tr class="small">
                <th scope="col">{{ field(rule)?.unit }}</th>
                <th v-for="p in points" :key="p.value" scope="col">{{ p.value }}</th>
              </tr>
            </thead>
            <tbody>
              <tr>
                <th scope="row">palms let through</th>
                <td v-for="p in points" :key="p.value">{{ percent(p.palms_kept) }}</td>
              </tr>
              <tr>
                <th scope="row">gestures refused</th>
                <td v-for="p in points" :key="p.value">{{ percent(p.gestures_refused) }}</td>
              </tr>
              <tr>
                <th scope="row">delay, ms</th>
                <td v-for="p in points" :key="p.value">{{ p.delay_ms.toFixed(0) }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </div>
    </div>
  </div>
</template>

<style scoped>
.ask {
  display: grid;
  grid-template-columns: auto minmax(0, 260px) auto;
  gap: 16px;
  align-items: center;
  min-height: 56px;
  justify-content: start;
}
.apply {
  justify-self: start;
}
.book {
  font-style: italic;
  max-width: 60ch;
}
.two {
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr);
  gap: 24px;
  margin-top: 8px;
}
figure {
  margin: 0;
}
figure > svg {
  display: block;
  width: 100%;
}
.frame {
  fill: var(--card);
  stroke: var(--rule);
}
.curve {
  fill: none;
  stroke: var(--ink);
  stroke-width: 1.5;
}
.here {
  fill: var(--accent);
}
text {
  font: 12px var(--face);
  fill: var(--graphite);
}
figcaption {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 10px;
}
.reasons {
  margin: 6px 0 10px;
  padding-left: 18px;
  line-height: 1.35;
}
b {
  font-weight: 650;
}
.joint {
  display: grid;
  gap: 6px;
}
.joint .el-select {
  width: 240px;
}
table {
  border-collapse: collapse;
  font-size: var(--small);
}
th {
  text-align: left;
  font-weight: 400;
  padding-right: 12px;
}
td {
  padding-right: 12px;
  white-space: nowrap;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { ElInputNumber, ElOption, ElSelect, ElSlider } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import ReadingNote from '@/components/ReadingNote.vue'
import { percent, roughly, say } from '@/components/numbers'
import { useLatest } from '@/components/use-latest'
import { useDesk } from '@/stores/desk'
import FilmCard from './FilmCard.vue'
import InspectCard from './InspectCard.vue'
import LiveDrill from './LiveDrill.vue'
import NibTrail from './NibTrail.vue'

/** How far the ink trails the nib, where the time goes, and what to change. */
const desk = useDesk()
const speed = ref(60)
const lookAhead = ref(0)
const others = ref<string[]>(desk.roll.filter((p) => p.id !== desk.pen?.id).slice(0, 3).map((p) => p.id))
const reply = shallowRef<Schemas['LagReply']>()
const asked = useLatest((body: Schemas['LagBody']) => take(api.POST('/api/lag', { body })), (a) => (reply.value = a), (error) => (desk.trouble = error.message))
const beside = computed(() => others.value.map((id) => desk.desk!.pens.find((p) => p.id === id)).filter((p) => !!p && p.id !== desk.pen?.id).map((p) => p!.recipe))
const askSoon = useDebounceFn(() => {
  if (desk.pen && desk.device) void asked.want({ recipe: desk.pen.recipe, device_id: desk.device.id, beside: beside.value, speed_mm_s: speed.value, look_ahead_ms: lookAhead.value })
}, 60)
watch([() => desk.pen, () => desk.device, speed, lookAhead, beside], () => void askSoon(), { immediate: true })

const now = computed(() => reply.value?.now)
const pens = computed(() => [...new Set(reply.value?.table.map((c) => c.pen) ?? [])])
const devices = computed(() => desk.desk?.devices ?? [])
const cell = (device: string, pen: string) => reply.value?.table.find((c) => c.device_id === device && c.pen === pen)
const passed = computed(() => reply.value?.thresholds.filter((t) => now.value && t.from_ms <= now.value.p50_ms).at(-1))
const most = computed(() => now.value?.stages.reduce((a, b) => (b.share > a.share ? b : a)))
const PATTERNS = ['plain', 'lines', 'dots']
</script>

<template>
  <section v-if="now && reply" class="station framed" :class="desk.stationSide">
    <aside class="margin" aria-label="What it means">
      <ReadingNote :title="`${now.word}`" :tone="now.p50_ms >= 50 ? 'attention' : 'plain'" :help="`From ${passed?.from_ms} ms on: ${passed?.source}. All thresholds are from memory.`">
        <p><span class="number">{{ roughly(now.p50_ms) }}</span> ms; 95 % under {{ roughly(now.p95_ms) }} ms</p>
        <p class="small">modelled; mean {{ roughly(now.mean_ms) }} ± {{ roughly(now.sd_ms) }} ms</p>
      </ReadingNote>
      <ReadingNote title="Gap" help="How far the ink is behind the nib at this speed: delay times speed, less what look-ahead draws in advance.">
        <p><span class="number">{{ say(now.gap_mm_p50) }}</span> mm at {{ speed }} mm/s, 95 % under {{ say(now.gap_mm_p95) }}</p>
        <p v-if="lookAhead" class="small">look-ahead overshoots {{ say(now.overshoot_mm) }} mm at a turn of 3 mm</p>
      </ReadingNote>
      <ReadingNote title="First ink" help="From the nib's landing to the first ink. A contact is believed after two reports; steadying does not hold it back.">
        <p>after <span class="number">{{ roughly(now.first_ink_ms) }}</span> ms</p>
        <p v-if="now.catch_up_ms" class="small">everything but pen strokes follows {{ say(now.catch_up_ms / 1000) }} s after the pen pauses</p>
      </ReadingNote>
      <ReadingNote title="What buys most" :help="`Each change alone, computed. Most of the time goes to ${most?.name} now.`">
        <ol class="buys"><li v-for="b in now.buys" :key="b.change">{{ b.change }}: <span class="small">{{ roughly(now.p95_ms) }} →</span> <b>{{ roughly(b.p95_ms) }}</b> ms</li></ol>
      </ReadingNote>
      <FilmCard />
      <InspectCard />
    </aside>

    <div class="bench">
      <div class="ask">
        <label class="inline small">nib speed <ElSlider v-model="speed" :min="5" :max="300" :show-tooltip="false" aria-label="Nib speed" /><ElInputNumber v-model="speed" :min="1" :max="1000" :controls="false" aria-label="Nib speed, mm/s" /> mm/s</label>
        <label class="inline small">look-ahead <ElSlider v-model="lookAhead" :min="0" :max="40" :show-tooltip="false" aria-label="Look-ahead" /><ElInputNumber v-model="lookAhead" :min="0" :max="100" :controls="false" aria-label="Look-ahead, ms" /> ms</label>
      </div>
      <NibTrail :delay-ms="Math.max(0, now.p50_ms - lookAhead)" :update-ms="reply.update_ms" :speed="speed" :colour="desk.pen!.recipe.body!.colour!" />
      <section class="stages" aria-label="Stages from nib to light">
        <h2>From nib to light <em class="book">mean of each stage, end to end</em></h2>
        <div class="bar">
          <span v-for="(s, k) in now.stages" :key="s.name" :style="{ flexGrow: s.mean_ms }" :class="PATTERNS[k % 3]" :data-stage="s.name" :data-ms="s.mean_ms" :title="`${s.name}: ${roughly(s.mean_ms)} ± ${roughly(s.sd_ms)} ms`">
            <i v-if="s.share > 0.11">{{ s.name }}<br />{{ roughly(s.mean_ms) }}</i>
          </span>
        </div>
        <p class="small">{{ now.stages.map((s) => `${s.name} ${roughly(s.mean_ms)} ms, ${percent(s.share)}`).join(' · ') }}</p>
      </section>
      <div class="lower">
        <section>
          <h2>Pens on devices <em class="book">half of all ink is quicker than this, ms</em></h2>
          <table>
            <thead><tr class="small"><th scope="col">device</th><th v-for="p in pens" :key="p" scope="col">{{ p }}</th></tr></thead>
            <tbody>
              <tr v-for="d in devices" :key="d.id" :class="{ here: d.id === desk.device?.id }"><th scope="row">{{ d.device.name }}</th>
                <td v-for="p in pens" :key="p" :data-cell="`${d.id}/${p}`" :title="cell(d.id, p)?.word"><b>{{ roughly(cell(d.id, p)?.p50_ms ?? 0) }}</b> <span class="small">{{ cell(d.id, p)?.word }}</span></td></tr>
            </tbody>
          </table>
          <ElSelect v-model="others" multiple :multiple-limit="4" collapse-tags collapse-tags-tooltip aria-label="Pens beside" class="others"><ElOption v-for="p in desk.desk!.pens" :key="p.id" :value="p.id" :label="p.recipe.name" /></ElSelect>
        </section>
        <LiveDrill :modelled-ms="now.browser_ms" />
      </div>
    </div>
  </section>
</template>

<style scoped>
.station { --margin: 240px; }
.margin :deep(h3)::first-letter { text-transform: uppercase; }
.bench { display: grid; grid-template-rows: auto minmax(104px, 1fr) auto auto; gap: 8px; min-height: 0; overflow-y: auto; scrollbar-width: thin; }
.ask { display: grid; grid-template-columns: 1fr 1fr; gap: 24px; }
.inline { display: grid; grid-template-columns: auto minmax(0, 1fr) 64px auto; align-items: center; gap: 14px; }
.inline .el-input-number { width: 64px; }
h2 { font-size: var(--size); font-weight: 650; margin-bottom: 4px; }
h2 em { font-weight: 400; font-size: 14px; margin-left: 8px; }
/* names of small stages are in the line below */
.bar { display: flex; height: 48px; border: var(--line) solid var(--ink); background: var(--card); }
.bar span { flex-basis: 0; min-width: 3px; border-right: var(--line) solid var(--ink); overflow: hidden; padding: 3px 6px; }
.bar span:last-child { border-right: 0; }
.bar i { font: 13px/1.3 var(--face); white-space: nowrap; background: var(--card); }
.bar .lines { background: repeating-linear-gradient(90deg, transparent 0 6px, var(--rule) 6px 7px); }
.bar .dots { background: repeating-linear-gradient(45deg, transparent 0 6px, var(--rule) 6px 7px); }
.lower { display: grid; grid-template-columns: minmax(0, 1fr) 230px; gap: 16px; }
table { border-collapse: collapse; width: 100%; }
thead th { text-align: left; font-weight: 400; padding: 0 8px 2px 0; vertical-align: bottom; }
tbody th { text-align: left; font-weight: 400; padding: 3px 12px 3px 0; white-space: nowrap; }
td { padding: 3px 8px 3px 0; line-height: 1.2; }
td .small { display: block; }
b { font-weight: 650; }
.here th { font-weight: 650; color: var(--accent); }
.others { width: 260px; margin-top: 6px; }
.buys { margin: 0; padding-left: 18px; line-height: 1.35; }

@media (max-width: 900px) {
  .station .margin { display: grid; grid-template-columns: 1fr 1fr; max-height: 330px; }
  .lower { grid-template-columns: minmax(0, 1fr); }
}
</style>

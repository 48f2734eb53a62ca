<script setup lang="ts">
import WaitSign from '@/components/WaitSign.vue'
import DoWord from '@/components/DoWord.vue'
import { ElRadioButton, ElRadioGroup, ElSwitch } from 'element-plus'
import { computed, onMounted, ref, watch } from 'vue'
import ReadingNote from '@/components/ReadingNote.vue'
import { percent, say } from '@/lib/numbers'
import NumberField from '@/components/NumberField.vue'
import { useDesk } from '@/stores/desk'
import { usePalm } from '@/stores/palm'
import { usePalmTrial } from '@/stores/palm-trial'
import DrillRunner from './DrillRunner.vue'
import OutcomeTable from './OutcomeTable.vue'
import PageMap from './PageMap.vue'
import PalmBeside from './PalmBeside.vue'
import PostureCard from './PostureCard.vue'
import RuleControls from './RuleControls.vue'
import TimeLine from './TimeLine.vue'
import TradeOff from './TradeOff.vue'
import { VERDICT_WORDS, type Verdict } from './decisions'

/** What the hand did on the glass, which rule decided what, and rules that fit. */
const desk = useDesk()
const palm = usePalm()
const trial = usePalmTrial()
const VIEWS = { drills: 'drills', rules: 'rules', trade: 'trade-off', beside: 'side by side' }
const view = ref<keyof typeof VIEWS>('drills')
const tMs = ref<number | null>(null)
const chosen = ref<number>()
const doing = ref(false)
onMounted(() => void trial.load())
watch(
  () => trial.drill,
  () => (chosen.value = undefined),
)

const contact = computed(() => trial.part?.contacts.find((c) => c.id === chosen.value))
const ask = computed(
  () => [...(trial.info?.drills ?? []), ...(trial.info?.hard ?? [])].find((d) => d.name === trial.drill)?.ask,
)
const enlarged = computed(
  () => trial.own.filter((p) => p.drill === trial.drill)[(trial.part?.take ?? 1) - 1]?.enlarged ?? false,
)
const o = computed(() => trial.reply?.total)
const palms = computed(() => (o.value?.palms_kept ?? 0) + (o.value?.confusion?.palm_refused ?? 0))
const was = computed(() =>
  trial.before && trial.before.verdict !== trial.reply?.verdict ? `was ${trial.before.verdict}` : '',
)
const ORDER: Verdict[] = ['palm-refused', 'palm-kept', 'finger-kept', 'finger-refused']
const keep = () => desk.attempt(() => palm.keep(trial.rules!, trial.posture))
/** Drills a real hand has not done yet, or all of them once it has done them all. */
const left = computed(() => {
  const all = trial.info?.drills ?? []
  const undone = all.filter((d) => !trial.own.some((p) => p.drill === d.name))
  return undone.length ? undone : all
})
const goingOn = computed(() => trial.own.length > 0 && left.value.length < (trial.info?.drills.length ?? 0))
</script>

<template>
  <section v-if="trial.reply && trial.part && o" class="station framed" :class="desk.stationSide">
    <aside class="margin" aria-label="What it means">
      <ReadingNote
        :title="trial.reply.verdict"
        :tone="trial.reply.grade.attention ? 'attention' : 'plain'"
        help="From slips a minute (marks, taps, page shifts, lost ink), refused gestures and added delay; the table is
          common practice, without a source."
      >
        <p>
          <span class="number">{{ o.palms_kept }}</span> of {{ palms }} palms let through,
          <span class="number">{{ o.refused_gestures }}</span> of {{ o.gestures }} gestures refused
        </p>
        <p v-if="trial.reply.missing.length" class="small">
          {{ trial.reply.grade.word }} so far; not done: {{ trial.reply.missing.join(', ') }}
        </p>
        <p v-if="was" class="small">{{ was }}</p>
      </ReadingNote>
      <ReadingNote
        title="Harm"
        help="What palms did that was not taken back: marks, page shift and zoom, taps, and nib ink that was lost."
      >
        <p>
          <span class="number">{{ o.stray_marks }}</span> marks, page off
          <span class="number">{{ say(o.page_shift_mm) }}</span> mm, zoomed {{ percent(o.zoomed) }}, {{ o.taps }} taps,
          {{ o.lost_ink_mm ? say(o.lost_ink_mm) : 0 }} mm of ink lost
        </p>
        <p class="small">jiggle up to {{ say(o.jiggle_mm) }} mm; gestures {{ o.added_delay_ms.toFixed(0) }} ms later</p>
      </ReadingNote>
      <ReadingNote
        title="To blame"
        help="Palms that no rule at its strictest refuses are the device's fault: it does not report what would tell
          them from fingers."
      >
        <p data-fault>{{ trial.reply.fault }}</p>
      </ReadingNote>
      <ReadingNote
        v-if="contact"
        :title="`Contact ${contact.id}`"
        help="Which rule decided, when, and what would have changed it."
      >
        <p data-why>{{ contact.why }}</p>
        <p class="small">decided {{ (contact.at_ms - contact.born_ms).toFixed(0) }} ms after it landed</p>
      </ReadingNote>
      <PostureCard />
      <div class="keep">
        <DoWord class="strong" :disabled="!trial.changed" :does="keep"> Keep for this hand and device </DoWord>
        <p class="small">
          {{
            palm.setting?.kept
              ? 'The sheet follows the rules kept for this pair.'
              : 'Nothing kept for this pair yet; the sheet follows those every hand starts with.'
          }}
        </p>
      </div>
    </aside>

    <div class="bench">
      <div class="top">
        <ElRadioGroup v-model="view" aria-label="View"
          ><ElRadioButton v-for="(words, v) in VIEWS" :key="v" :value="v">{{ words }}</ElRadioButton></ElRadioGroup
        >
        <button type="button" class="word-button" @click="doing = true">
          {{ goingOn ? `Go on with the drills, ${left.length} left` : 'Do the drills yourself' }}
        </button>
        <button v-if="trial.own.length" type="button" class="word-button" @click="trial.own = []">
          Let the hand do them
        </button>
        <template v-else>
          <label class="small seed" :title="`Kept apart from all tuning of rules: ${trial.info?.hard_digest}`"
            >hard set <ElSwitch v-model="trial.hard" aria-label="Drills of the hard set"
          /></label>
          <label class="small seed"
            >seed <NumberField v-model="trial.seed" :min="0" :max="999999" label="Seed"
          /></label>
        </template>
      </div>
      <div v-if="view === 'drills' || view === 'rules'" class="look">
        <div class="picture">
          <p class="book small">
            <b>{{ trial.drill }}</b>: {{ ask }}<template v-if="enlarged"> The page was enlarged first.</template>
          </p>
          <PageMap
            :part="trial.part"
            :screen="trial.reply.screen_mm"
            :zone="trial.reply.zone"
            :zone-scale="trial.rules!.zone ?? 0"
            :t-ms="tMs"
            :chosen="chosen"
            @choose="(id) => (chosen = id)"
          />
          <p class="legend small">
            <span v-for="v in ORDER" :key="v"><i :class="v" /> {{ VERDICT_WORDS[v] }}</span
            ><span><i class="zone" /> resting zone</span>
          </p>
          <TimeLine v-model="tMs" :part="trial.part" :chosen="chosen" @choose="(id) => (chosen = id)" />
        </div>
        <div class="side"><RuleControls v-if="view === 'rules'" /><OutcomeTable v-else /></div>
      </div>
      <TradeOff v-show="view === 'trade'" />
      <PalmBeside v-if="view === 'beside'" />
    </div>
    <DrillRunner
      v-if="doing && trial.info && palm.trees"
      :drills="left"
      :rules="trial.rules!"
      :zone="trial.zone!"
      :limits="palm.setting!.limits"
      :trees="palm.trees"
      @did="trial.did"
      @done="doing = false"
    />
  </section>
  <section v-else class="station"><WaitSign words="The hand is doing its drills" /></section>
</template>

<style scoped>
.station {
  --margin: 240px;
}
.margin :deep(.note h2)::first-letter {
  text-transform: uppercase;
}
.bench {
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
  overflow-y: auto;
  scrollbar-width: thin;
}
.top {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
  min-height: 52px;
  flex: none;
}
.seed {
  display: flex;
  align-items: center;
  gap: 8px;
}
.seed :deep(.field) {
  width: 84px;
}
.look {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 300px;
  gap: 20px;
  min-height: 0;
  flex: 1;
}
.side {
  overflow-y: auto;
  scrollbar-width: thin;
  padding-right: 8px;
}
.picture {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr) auto auto;
  gap: 4px;
  min-width: 0;
  min-height: 0;
}
.legend {
  display: flex;
  flex-wrap: wrap;
  gap: 2px 16px;
}
.legend i {
  display: inline-block;
  width: 18px;
  height: 11px;
  border: 1px solid var(--graphite);
  border-radius: 50%;
  vertical-align: -1px;
}
.legend .palm-refused {
  background: repeating-linear-gradient(45deg, transparent 0 2px, var(--graphite) 2px 3px);
}
.legend .palm-kept {
  border-color: var(--harm);
  background: radial-gradient(circle, var(--harm) 0 1.2px, transparent 1.3px) 0 0 / 4px 4px;
}
.legend .finger-kept {
  border-color: var(--accent);
  background: var(--accent-soft);
}
.legend .finger-refused {
  border-color: var(--attention);
  background: repeating-linear-gradient(90deg, transparent 0 2px, var(--attention) 2px 3px);
}
.legend .zone {
  border: 1.5px dashed var(--accent);
}
.keep {
  display: grid;
  gap: 4px;
  padding-bottom: 8px;
}
b {
  font-weight: 650;
}

@media (max-width: 900px) {
  .station .margin {
    display: grid;
    grid-template-columns: 1fr 1fr;
  }
  .look {
    grid-template-columns: minmax(0, 1fr);
    flex: none;
  }
  .side {
    overflow: visible;
  }
  .picture {
    grid-template-rows: auto 320px auto auto;
  }
}
</style>

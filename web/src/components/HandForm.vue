<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { ElInput, ElRadioButton, ElRadioGroup } from 'element-plus'
import { computed, reactive, ref, shallowRef, watch } from 'vue'
import { api, take, type HandItem, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { say as saying } from '@/lib/numbers'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import HandPicture from './HandPicture.vue'
import ValueSlider from './ValueSlider.vue'

/** A new hand, told in words or measured from a sheet; what it writes is drawn. Its numbers are one press away. */
const emit = defineEmits<{ made: [id: string] }>()
const desk = useDesk()
const draft = useDraft()
const hand = reactive<Record<string, unknown>>({ ...desk.hand?.hand, name: 'My hand' })
const words = computed(() => desk.desk?.hand_words ?? {})
const numbers = ref(false)
const NAMED = ['name', 'side', 'letters', 'rest']
const fields = (desk.desk?.hand_fields ?? []).filter((f) => !NAMED.includes(f.name))
const WAYS = (['left', 'right'] as const).flatMap((side) => [
  { side, hooked: false },
  { side, hooked: true },
])

/** The word whose values the hand has now, if any. */
const said = (of: string) =>
  Object.entries(words.value[of] ?? {}).find(([, sets]) => Object.entries(sets).every(([k, v]) => hand[k] === v))?.[0]
const say = (of: string, word: string) => Object.assign(hand, words.value[of]![word])
const hooked = computed(() => hand.rest === 'above')
function comes(side: string, above: boolean) {
  const azimuth = Math.abs(Number(hand.azimuth_deg))
  Object.assign(hand, { side, azimuth_deg: above ? -azimuth : azimuth })
  if (above) hand.rest = 'above'
  else if (hooked.value) hand.rest = 'below'
}

const text = ref('moths on the sheet')
const picture = shallowRef('')
const drawn = useLatest(
  (body: Schemas['HandLine']) => take(api.POST('/api/hands/line', { body })),
  (answer) => (picture.value = answer.image),
  undefined,
  { follow: true },
)
watch(
  [hand, text, () => draft.recipe],
  () => {
    if (!draft.recipe || !desk.device) return
    const body = { hand: { ...hand } as HandItem['hand'], device_id: desk.device.id, recipe: draft.recipe }
    if (text.value.trim()) void drawn.want({ ...body, text: text.value, width_px: 1160, height_px: 150 })
  },
  { immediate: true, deep: true },
)

/** Measured from the sheet on the desk: each habit with what it may be, and what still differs. */
const told = shallowRef<Schemas['MeasureReply']>()
const measuring = ref(false)
async function measure() {
  measuring.value = true
  await desk.attempt(async () => {
    const like = { ...hand } as HandItem['hand']
    const body = { sheet_id: desk.sheet!.id, like, recipe: draft.recipe!, width_px: 1160, height_px: 150 }
    told.value = await take(api.POST('/api/hands/measure', { body }))
    Object.assign(hand, told.value.measured.hand, { name: hand.name })
  })
  measuring.value = false
}
const fieldOf = (name: string) => desk.desk?.hand_fields.find((f) => f.name === name)
const shown = (unit: string, v: number) => `${saying(v)} ${unit}`.trim()
const IN_WORDS: Record<string, string> = {
  script: 'joined',
  plain: 'separate',
  above: 'hooked, above the line',
  below: 'from below the line',
}
const habits = computed(() =>
  (told.value?.measured.habits ?? []).map((h) => ({
    label: fieldOf(h.field)?.label ?? h.field,
    told: h.told,
    words: !h.told
      ? h.why_not
      : h.low === null || h.high === null
        ? (IN_WORDS[String(h.value)] ?? String(h.value))
        : `${shown(fieldOf(h.field)?.unit ?? '', h.value as number)}, ${saying(h.low)} to ${saying(h.high)}`,
  })),
)

async function make() {
  await desk.attempt(async () => {
    const id = `hand-${crypto.randomUUID().slice(0, 8)}`
    const made = await take(api.POST('/api/hands', { body: { id, hand: hand as HandItem['hand'] } }))
    desk.desk?.hands.push(made)
    emit('made', id)
  })
}
</script>

<template>
  <div class="form">
    <label class="small">Name <ElInput v-model="hand.name as string" maxlength="60" aria-label="Name" /></label>
    <div class="ways" role="group" aria-label="Which hand">
      <button
        v-for="way in WAYS"
        :key="`${way.side} ${way.hooked}`"
        type="button"
        :aria-pressed="hand.side === way.side && hooked === way.hooked"
        @click="comes(way.side, way.hooked)"
      >
        <HandPicture v-bind="way" /><span class="small">{{ way.side }}{{ way.hooked ? ', hooked' : '' }}</span>
      </button>
    </div>
    <div>
      <button type="button" class="word-button" :disabled="measuring || !desk.sheet" @click="measure">
        Measure it from this sheet
      </button>
      <span v-if="measuring" class="small wait" role="status">reading how you write</span>
    </div>
    <img v-if="told" :src="told.image" alt="What is written on the sheet" data-ink="sheet" />
    <img v-if="picture" :src="picture" alt="What this hand writes" data-ink="hand" />
    <template v-if="told">
      <label class="small">It writes <ElInput v-model="text" maxlength="80" aria-label="What the hand writes" /></label>
      <table class="small" aria-label="What was measured">
        <tbody>
          <tr v-for="h in habits" :key="h.label" :class="{ untold: !h.told }">
            <th scope="row">{{ h.label }}</th>
            <td>{{ h.words }}</td>
          </tr>
        </tbody>
      </table>
      <p v-for="d in told.measured.differs" :key="d.label" class="small">
        What still differs: {{ d.label }} {{ shown(d.unit, d.written) }} on the sheet, {{ shown(d.unit, d.by_hand) }} by
        this hand.
      </p>
    </template>
    <div v-for="(choices, trait) in words" :key="trait" class="row">
      <span class="small">{{ trait }}</span>
      <ElRadioGroup
        :model-value="said(String(trait))"
        :aria-label="String(trait)"
        @update:model-value="(word) => say(String(trait), String(word))"
        ><ElRadioButton v-for="(_, word) in choices" :key="word" :value="word">{{ word }}</ElRadioButton></ElRadioGroup
      >
    </div>
    <button type="button" class="plain-button small" :aria-expanded="numbers" @click="numbers = !numbers">
      in numbers
    </button>
    <template v-if="numbers">
      <ValueSlider
        v-for="f in fields"
        :key="f.name"
        :field="f"
        :value="hand[f.name] as number"
        @change="(v) => (hand[f.name] = v)"
      />
    </template>
    <DoWord class="strong" :does="make">Keep this hand</DoWord>
  </div>
</template>

<style scoped>
.form {
  display: grid;
  gap: 6px;
}
label {
  display: grid;
  gap: 2px;
  max-width: 280px;
}
.ways {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(110px, 1fr));
  gap: 8px;
}
.ways button {
  display: grid;
  justify-items: center;
  border: var(--line) solid var(--edge);
  padding: 4px;
}
.ways svg {
  width: 96px;
  height: 62px;
}
.ways [aria-pressed='true'] {
  outline: 3px solid var(--accent);
  outline-offset: -3px;
}
img {
  width: 100%;
  height: 75px;
  object-fit: contain;
  background: var(--swatch-ground);
  border: var(--line) solid var(--rule);
}
th {
  text-align: left;
  font-weight: normal;
  padding-right: 12px;
  vertical-align: top;
}
.untold {
  color: var(--graphite);
}
.row {
  display: grid;
  grid-template-columns: 70px minmax(0, 1fr);
  align-items: center;
  min-height: var(--target);
}
.word-button {
  justify-self: start;
}
@media (max-width: 560px) {
  .row {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

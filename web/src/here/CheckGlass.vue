<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { walkTabs } from '@/composables/use-tabs'
import { percent, say } from '@/lib/numbers'
import { useScreen } from '@/stores/screen'
import type { Checked, ByEye } from './checked'
import FourChoices from './FourChoices.vue'
import MatchByEye from './MatchByEye.vue'

/** What this screen shows, found by eye: each with its interval, or with what could not be told. */
const checked = defineModel<Checked>({ required: true })
const PARTS = {
  greys: { ladder: 'greys', words: 'greys', unit: '' },
  lines: { ladder: 'lines', words: 'lines', unit: 'mm' },
  print: { ladder: 'print', words: 'print', unit: 'mm' },
  bold_print: { ladder: 'bold print', words: 'bold print', unit: 'mm' },
  writing: { ladder: 'writing', words: 'writing', unit: 'mm' },
  bold_writing: { ladder: 'bold writing', words: 'bold writing', unit: 'mm' },
  ghost: { ladder: '', words: 'ghost', unit: '%' },
  response: { ladder: '', words: 'motion', unit: 'ms' },
} as const
type Part = keyof typeof PARTS
const part = ref<Part>('greys')
const said = ref<Partial<Record<Part, string>>>({})
const screen = useScreen()
const pxMm = computed(() => 1 / (screen.pxPerMm * window.devicePixelRatio))

function keep(found: Schemas['Eyed']) {
  const byEye: ByEye = { ...checked.value.byEye, [part.value]: found }
  checked.value = { ...checked.value, byEye }
}
function told(found: Schemas['EyeSees']) {
  const scale = part.value === 'lines' ? pxMm.value : 1
  const scaled = (v: number | null) => (v === null ? null : v * scale)
  const values = { value: scaled(found.value), low: scaled(found.low), high: scaled(found.high) }
  said.value[part.value] = found.value === null ? found.words : words(values)
  if (found.value !== null || found.low !== null || found.high !== null) keep(values)
}
function matched(found: Schemas['Matched'] | null) {
  if (!found) return
  const values = { value: found.value, low: Math.max(0, found.value - found.off), high: found.value + found.off }
  said.value[part.value] = words(values)
  keep(values)
}
function words({ value, low, high }: Schemas['Eyed']) {
  const unit = PARTS[part.value].unit
  const one = (v: number) => (unit === '%' ? percent(v) : `${say(v)} ${unit}`.trim())
  const ends = [low, high].map((v) => (v == null ? '…' : one(v)))
  return `${one(value!)}, 95 % between ${ends[0]} and ${ends[1]}`
}
</script>

<template>
  <div class="check" data-glass>
    <div>
      <div class="word-tabs" role="tablist" aria-label="What is looked at by eye" @keydown="walkTabs">
        <button
          v-for="(p, key) in PARTS"
          :key="key"
          type="button"
          role="tab"
          :aria-selected="part === key"
          :tabindex="part === key ? 0 : -1"
          @click="part = key"
        >
          {{ p.words }}
        </button>
      </div>
      <MatchByEye v-if="part === 'ghost' || part === 'response'" :key="part" :kind="part" @told="matched" />
      <FourChoices v-else :key="part" :kind="PARTS[part].ladder" @told="told" />
    </div>
    <div class="told">
      <p class="book">From where you write, in the light you write in.</p>
      <p v-if="!screen.sized" class="small loud">Sizes are as the browser has them: size the screen by a card first.</p>
      <dl class="small">
        <template v-for="(words_, key) in said" :key="key">
          <dt>{{ PARTS[key].words }}</dt>
          <dd :data-eyed="key">{{ words_ }}</dd>
        </template>
      </dl>
    </div>
  </div>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 4px 12px;
  color: var(--ink);
}
dt {
  color: var(--graphite);
}
</style>

<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { BY_EYE, eyed, EYES, type Eye } from '@/lib/by-eye'
import { useScreen } from '@/stores/screen'
import type { Checked, ByEye } from './checked'
import FourChoices from './FourChoices.vue'
import MatchByEye from './MatchByEye.vue'
import WordTabs from '@/components/WordTabs.vue'

/** What this screen shows, found by eye: each with its interval, or with what could not be told. */
const checked = defineModel<Checked>({ required: true })
const PARTS = EYES.filter((key) => key !== 'ppi')
type Part = Eye
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
  said.value[part.value] = found.value === null ? found.words : eyed(part.value, values)
  if (found.value !== null || found.low !== null || found.high !== null) keep(values)
}
function matched(found: Schemas['Matched'] | null) {
  if (!found) return
  const values = { value: found.value, low: Math.max(0, found.value - found.off), high: found.value + found.off }
  said.value[part.value] = eyed(part.value, values)
  keep(values)
}
</script>

<template>
  <div class="check" data-glass>
    <div>
      <WordTabs
        v-model="part"
        :tabs="PARTS.map((key) => [key, BY_EYE[key].words] as const)"
        label="What is looked at by eye"
      />
      <MatchByEye v-if="part === 'ghost' || part === 'response'" :key="part" :kind="part" @told="matched" />
      <FourChoices v-else :key="part" :kind="BY_EYE[part].ladder" @told="told" />
    </div>
    <div class="told">
      <p class="book">From where you write, in the light you write in.</p>
      <p v-if="!screen.sized" class="small loud">Sizes are as the browser has them: size the screen by a card first.</p>
      <dl class="small">
        <template v-for="(words_, key) in said" :key="key">
          <dt>{{ BY_EYE[key].words }}</dt>
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

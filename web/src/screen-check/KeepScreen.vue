<script setup lang="ts">
import { ElInput, ElRadioButton, ElRadioGroup } from 'element-plus'
import { computed, ref } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { EYES, type Eye } from '@/lib/by-eye'
import { say } from '@/lib/numbers'
import { useDesk } from '@/stores/desk'
import { useScreenSettings } from '@/stores/screen-settings'
import { useScreen } from '@/stores/screen'
import type { Checked } from './checked'

/** What was found becomes a device of one's own, which this browser is from then on. */
const props = defineProps<{ checked: Checked }>()
const desk = useDesk()
const settings = useScreenSettings()
const screen = useScreen()
const MM_PER_INCH = 25.4
const TONES = { colours: [256, true], greys: [16, false], 'black and white': [2, false] } as const
const NONE = { value: null, low: null, high: null }
const NOT_LOOKED = Object.fromEntries(EYES.map((key) => [key, NONE])) as Record<Eye, Schemas['Eyed']>
const CARD_OFF = 0.5 / 85.6 // half a mm either way, of a card's width
const byCard = (ppi: number) => ({ value: ppi, low: ppi * (1 - CARD_OFF), high: ppi * (1 + CARD_OFF) })
const name = ref('My screen')
const kind = ref<Schemas['SeenScreen']['kind']>('tablet')
const tones = ref<keyof typeof TONES>('colours')
const ratio = window.devicePixelRatio
const ppi = computed(() => screen.pxPerMm * ratio * MM_PER_INCH)
const known = computed(() => desk.desk?.devices.find((d) => d.id === settings.deviceId))

const keep = () =>
  desk.attempt(async () => {
    const [greys, colour] = TONES[tones.value]
    const { straight, seen, refreshHz } = props.checked
    const byEye = { ...NOT_LOOKED, ...props.checked.byEye, ppi: screen.sized ? byCard(ppi.value) : NONE }
    const made = await take(
      api.POST('/api/devices', {
        body: {
          name: name.value,
          like: desk.device!.id,
          stated_ms: 0,
          ink: { seen: seen!, stand_in: null, source: null },
          screen: {
            kind: kind.value,
            width_px: Math.round(window.screen.width * ratio),
            height_px: Math.round(window.screen.height * ratio),
            ppi: Math.round(ppi.value),
            refresh_hz: Math.max(1, Math.round(refreshHz ?? 60)),
            greys,
            colour,
            by_eye: byEye,
            wave_mm: straight?.wave_mm ?? 0,
            wave_period_mm: straight?.period_mm ?? 6,
          },
        },
      }),
    )
    desk.desk?.devices.push(made)
    settings.deviceId = made.id
    await desk.changeSheet({ device_id: made.id })
  })
const write = () => desk.attempt(() => desk.changeSheet({ device_id: settings.deviceId }))
</script>

<template>
  <div class="keep">
    <p v-if="known" data-known>
      This browser is <b>{{ known.device.name }}</b>: {{ say(known.device.digitiser.report_hz) }} reports a second,
      {{ say(known.device.panel.ppi) }} px an inch.
    </p>
    <button v-if="known && desk.device?.id !== known.id" type="button" class="word-button" @click="write">
      The sheet on the desk is written here
    </button>
    <p v-if="!checked.seen" class="book">Write a few words under <i>pen</i> first; then it can be kept.</p>
    <template v-else>
      <label class="row">
        <span class="small">called</span>
        <ElInput v-model="name" maxlength="60" aria-label="Name of this screen" />
      </label>
      <div class="row">
        <span class="small">it is a</span>
        <ElRadioGroup v-model="kind" aria-label="What it is"
          ><ElRadioButton v-for="k in ['tablet', 'laptop', 'e-paper']" :key="k" :value="k">{{ k }}</ElRadioButton>
        </ElRadioGroup>
      </div>
      <div class="row">
        <span class="small">and shows</span>
        <ElRadioGroup v-model="tones" aria-label="What it shows"
          ><ElRadioButton v-for="(_, words) in TONES" :key="words" :value="words">{{ words }}</ElRadioButton>
        </ElRadioGroup>
        <span class="strip" aria-hidden="true"><i /><i /></span>
        <span class="small">the left fades from black to white, in steps or smoothly; the right is red and blue</span>
      </div>
      <p class="small">
        {{ say(ppi) }} px an inch{{ screen.sized ? '' : ', as the browser has it: size it by a card to be sure' }}.
      </p>
      <button type="button" class="word-button strong" :disabled="!name.trim()" @click="keep">Keep as my screen</button>
    </template>
  </div>
</template>

<style scoped>
.keep {
  display: grid;
  gap: 10px;
  align-content: start;
  justify-items: start;
  max-width: 640px;
}
.strip {
  display: grid;
  grid-template-columns: 120px 60px;
  height: 22px;
  border: var(--line) solid var(--ink);
}
.strip i:first-child {
  background: linear-gradient(90deg, #000, #fff);
}
.strip i:last-child {
  background: linear-gradient(90deg, #c8412f 50%, #2f5fc8 50%);
}
b {
  font-weight: 650;
}
</style>

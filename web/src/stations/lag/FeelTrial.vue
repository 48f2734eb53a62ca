<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { useElementSize } from '@vueuse/core'
import { computed, ref, shallowRef, useTemplateRef } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import type { Sample } from '@/ink'
import { percentile } from '@/lib/percentile'
import { when } from '@/lib/numbers'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { useLag } from '@/stores/lag'
import NoticedDelay from './NoticedDelay.vue'
import { useLiveInk } from './use-live-ink'

/** From which delay on this hand notices one: sentences under hidden added delays, and what the writer says of each. */
const props = defineProps<{ kept: Schemas['KeptFelt'] | null }>()
const emit = defineEmits<{ changed: [] }>()
const ENOUGH_EVENTS = 20
const ENOUGH_MM = 20
const ANSWERS = { none: 'No delay', slight: 'A slight one', laggy: 'It lags' } as const
const desk = useDesk()
const draft = useDraft()
const lag = useLag()
const box = useTemplateRef<HTMLElement>('box')
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const above = useTemplateRef<HTMLCanvasElement>('above')
const { width, height } = useElementSize(box)
const reply = shallowRef<Schemas['FeelReply']>()
const next = computed(() => reply.value?.next)
const feel = computed(() => reply.value?.feel)
const turns = computed(() => lag.feel?.turns ?? [])
const shown = ref(false) // what the turns came to is shown, and with it the delays that were hidden
const written = shallowRef({ mm: 0, s: 0, events: 0 })

const ink = useLiveInk(canvas, above, {
  addedMs: () => next.value?.added_ms ?? 0,
  finished: ({ samples }) => {
    const { mm, s } = gone(samples)
    // the last frames of a stroke are timed in the frame after
    requestAnimationFrame(() => requestAnimationFrame(() => count(mm, s)))
  },
  anew: stop,
})
function count(mm: number, s: number) {
  written.value = { mm: written.value.mm + mm, s: written.value.s + s, events: ink.timings.length }
}
function gone(samples: readonly Sample[]) {
  let mm = 0
  for (let i = 1; i < samples.length; i += 1)
    mm += Math.hypot(samples[i]!.x - samples[i - 1]!.x, samples[i]!.y - samples[i - 1]!.y)
  return { mm, s: (samples.at(-1)?.tS ?? 0) - (samples[0]?.tS ?? 0) }
}
const enough = computed(() => written.value.mm >= ENOUGH_MM && written.value.events >= ENOUGH_EVENTS)

const asked = useLatest(
  (body: Schemas['FeelBody']) => take(api.POST('/api/lag/feel', { body })),
  (answer) => {
    reply.value = answer
    again()
    if (answer.feel.enough) shown.value = true
  },
)
const session = () => ({
  device_id: desk.device!.id,
  recipe: draft.recipe!,
  turns: turns.value,
  filmed: lag.filmed ?? null,
})
const ask = () => void asked.want({ ...session(), seed: lag.feel!.seed })
if (turns.value.length) ask()

function begin() {
  lag.feel = { seed: Math.floor(Math.random() * 2 ** 31), turns: [] }
  shown.value = false
  ask()
}
function again() {
  ink.clear()
  written.value = { mm: 0, s: 0, events: 0 }
}
function answer(said: keyof typeof ANSWERS) {
  if (!next.value || !lag.feel || !enough.value) return
  const { kind, added_ms } = next.value
  const frame_ms = Math.max(
    0,
    percentile(
      ink.timings.map((t) => t.frameMs),
      0.5,
    ),
  )
  const speed_mm_s = written.value.s > 0 ? written.value.mm / written.value.s : 0
  lag.feel = { ...lag.feel, turns: [...turns.value, { kind, added_ms, answer: said, frame_ms, speed_mm_s }] }
  ask()
}
/** Another pen, paper or device: what was answered told of the one before. */
function stop() {
  asked.forget()
  lag.feel = reply.value = undefined
  shown.value = false
}
const keep = () =>
  desk.attempt(async () => {
    await take(api.POST('/api/lag/felt', { body: { ...session(), hand_id: desk.sheet!.hand_id } }))
    stop()
    emit('changed')
  })
const forget = () =>
  desk.attempt(async () => {
    const path = { felt_id: props.kept!.id }
    await take(
      api.PUT('/api/lag/felt/{felt_id}/bin', {
        params: { path },
        body: { hand_id: desk.sheet!.hand_id, binned: true },
      }),
    )
    emit('changed')
  })
const ms = (value: number) => value.toFixed(0)
</script>

<template>
  <section class="feel" data-feel>
    <p v-if="!reply" class="small told">
      Write sentences under delays that are added and hidden, some without any, and say after each what you noticed.
      Some 30 to 40 of them tell from which delay on your hand notices one; stop whenever you like.
      <template v-if="kept">
        Kept {{ when(kept.created_at) }}, with {{ kept.pen }} on {{ kept.device }}: noticed from
        <b>{{ ms(kept.felt.noticed_ms) }}</b> ms on ({{ ms(kept.felt.low_ms) }} to {{ ms(kept.felt.high_ms) }}).
        <button type="button" class="plain-button" @click="forget">Into the bin</button>
      </template>
    </p>
    <p v-else-if="!shown && next" class="sentence">
      <span class="book">{{ next.sentence }}</span>
    </p>
    <div v-show="!shown && reply" ref="box" class="box card" :class="{ waits: asked.busy.value }">
      <canvas
        ref="canvas"
        :width="Math.round(width)"
        :height="Math.round(height)"
        data-layer="feel"
        aria-label="Write the sentence here"
      />
      <canvas ref="above" class="above" :width="Math.round(width)" :height="Math.round(height)" data-layer="ahead" />
    </div>
    <div v-if="!reply" class="row">
      <DoWord :disabled="asked.busy.value" :does="begin">Begin</DoWord>
    </div>
    <template v-else-if="!shown">
      <div class="row" role="group" aria-label="What did you notice?">
        <button
          v-for="(words, said) in ANSWERS"
          :key="said"
          type="button"
          class="word-button"
          :disabled="!enough || asked.busy.value"
          @click="answer(said)"
        >
          {{ words }}
        </button>
        <button type="button" class="plain-button" :disabled="!written.mm" @click="again">Write it again</button>
        <span class="small">{{ turns.length }} answered</span>
        <button v-if="turns.length" type="button" class="plain-button" @click="shown = true">Stop here and see</button>
      </div>
    </template>
    <template v-else-if="feel">
      <p class="told" :class="{ waits: asked.busy.value }" data-felt>
        <template v-if="reply.felt">
          You notice a delay from <b>{{ ms(reply.felt.noticed_ms) }}</b> ms on (95 %: {{ ms(reply.felt.low_ms) }} to
          {{ ms(reply.felt.high_ms) }}), {{ ms(reply.felt.base_ms) }} of them there before any was added ({{
            reply.felt.base_from
          }}).
          <template v-if="reply.felt.disturbed_ms">
            It lags from <b>{{ ms(reply.felt.disturbed_ms) }}</b> ms on.
          </template>
        </template>
        <template v-else>Nothing can be told: {{ feel.noticed.words }}.</template>
      </p>
      <NoticedDelay :turns="turns" :feel="feel" />
      <div class="row">
        <DoWord v-if="reply.felt" :disabled="asked.busy.value" :does="keep"> Keep as this hand's </DoWord>
        <button type="button" class="word-button" @click="shown = false">Go on writing</button>
        <button type="button" class="plain-button" @click="stop">Throw away</button>
      </div>
    </template>
  </section>
</template>

<style scoped>
.feel {
  display: flex;
  flex-direction: column;
  gap: 8px;
}
.told {
  margin: 0;
  max-width: 76ch;
}
.sentence {
  margin: 0;
  font-size: 18px;
}
.box {
  background: var(--swatch-ground);
  position: relative;
  height: 150px;
}
.waits {
  opacity: 0.6;
  pointer-events: none;
}
canvas {
  position: absolute;
  inset: 0;
  touch-action: none;
  cursor: crosshair;
}
.above {
  pointer-events: none;
}
.row {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 12px;
}
b {
  font-weight: 650;
}
.plain-button {
  min-height: 0;
  padding: 6px 0;
  text-decoration: underline;
}
</style>

<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { roughly, say } from '@/lib/numbers'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useLag } from '@/stores/lag'

/** A film stepped through by hand: first press marks the nib, the next the end of the ink. */
type Place = [number, number]
const desk = useDesk()
const lag = useLag()
const frames = shallowRef<Schemas['FilmFrames']>()
const at = ref(0)
const marks = ref<Record<number, { nib?: Place; front?: Place }>>({})
const found = shallowRef<Schemas['Marked']>()
const why = ref('')

const films = useLatest(
  (id: string) => take(api.GET('/api/lag/films/{job_id}/frames', { params: { path: { job_id: id } } })),
  (answer) => {
    frames.value = answer
    at.value = Math.floor(answer.frames / 2)
  },
  () => undefined,
)
watch(
  () => lag.film,
  (id) => {
    marks.value = {}
    found.value = frames.value = undefined
    films.forget()
    if (id) void films.want(id)
  },
  { immediate: true },
)

const now = computed(() => marks.value[at.value] ?? {})
const whole = computed(() =>
  Object.entries(marks.value)
    .filter(([, m]) => m.nib && m.front)
    .map(([frame, m]) => ({ frame: Number(frame), nib_px: m.nib!, front_px: m.front! })),
)
const step = (by: number) => (at.value = Math.min((frames.value?.frames ?? 1) - 1, Math.max(0, at.value + by)))

function mark(event: MouseEvent) {
  const place = (event.currentTarget as Element).getBoundingClientRect()
  const px: Place = [
    ((event.clientX - place.left) / place.width) * frames.value!.width_px,
    ((event.clientY - place.top) / place.height) * frames.value!.height_px,
  ]
  const was = now.value
  marks.value = { ...marks.value, [at.value]: was.nib && !was.front ? { nib: was.nib, front: px } : { nib: px } }
}

const reads = useLatest(
  (body: Schemas['MarksBody']) => take(api.POST('/api/lag/films/marks', { body })),
  (answer) => {
    found.value = answer
    const { delay_ms, ci95_ms, speed_mm_s } = answer
    lag.filmed = { delay_ms, ci95_ms, speed_mm_s }
    why.value = ''
  },
  (error) => (why.value = error.message),
)
const read = useDebounceFn(() => {
  found.value = undefined
  reads.forget()
  if (!frames.value || whole.value.length < frames.value.least_marked) return
  void reads.want({ fps: frames.value.fps, mm_per_px: frames.value.mm_per_px, marks: whole.value })
}, 60)
watch(whole, () => void read())
</script>

<template>
  <div class="stepper">
    <p v-if="!frames" class="book empty">Film the pen or bring a film in first; its frames can then be marked here.</p>
    <template v-else>
      <div class="frame" @click="mark">
        <img
          :src="`/api/lag/films/${lag.film}/frames/${at}`"
          :alt="`Frame ${at + 1}`"
          draggable="false"
          data-frame
          @error="desk.trouble = 'The picture of this frame did not come. Choose another frame, or the film again.'"
        />
        <svg :viewBox="`0 0 ${frames.width_px} ${frames.height_px}`">
          <g v-if="now.nib">
            <circle :cx="now.nib[0]" :cy="now.nib[1]" r="5" />
            <text :x="now.nib[0] + 8" :y="now.nib[1] - 6">nib</text>
          </g>
          <g v-if="now.front">
            <path :d="`M${now.front[0]} ${now.front[1] - 9} v18`" />
            <text :x="now.front[0] - 4" :y="now.front[1] - 12" text-anchor="end">ink</text>
          </g>
        </svg>
      </div>
      <div class="steps small">
        <button type="button" class="word-button" aria-label="Ten frames back" @click="step(-10)">−10</button>
        <button type="button" class="word-button" aria-label="One frame back" @click="step(-1)">−1</button>
        <span>frame {{ at + 1 }} of {{ frames.frames }}</span>
        <button type="button" class="word-button" aria-label="One frame on" @click="step(1)">+1</button>
        <button type="button" class="word-button" aria-label="Ten frames on" @click="step(10)">+10</button>
        <button type="button" class="plain-button" :disabled="!Object.keys(marks).length" @click="marks = {}">
          Wipe the marks
        </button>
      </div>
      <p data-marked>
        <template v-if="found"
          ><b>{{ roughly(found.delay_ms) }}</b> ± {{ roughly(found.ci95_ms) }} ms, gap {{ say(found.gap_mm) }} mm, by
          hand from {{ found.frames_used }} frames at {{ say(found.speed_mm_s) }} mm/s</template
        >
        <span v-else class="small">{{
          why ||
          (now.nib && !now.front
            ? 'Now press where the ink ends.'
            : `Press the nib's tip, then the end of the ink, in ${frames.least_marked} frames or more: ` +
              `${whole.length} marked.`)
        }}</span>
      </p>
    </template>
  </div>
</template>

<style scoped>
.frame {
  position: relative;
  cursor: crosshair;
}
img {
  display: block;
  width: 100%;
  border: var(--line) solid var(--rule);
  user-select: none;
}
svg {
  position: absolute;
  inset: 0;
  width: 100%;
  height: 100%;
  pointer-events: none;
}
circle,
path {
  fill: none;
  stroke: var(--attention);
  stroke-width: 1.6;
}
text {
  font: 11px var(--face);
  fill: #000;
}
.steps {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  margin: 6px 0;
}
.steps .word-button {
  min-width: 44px;
  padding: 0 8px;
}
.empty {
  font-style: italic;
}
b {
  font-weight: 650;
}
</style>

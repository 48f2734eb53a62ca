<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef, useTemplateRef } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useDeviceSeen } from '@/composables/use-device-seen'
import { useLatest } from '@/composables/use-latest'
import { percent, say } from '@/lib/numbers'
import { percentile } from '@/lib/percentile'
import { useScreen } from '@/stores/screen'
import type { Checked } from './checked'
import { useField } from './use-field'

/** What the pen and this browser tell: read off a few lines of writing. */
const checked = defineModel<Checked>({ required: true })
const EDGE_MM = 12 // of the glass: a touch there while the nib is down rests on the rim
const FRAMES = 60
const screen = useScreen()
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const device = useDeviceSeen(canvas)
const found = shallowRef<Schemas['Inspection']>()
const refusal = ref('')
const frameHz = ref(0)
let nibDown = false
let resting = 0

const asked = useLatest(
  (seen: Schemas['Seen']) => take(api.POST('/api/lag/inspect', { body: { seen, stand_in: null, source: null } })),
  (answer, seen) => {
    found.value = answer
    refusal.value = ''
    checked.value = { ...checked.value, seen }
  },
  (error) => (refusal.value = error.message),
)
const field = useField(canvas, (stroke) => {
  nibDown = false
  device.add(stroke.samples, stroke.pointerType)
  void asked.want({
    strokes: [...device.strokes],
    hover: device.hover.value,
    contact_size: device.contactSize.value,
    frame_hz: frameHz.value || 60,
  })
})
useEventListener(canvas, 'pointerdown', () => (nibDown = true))
// a hand that rests on keys or on the rim while it writes
const handRests = ref(false)
const rested = () => {
  if (nibDown && ++resting >= 2) handRests.value = true
}
useEventListener('keydown', rested)
useEventListener(
  document,
  'pointerdown',
  (event: PointerEvent) => {
    const edge = EDGE_MM * screen.pxPerMm
    const { clientX: x, clientY: y } = event
    const atRim = x < edge || y < edge || x > window.innerWidth - edge || y > window.innerHeight - edge
    if (event.pointerType === 'touch' && atRim) rested()
  },
  { capture: true },
)

onMounted(() => {
  const frames: number[] = []
  const next = (now: number) => {
    frames.push(now)
    if (frames.length <= FRAMES) return void requestAnimationFrame(next)
    const gap = percentile(
      frames.slice(1).map((f, k) => f - frames[k]!),
      0.5,
    )
    frameHz.value = gap > 1 ? 1000 / gap : 60
    checked.value = { ...checked.value, refreshHz: frameHz.value }
  }
  requestAnimationFrame(next)
})
const words = computed(() => [...(found.value?.words ?? []), ...(found.value ? device.words() : [])])
const YES = (v: boolean | null | undefined) => (v === null || v === undefined ? 'not tried' : v ? 'yes' : 'no')
</script>

<template>
  <div class="check">
    <canvas ref="canvas" class="card" :width="field.size.value.width" :height="field.size.value.height" data-check />
    <div class="told">
      <p v-if="!found" class="book">
        {{ refusal || 'Write a few words here, hover over them, and let the nib rest once at the end of a line.' }}
      </p>
      <dl v-else data-found>
        <dt>reports</dt>
        <dd>
          <b>{{ say(found.report_hz) }}</b> a second, {{ say(found.per_frame) }} a frame, ±
          {{ percent(found.clock_jitter) }}
        </dd>
        <dt>force</dt>
        <dd>
          {{
            found.absent.includes('force')
              ? 'not told'
              : `${found.levels} levels seen, ${percent(found.force_low)} to ${percent(found.force_high)}`
          }}
        </dd>
        <dt>tilt</dt>
        <dd>{{ YES(!found.absent.includes('tilt')) }}</dd>
        <dt>hover</dt>
        <dd>{{ YES(found.hover) }}</dd>
        <dt>contact size</dt>
        <dd>{{ YES(found.contact_size) }}</dd>
        <dt>raw updates</dt>
        <dd>{{ YES('onpointerrawupdate' in canvas!) }}</dd>
        <dt>noise at rest</dt>
        <dd>{{ found.rest_noise_mm === null ? 'the nib did not rest' : `${say(found.rest_noise_mm)} mm` }}</dd>
      </dl>
      <p class="small">Refresh: {{ frameHz ? `${Math.round(frameHz)} pictures a second` : 'being measured' }}</p>
      <p v-for="w in words" :key="w" class="small loud">{{ w }}</p>
      <p v-if="handRests" class="small loud" data-turn>
        Your hand rests on the keys or the rim while you write. Turn the device so that they lie on the other side, then
        write here again.
      </p>
    </div>
  </div>
</template>

<style scoped>
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 2px 14px;
  margin: 0 0 8px;
}
dt {
  color: var(--graphite);
}
dd {
  margin: 0;
}
</style>

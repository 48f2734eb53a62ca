<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { computed, onScopeDispose, ref, useTemplateRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useDeviceSeen } from '@/composables/use-device-seen'
import { useLatest } from '@/composables/use-latest'
import { roughly } from '@/lib/numbers'
import { percentile } from '@/lib/percentile'
import { useDraft } from '@/stores/draft'
import { useLag } from '@/stores/lag'
import { frameGaps, summary } from './timings'
import { useLiveInk } from './use-live-ink'

/** Measured in this browser: from the event's own time to its handler, and to the frame after the one that draws it. */
const props = defineProps<{ controls: readonly number[] }>()
const draft = useDraft()
const lag = useLag()
const box = useTemplateRef<HTMLElement>('box')
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const above = useTemplateRef<HTMLCanvasElement>('above')
const { width, height } = useElementSize(box)
const device = useDeviceSeen(canvas)
const strokes = ref(0)
const found = computed(() => lag.live)

let longTasks = 0
const MOST_SHOWN = 20 // strokes whose frames are read
type Shown = Schemas['ShownStroke']
const shown: Shown[] = []
const framesRead = useLatest(
  (body: Schemas['ShownBody']) => take(api.POST('/api/lag/shown', { body })),
  (answer, { recipe }) => (lag.shown = { ...answer, aheadMs: recipe.steady?.ahead_ms ?? 0 }),
  () => (lag.shown = undefined), // too few frames
)

watch(
  () => props.controls.length,
  () => strokes.value && tell(),
)

const tasks = PerformanceObserver.supportedEntryTypes?.includes('longtask')
  ? new PerformanceObserver((list) => {
      if (ink.writing()) longTasks += list.getEntries().length
    })
  : undefined
tasks?.observe({ type: 'longtask' })
onScopeDispose(() => tasks?.disconnect())

const { timings, frames, ...ink } = useLiveInk(canvas, above, {
  anew: startOver,
  finished: ({ samples, frames: into, pointerType }) => {
    device.add(samples, pointerType)
    const stroke = device.strokes.at(-1)
    if (stroke && samples.length) shown.push({ stroke, ...into })
    if (shown.length > MOST_SHOWN) shown.shift()
    strokes.value += 1
    requestAnimationFrame(() => requestAnimationFrame(tell))
  },
})

function tell() {
  if (!timings.length) return
  if (draft.recipe) void framesRead.want({ recipe: draft.recipe, shown: [...shown] })
  lag.live = {
    ...summary(timings, frames, longTasks, props.controls),
    raw_p50_ms: device.raw.delays.length ? Math.max(0, percentile(device.raw.delays, 0.5)) : null,
  }
  const frameMs = percentile(frameGaps(frames), 0.5)
  lag.seen = {
    strokes: [...device.strokes],
    hover: device.hover.value,
    contact_size: device.contactSize.value,
    frame_hz: frameMs > 1 ? Math.min(1000, 1000 / frameMs) : 60,
  }
  lag.seenWords = device.words()
}

/** Another pen or paper is timed from nothing; what was measured with the one before stays with it. */
function startOver() {
  shown.length = longTasks = 0
  ink.clear()
  framesRead.forget()
  device.clear()
  strokes.value = 0
}

function clear() {
  startOver()
  lag.live = lag.seen = lag.shown = undefined
}
</script>

<template>
  <section class="drill">
    <h2>Live <em class="book">here, with this pen</em></h2>
    <div ref="box" class="box card">
      <canvas
        ref="canvas"
        :width="Math.round(width)"
        :height="Math.round(height)"
        data-layer="drill"
        aria-label="Write here: straight strokes, circles, small quick writing, dots"
      />
      <canvas ref="above" class="above" :width="Math.round(width)" :height="Math.round(height)" data-layer="ahead" />
      <span v-if="!strokes" class="small book">Strokes, circles, small quick writing, dots</span>
    </div>
    <p class="small told">
      <span v-if="found" data-live>
        <b>{{ roughly(found.frame_p50_ms) }}</b> ms to the frame (95 % under {{ roughly(found.frame_p95_ms) }}),
        <b>{{ roughly(found.handler_p50_ms) }}</b> to the handler (95 % under {{ roughly(found.handler_p95_ms) }});
        {{ found.events }} events, {{ found.dropped }} frames dropped, {{ found.long_tasks }} long tasks.
        <template v-if="found.control_ms !== null && found.control_ms !== undefined"
          >A pressed control shows after {{ roughly(found.control_ms) }} ms.</template
        >
        <button type="button" class="plain-button" @click="clear">Start over</button>
      </span>
    </p>
  </section>
</template>

<style scoped>
.drill {
  display: flex;
  flex-direction: column;
  min-height: 0;
}
h2 {
  font-size: var(--size);
  font-weight: 650;
  margin-bottom: 4px;
}
h2 em {
  font-weight: 400;
  font-size: 14px;
  margin-left: 8px;
}
.box {
  background: var(--swatch-ground);
  position: relative;
  flex: 1;
  min-height: 160px;
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
.box span {
  position: absolute;
  left: 10px;
  bottom: 6px;
  font-style: italic;
  pointer-events: none;
  color: var(--on-swatch);
}
/* its place is kept free: a box that grew or shrank would lose its ink */
.told {
  min-height: 108px;
  margin: 0;
}
b {
  font-weight: 650;
  color: var(--ink);
}
.plain-button {
  min-height: 0;
  padding: 6px 0;
  text-decoration: underline;
}
</style>

<script setup lang="ts">
import { LineChart, ScatterChart } from 'echarts/charts'
import { GridComponent } from 'echarts/components'
import { use } from 'echarts/core'
import { SVGRenderer } from 'echarts/renderers'

import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import VChart from 'vue-echarts'
import { api, take, type Schemas } from '@/api/client'
import { percent, roughly, say } from '@/lib/numbers'
import { useLatest } from '@/composables/use-latest'
import NumberField from '@/components/NumberField.vue'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { nearestSetting, tradeOption, type TradePoint } from './trade-chart'

use([LineChart, ScatterChart, GridComponent, SVGRenderer])

/** How much of a shake is left, against drag at the writer's speed: drag the point along the curves, or ask. */
const props = defineProps<{ source: Schemas['Source'] }>()
const desk = useDesk()
const draft = useDraft()
const chart = useTemplateRef<InstanceType<typeof VChart>>('chart')
const reply = shallowRef<Schemas['TradeReply']>()
const kept = shallowRef<TradePoint>()
const refusal = ref('')
const mostDrag = ref(12)
const mostLeft = ref(50)
const said = ref('')
const steady = computed(() => draft.recipe!.steady!)

const asked = useLatest(
  (body: Schemas['TradeBody']) => take(api.POST('/api/pen/trade', { body })),
  (answer) => {
    reply.value = answer
    refusal.value = ''
    if (!draft.changed) kept.value = answer.now
  },
  (error) => (refusal.value = error.message),
)
watch(
  [() => JSON.stringify(steady.value), () => props.source],
  () => void asked.want({ steady: steady.value, source: props.source }),
  { immediate: true },
)

const option = computed(() => {
  const style = getComputedStyle(document.documentElement)
  const c = (name: string) => style.getPropertyValue(`--${name}`).trim()
  void desk.desk?.surface
  return reply.value
    ? tradeOption(reply.value.points, reply.value.now, kept.value, {
        accent: c('accent'),
        ink: c('ink'),
        graphite: c('graphite'),
        rule: c('rule'),
        card: c('card'),
      })
    : {}
})

function set(method: string, amount: number) {
  draft.replace({ ...draft.recipe!, steady: { ...steady.value, method: method as typeof steady.value.method, amount } })
}

let dragging = false
function pick(event: PointerEvent) {
  const c = chart.value?.chart
  if (!c || !reply.value || (event.type === 'pointermove' && !dragging)) return
  if (event.type === 'pointerdown') {
    dragging = true
    ;(event.currentTarget as Element).setPointerCapture(event.pointerId)
  }
  const box = (event.currentTarget as Element).getBoundingClientRect()
  const [drag, left] = c.convertFromPixel({ seriesIndex: 0 }, [event.clientX - box.left, event.clientY - box.top]) as [
    number,
    number,
  ]
  const found = nearestSetting(reply.value.points, drag, left / 100, 100, 1)
  if (found) set(found.method, found.amount)
}
function drop() {
  dragging = false
  draft.done()
}

async function solve(wish: { most_drag_ms: number } | { most_left: number }) {
  await desk.attempt(async () => {
    const body = { steady: steady.value, source: props.source, most_drag_ms: null, most_left: null, ...wish }
    const { point } = await take(api.POST('/api/pen/solve', { body }))
    said.value = point
      ? `${point.method} ${point.amount.toFixed(1)}: ${percent(point.shake_left)} left, ${roughly(point.drag_ms)} ms`
      : 'No setting of any method gets there on this line.'
    if (point) set(point.method, Math.round(point.amount * 100) / 100)
    draft.done()
  })
}

const parameter = computed(() => {
  const now = reply.value?.now
  const m = now && reply.value?.methods[now.method]
  return m && now.amount ? `${m.symbol} ${say(now.parameter)} ${m.unit}` : 'the path as your hand made it'
})
</script>

<template>
  <div class="steady">
    <p v-if="refusal" class="book refusal">{{ refusal }}</p>
    <template v-else>
      <div
        class="plot"
        role="img"
        aria-label="Shake left against drag for every steadying method; drag the point along the curves"
        @pointerdown="pick"
        @pointermove="pick"
        @pointerup="drop"
        @pointercancel="drop"
      >
        <VChart ref="chart" :option="option" autoresize />
      </div>
      <p v-if="reply" class="small">
        {{ parameter }}: leaves {{ percent(reply.now.shake_left) }} of a shake for {{ roughly(reply.now.drag_ms) }} ms
      </p>
      <div class="ask">
        <button type="button" class="word-button" @click="solve({ most_drag_ms: mostDrag })">Calmest in</button>
        <NumberField v-model="mostDrag" :min="1" :max="200" label="Most drag, ms" /><span class="small">ms</span>
        <button type="button" class="word-button" @click="solve({ most_left: mostLeft / 100 })">Leave</button>
        <NumberField v-model="mostLeft" :min="1" :max="100" label="Most of a shake left, %" /><span class="small"
          >%</span
        >
      </div>
      <p class="small" role="status">{{ said }}</p>
    </template>
  </div>
</template>

<style scoped>
.plot {
  height: 204px;
  touch-action: none;
  cursor: grab;
}
.ask {
  display: flex;
  align-items: center;
  gap: 6px;
  margin-top: 4px;
}
.ask .word-button {
  padding: 0 10px;
}
.ask > span {
  margin-right: auto;
}
.ask :deep(.field) {
  width: 50px;
}
.ask :deep(.el-input__wrapper) {
  padding: 0 4px;
}
.refusal {
  font-style: italic;
  padding: 24px 0;
}
</style>

<script setup lang="ts">
import { useMediaQuery, useRafFn } from '@vueuse/core'
import { ElSlider } from 'element-plus'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'

/**
 * What is left of a checker that turned white, or how far a bar that moves drags its end behind: set until both sides
 * look the same, three times or more.
 */
const props = defineProps<{ kind: 'ghost' | 'response' }>()
const emit = defineEmits<{ told: [found: Schemas['Matched'] | null, settings: number] }>()
const [SQUARES, SIDE, SPEED] = [8, 240, 600] // css px, and css px a second
const STARTS = [0.06, 0.3, 0, 0.2, 0.12]
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const still = useMediaQuery('(prefers-reduced-motion: reduce)')
const settings = ref<number[]>([])
const setting = ref(0)
const dark = ref(props.kind === 'ghost')
const most = computed(() => (props.kind === 'ghost' ? 0.5 : 0.3))
const asked = useLatest(
  (all: number[]) => take(api.POST('/api/screen/matches', { body: { settings: all } })),
  (answer, all) => emit('told', answer.matched, all.length),
)
/** The share that is left, or the drag in seconds, starts elsewhere each time. */
function anew() {
  setting.value = STARTS[settings.value.length % STARTS.length]! * (props.kind === 'ghost' ? 1 : 0.6)
  dark.value = props.kind === 'ghost'
}
watch(() => props.kind, begin, { immediate: true })
function begin() {
  settings.value = []
  anew()
}
function same() {
  settings.value = [...settings.value, props.kind === 'ghost' ? setting.value : 1000 * setting.value]
  void asked.want(settings.value)
  anew()
}
let travelled = 0
useRafFn(({ delta }) => {
  travelled = (travelled + (SPEED * delta) / 1000) % (2 * SIDE)
  draw()
})
watch([setting, dark], draw, { flush: 'post' })
function draw() {
  const context = canvas.value?.getContext('2d')
  if (!context) return
  context.fillStyle = 'white'
  context.fillRect(0, 0, 2 * SIDE, SIDE)
  if (props.kind === 'ghost') ghost(context)
  else bars(context)
}
/** Left the real one; right the same checker, drawn in the grey that is set. */
function ghost(context: CanvasRenderingContext2D) {
  const grey = Math.round(255 * (1 - setting.value))
  const step = SIDE / SQUARES
  for (let j = 0; j < SQUARES; j++)
    for (let i = 0; i < SQUARES; i++) {
      if ((i + j) % 2) continue
      if (dark.value) {
        context.fillStyle = 'black'
        context.fillRect(i * step, j * step, step, step)
      } else {
        context.fillStyle = `rgb(${grey} ${grey} ${grey})`
        context.fillRect(SIDE + i * step, j * step, step, step)
      }
    }
}
/** Two bars that follow each other; the gap is set until the first's end just reaches the second. */
function bars(context: CanvasRenderingContext2D) {
  context.fillStyle = 'black'
  const at = still.value ? SIDE : travelled
  context.fillRect(at, 30, 24, 80)
  const gap = SPEED * setting.value
  context.fillRect(at - 24 - gap, 30, 24, 80)
}
</script>

<template>
  <div class="match" :data-kind="kind">
    <canvas ref="canvas" :width="2 * SIDE" :height="SIDE" data-match />
    <p v-if="kind === 'ghost' && dark" class="book">Look at the checker for a moment, then turn it white.</p>
    <p v-else-if="kind === 'ghost'" class="book">
      Where it was something may be left. Set the right side until both look the same; 0 where nothing is left.
    </p>
    <p v-else-if="still" class="book">Motion is switched off here, so this cannot be seen.</p>
    <p v-else class="book">Follow the bars. Widen the gap until the end of the first no longer reaches the second.</p>
    <button v-if="dark" type="button" class="word-button" @click="dark = false">Turn it white</button>
    <div v-show="!dark" class="set">
      <ElSlider
        v-model="setting"
        :min="0"
        :max="most"
        :step="0.002"
        :show-tooltip="false"
        aria-label="Set until same"
      />
      <button type="button" class="word-button" :disabled="still && kind === 'response'" @click="same">
        Now they are the same
      </button>
    </div>
    <p class="small">{{ settings.length }} set, 3 are needed</p>
  </div>
</template>

<style scoped>
.match {
  display: grid;
  gap: 10px;
  align-content: start;
  justify-items: center;
}
canvas {
  max-width: 100%;
  border: var(--line) solid var(--edge);
}
.set {
  display: grid;
  justify-items: center;
  width: 100%;
}
.el-slider {
  width: min(320px, 90%);
}
</style>

<script setup lang="ts">
import { computed, nextTick, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useScreen } from '@/stores/screen'

/** One ladder: something is shown in one of four ways, and which it was is chosen; harder while it is seen. */
const props = defineProps<{ kind: string }>()
const emit = defineEmits<{ told: [found: Schemas['EyeSees']] }>()
const SIDES = ['left', 'right', 'top', 'bottom']
const WAYS = ['—', '|', '/', '\\']
const SIDE = 240 // css px of the picture
const desk = useDesk()
const screen = useScreen()
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const looks = ref<Schemas['Looked'][]>([])
const now = shallowRef<Schemas['LookNext']>()
const seed = Math.floor(Math.random() * 2 ** 31)
const ratio = window.devicePixelRatio
const worded = computed(() => /print|writing/.test(props.kind))
const choices = computed(() => (worded.value ? (now.value?.words ?? []) : props.kind === 'greys' ? SIDES : WAYS))
const QUESTIONS: Record<string, string> = {
  greys: 'On which side is the square of another grey?',
  lines: 'Which way do the lines run?',
}
const asked = useLatest(
  (all: Schemas['Looked'][]) => take(api.POST('/api/screen/looks', { body: { kind: props.kind, looks: all, seed } })),
  async (answer) => {
    now.value = answer
    if (looks.value.length) emit('told', answer.found)
    await nextTick()
    void show(answer)
  },
)
watch(
  () => props.kind,
  () => {
    looks.value = []
    void asked.want([])
  },
  { immediate: true },
)
function choose(k: number) {
  if (asked.busy.value || !now.value) return
  looks.value = [...looks.value, { level: now.value.found.level, right: k === now.value.pick }]
  void asked.want(looks.value)
}

async function show({ found, pick, grey, words }: Schemas['LookNext']) {
  const context = canvas.value?.getContext('2d')
  if (!context) return
  const { width, height } = context.canvas
  context.fillStyle = props.kind === 'greys' ? `rgb(${grey} ${grey} ${grey})` : 'white'
  context.fillRect(0, 0, width, height)
  if (props.kind === 'greys') {
    const other = grey + found.level
    const [dx, dy] = [
      [-1, 0],
      [1, 0],
      [0, -1],
      [0, 1],
    ][pick]!
    const side = width / 4
    context.fillStyle = `rgb(${other} ${other} ${other})`
    context.fillRect((width - side) / 2 + dx! * side, (height - side) / 2 + dy! * side, side, side)
  } else if (props.kind === 'lines') lines(context, found.level, pick)
  else if (props.kind.includes('print')) print(context, words[pick]!, found.level)
  else await writing(context, words[pick]!, found.level)
}

/** Lines as wide as the gaps between them, each so many pixels of the screen, stepped where they run aslant. */
function lines(context: CanvasRenderingContext2D, px: number, way: number) {
  const { width, height } = context.canvas
  const side = Math.round(width / 2)
  const [left, top] = [Math.round((width - side) / 2), Math.round((height - side) / 2)]
  context.fillStyle = 'black'
  for (let j = 0; j < side; j++)
    for (let i = 0; i < side; i++) {
      const across = [j, i, i + j, i - j + side][way]!
      if (Math.floor(across / px) % 2 === 0) context.fillRect(left + i, top + j, 1, 1)
    }
}
const bold = computed(() => props.kind.startsWith('bold'))
/** Set so that an x is as high as asked for. */
function print(context: CanvasRenderingContext2D, word: string, heightMm: number) {
  const face = getComputedStyle(document.documentElement).getPropertyValue('--face')
  const font = (px: number) => `${bold.value ? 750 : 400} ${px}px ${face}`
  context.font = font(100)
  const high = context.measureText('x').actualBoundingBoxAscent
  context.font = font((100 * heightMm * screen.pxPerMm * ratio) / high)
  context.fillStyle = 'black'
  context.textAlign = 'center'
  context.fillText(word, context.canvas.width / 2, context.canvas.height / 2)
}
async function writing(context: CanvasRenderingContext2D, word: string, heightMm: number) {
  const body = { word, x_height_mm: heightMm, px_per_mm: screen.pxPerMm * ratio, bold: bold.value }
  await desk.attempt(async () => {
    const data = await take(api.POST('/api/screen/word', { body, parseAs: 'blob' }))
    const picture = await createImageBitmap(data)
    const { width, height } = context.canvas
    context.drawImage(picture, Math.round((width - picture.width) / 2), Math.round((height - picture.height) / 2))
  })
}
</script>

<template>
  <div class="four" :data-kind="kind" :data-level="now?.found.level" :data-pick="now?.pick">
    <canvas
      ref="canvas"
      :width="Math.round(SIDE * ratio)"
      :height="Math.round(SIDE * ratio)"
      :style="{ width: `${SIDE}px`, height: `${SIDE}px` }"
      data-look
    />
    <p class="book">{{ QUESTIONS[kind] ?? 'Which word is it?' }}</p>
    <div class="row">
      <button
        v-for="(words, k) in choices"
        :key="words"
        type="button"
        class="word-button"
        :disabled="asked.busy.value"
        @click="choose(k)"
      >
        {{ words }}
      </button>
    </div>
    <p class="small">{{ looks.length }} answered{{ now?.found.done ? ': enough' : '' }}</p>
  </div>
</template>

<style scoped>
.four {
  display: grid;
  gap: 10px;
  align-content: start;
  justify-items: center;
}
canvas {
  border: var(--line) solid var(--edge);
}
.word-button {
  min-width: 64px;
}
</style>

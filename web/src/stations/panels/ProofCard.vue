<script setup lang="ts">
import { ElOption, ElSelect } from 'element-plus'
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { api, take, type DeviceItem, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { short } from '@/lib/names'
import { percent, roughly } from '@/lib/numbers'
import { callsForAttention, inWords } from '@/lib/readings'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { useInk } from '@/stores/ink'
import type { Figures } from './figures'
import PanelForm from './PanelForm.vue'

/**
 * One device's proof of the sheet: the whole at true relative size, a lens at the same place on the page as its
 * neighbour, readings.
 */
const props = defineProps<{
  devices: DeviceItem[]
  at: { x: number; y: number }
  light: string
  beside?: Schemas['ProofBody']
}>()
const deviceId = defineModel<string>({ required: true })
const emit = defineEmits<{ look: [place: { x: number; y: number }]; asked: [body: Schemas['ProofBody']] }>()
const desk = useDesk()
const ink = useInk()
const draft = useDraft()
type Toning = Schemas['Toning']
const field = (name: keyof Toning) => desk.desk!.toning_fields.find((f) => f.name === name)!
const dither = ref<NonNullable<Toning['dither']>>('none')
const greys = ref(0)
const bolder = ref(0)
const raised = ref(1)
const figures = defineModel<Figures>('figures', { required: true })
const open = defineModel<boolean>('open', { required: true })
const BOLDER = [0, 1, 2, 3]
const RAISED = [1, 1.25, 1.5, 2, 3]
const device = computed(() => props.devices.find((d) => d.id === deviceId.value))
const picture = shallowRef<HTMLImageElement>()
const reply = shallowRef<Schemas['ProofReply']>()
const whole = useTemplateRef<HTMLCanvasElement>('whole')
const lens = useTemplateRef<HTMLCanvasElement>('lens')
const LENS_MM = 14
const CHOICES = computed(() => [2, 4, 8, 16, 256].filter((g) => g <= (device.value?.device.panel.greys ?? 256)))

const own = shallowRef<Schemas['ProofBody']>()
/** Where this panel differs from the one beside it. */
const heat = shallowRef<HTMLImageElement>()
const apart = shallowRef<Schemas['DifferenceReply']>()
const differences = useLatest(
  async (body: Schemas['DifferenceBody']) => {
    const reply = await take(api.POST('/api/panels/difference', { body }))
    const image = Object.assign(new Image(), { src: reply.image })
    await image.decode()
    return { reply, image }
  },
  (answer) => {
    heat.value = answer.image
    apart.value = answer.reply
    draw()
  },
)
watch([() => props.beside, own], ([beside, other]) => {
  differences.forget()
  heat.value = apart.value = undefined
  draw()
  if (beside && other && beside.sheet_id === other.sheet_id) void differences.want({ one: beside, other })
})

const proofs = useLatest(
  async (body: Schemas['ProofBody']) => {
    const reply = await take(api.POST('/api/panels/proof', { body }))
    const image = Object.assign(new Image(), { src: reply.image })
    await image.decode()
    return { reply, image }
  },
  (answer) => {
    picture.value = answer.image
    reply.value = answer.reply
    draw()
  },
  desk.tell,
)

watch(
  [
    () => desk.sheet?.id,
    deviceId,
    dither,
    greys,
    bolder,
    raised,
    figures,
    () => props.light,
    () => draft.unkept,
    () => ink.changed,
  ],
  () => {
    if (!desk.sheet) return
    const body = {
      sheet_id: desk.sheet.id,
      device_id: deviceId.value,
      panel: figures.value.panel ?? null,
      recipe: draft.unkept,
      toning: { dither: dither.value, greys: greys.value, bolder_px: bolder.value, raised: raised.value },
      light: props.light,
    }
    own.value = body
    emit('asked', body)
    void proofs.want(body)
  },
  { immediate: true },
)
watch(deviceId, () => {
  greys.value = 0
  figures.value = {}
})
watch(() => props.at, draw)

const pxPerMm = computed(() => ((figures.value.panel ?? device.value?.device.panel)?.ppi ?? 25.4) / 25.4)

function draw() {
  const image = picture.value
  const small = whole.value?.getContext('2d')
  const large = lens.value?.getContext('2d')
  if (!image || !small || !large) return
  const paper = desk.sheet!.paper
  const box = small.canvas
  const k = Math.min(box.width / paper.width_mm, box.height / paper.height_mm)
  const [w, h] = [paper.width_mm * k, paper.height_mm * k]
  const [left, top] = [(box.width - w) / 2, (box.height - h) / 2]
  small.clearRect(0, 0, box.width, box.height)
  small.imageSmoothingQuality = 'high'
  small.drawImage(image, left, top, w, h)
  if (heat.value) small.drawImage(heat.value, left, top, w, h)
  const style = getComputedStyle(document.documentElement)
  const half = LENS_MM / 2
  small.strokeStyle = style.getPropertyValue('--accent')
  small.lineWidth = 3
  small.strokeRect(left + (props.at.x - half) * k, top + (props.at.y - half) * k, LENS_MM * k, LENS_MM * k)
  large.imageSmoothingEnabled = false
  large.fillStyle = style.getPropertyValue('--rule')
  large.fillRect(0, 0, large.canvas.width, large.canvas.height)
  const s = pxPerMm.value
  large.drawImage(
    image,
    (props.at.x - half) * s,
    (props.at.y - half) * s,
    LENS_MM * s,
    LENS_MM * s,
    0,
    0,
    large.canvas.width,
    large.canvas.height,
  )
  const hot = heat.value
  if (!hot) return
  const [a, b] = [hot.naturalWidth / paper.width_mm, large.canvas.width]
  large.drawImage(hot, (props.at.x - half) * a, (props.at.y - half) * a, LENS_MM * a, LENS_MM * a, 0, 0, b, b)
}

function look(event: PointerEvent) {
  if (event.type === 'pointermove' && !event.buttons) return
  const box = whole.value!.getBoundingClientRect()
  const paper = desk.sheet!.paper
  const k = Math.min(box.width / paper.width_mm, box.height / paper.height_mm)
  emit('look', {
    x: (event.clientX - box.left - (box.width - paper.width_mm * k) / 2) / k,
    y: (event.clientY - box.top - (box.height - paper.height_mm * k) / 2) / k,
  })
}

function key(event: KeyboardEvent) {
  const step = { ArrowLeft: [-2, 0], ArrowRight: [2, 0], ArrowUp: [0, -2], ArrowDown: [0, 2] }[event.key]
  if (!step) return
  event.preventDefault()
  emit('look', { x: props.at.x + step[0]!, y: props.at.y + step[1]! })
}

const pairs = computed(() => reply.value?.alike.map(([a, b]) => `${short(a!)}, ${short(b!)}`) ?? [])
const more = computed(() => (pairs.value.length > 2 ? ` and ${pairs.value.length - 2} more` : ''))
const known = (key: string) => desk.reading('panel', key)!
const vanishing = computed(() => callsForAttention(known('hairline_share'), reply.value?.readings.hairline_share))
const verdict = computed(() => {
  const r = reply.value?.readings
  if (!r) return ''
  if (vanishing.value) return `${percent(r.hairline_share)} of the ink is fainter than 3:1 and may vanish`
  return callsForAttention(known('best_contrast'), r.best_contrast)
    ? 'no ink here reaches 3:1'
    : 'all lines stay visible'
})
</script>

<template>
  <article class="proof" :class="{ waits: proofs.busy.value }" :data-device="deviceId">
    <div class="choose">
      <ElSelect v-model="deviceId" aria-label="Device" :title="device?.device.name"
        ><ElOption v-for="d in devices" :key="d.id" :value="d.id" :label="d.device.name"
      /></ElSelect>
      <ElSelect v-model="dither" aria-label="Dither" :title="field('dither').help"
        ><ElOption v-for="d in field('dither').options" :key="d" :value="d" :label="d === 'none' ? 'no dither' : d"
      /></ElSelect>
      <ElSelect
        :model-value="greys || device?.device.panel.greys"
        aria-label="Greys"
        @change="(g: number) => (greys = g)"
        ><ElOption v-for="g in CHOICES" :key="g" :value="g" :label="`${g} greys`"
      /></ElSelect>
      <ElSelect v-model="bolder" aria-label="Bolder" :title="field('bolder_px').help"
        ><ElOption v-for="b in BOLDER" :key="b" :value="b" :label="b ? `${b} px bolder` : 'as bold'"
      /></ElSelect>
      <ElSelect v-model="raised" aria-label="Contrast raised" :title="field('raised').help"
        ><ElOption v-for="r in RAISED" :key="r" :value="r" :label="`contrast × ${r}`"
      /></ElSelect>
    </div>
    <canvas
      ref="whole"
      class="whole"
      width="860"
      height="620"
      tabindex="0"
      aria-label="The sheet on this panel; press or use the arrows to move the lens"
      @pointerdown="look"
      @pointermove="look"
      @keydown="key"
    />
    <div class="below">
      <button type="button" class="plain-button" :aria-expanded="open" @click="open = !open">
        {{ open ? 'Back to the lens' : 'Figures of this panel' }}
      </button>
      <PanelForm v-if="open && device" v-model="figures" :device="device" @made="(id: string) => (deviceId = id)" />
      <div v-show="!open" class="close">
        <canvas ref="lens" class="lens" width="440" height="440" aria-label="Lens" data-layer="lens" />
        <dl v-if="reply" class="small">
          <dt>Lens</dt>
          <dd>{{ LENS_MM }} mm, {{ Math.round(LENS_MM * pxPerMm) }} px</dd>
          <dt>Sheet</dt>
          <dd>{{ reply.width_px }} × {{ reply.height_px }} px</dd>
          <template v-if="reply.layers">
            <dt>Layers</dt>
            <dd>{{ reply.layers }}</dd>
          </template>
          <dt :title="known('thinnest_mm').help">Thinnest line</dt>
          <dd>
            {{ inWords(known('thinnest_mm'), reply.readings.thinnest_mm) }},
            <b>{{ inWords(known('thinnest_px'), reply.readings.thinnest_px) }}</b>
          </dd>
          <dt title="Lines of this pen's colour that are thinner do not stay at 3:1 with the paper">Needed</dt>
          <dd data-needed>
            {{ reply.thinnest_line_mm === null ? 'no width reaches 3:1' : `${reply.thinnest_line_mm.toFixed(2)} mm` }}
          </dd>
          <dt title="Pixels an edge of this pen takes from a tenth to nine tenths of its tone">Edge</dt>
          <dd>{{ reply.edge_px.toFixed(2) }} px</dd>
          <template v-if="reply.white_cd_m2 !== null">
            <dt title="How light the panel's white is in this light; paper on a desk in an office is some 120 cd/m²">
              White
            </dt>
            <dd>{{ roughly(reply.white_cd_m2) }} cd/m²</dd>
          </template>
          <template v-if="reply.alike.length">
            <dt title="Pens told apart on paper that look alike on this panel">Look alike</dt>
            <dd :title="pairs.join('; ')">{{ pairs.slice(0, 2).join('; ') }}{{ more }}</dd>
          </template>
          <dt :title="known('best_contrast').help">Best contrast</dt>
          <dd>{{ inWords(known('best_contrast'), reply.readings.best_contrast) }}</dd>
          <dt :title="known('greys_used').help">Greys in use</dt>
          <dd>{{ reply.readings.greys_used }} of {{ reply.greys }}</dd>
          <dt :title="known('grey_error').help">Grey error</dt>
          <dd>{{ inWords(known('grey_error'), reply.readings.grey_error) }}</dd>
          <template v-if="apart">
            <dt title="How far apart in lightness (L*) small squares of the page are from the first panel's">Apart</dt>
            <dd data-apart>{{ apart.mean_l.toFixed(2) }} L* on the mean, {{ apart.most_l.toFixed(0) }} at most</dd>
          </template>
          <dt class="visually-hidden">Verdict</dt>
          <dd class="verdict" :class="{ bad: vanishing }">{{ verdict }}</dd>
        </dl>
      </div>
    </div>
  </article>
</template>

<style scoped>
/* rows are shared by all panels, so that the sheet is as large on each */
.proof {
  display: grid;
  grid-row: span 3;
  grid-template-rows: subgrid;
  gap: 10px;
  min-height: 0;
  min-width: 0;
}
.choose {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(124px, 1fr));
  gap: 6px;
}
.choose > :first-child {
  grid-column: 1 / -1;
}
.whole {
  width: 100%;
  height: 100%;
  min-height: 180px;
  object-fit: contain;
  touch-action: none;
  cursor: crosshair;
}
.below {
  container-type: inline-size;
}
.close {
  display: grid;
  grid-template-columns: minmax(120px, 220px) minmax(0, 1fr);
  gap: 16px;
}
.lens {
  width: 100%;
  aspect-ratio: 1;
  border: var(--line) solid var(--edge);
  image-rendering: pixelated;
}
.waits dl {
  opacity: 0.5;
}
dl {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 3px 12px;
  align-content: start;
  color: var(--ink);
}
dt {
  color: var(--graphite);
}
.verdict {
  grid-column: 1 / -1;
  margin-top: 6px;
  font: italic 15px/1.35 var(--book);
  color: var(--accent);
}
.verdict.bad {
  color: var(--attention);
}

/* beside more than one other there is no room beside the lens */
@container (max-width: 420px) {
  .close {
    grid-template-columns: minmax(0, 1fr);
    gap: 8px;
  }
}
</style>

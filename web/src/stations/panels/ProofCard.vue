<script setup lang="ts">
import WaitSign from '@/components/WaitSign.vue'
import { ElOption, ElSelect } from 'element-plus'
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { api, take, type DeviceItem, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { useInk } from '@/stores/ink'
import { usePanels } from '@/stores/panels'
import ExportTable from './ExportTable.vue'
import { BELOW, PLAIN, type Below, type Figures, type Toning } from './figures'
import PanelAdvice from './PanelAdvice.vue'
import PanelForm from './PanelForm.vue'
import { drawLens, drawWhole, placeIn } from './proof-pictures'
import ProofReadings from './ProofReadings.vue'
import WordTabs from '@/components/WordTabs.vue'

/**
 * One device's proof of the sheet: the whole at true relative size, a lens at the same place on the page as its
 * neighbour, readings, and what would help.
 */
const props = defineProps<{
  devices: DeviceItem[]
  at: { x: number; y: number }
  light: string
  marked: boolean
  beside?: Schemas['ProofBody']
}>()
const deviceId = defineModel<string>({ required: true })
const figures = defineModel<Figures>('figures', { required: true })
const below = defineModel<Below>('below', { required: true })
const emit = defineEmits<{ look: [place: { x: number; y: number }]; asked: [body: Schemas['ProofBody']] }>()
const desk = useDesk()
const ink = useInk()
const draft = useDraft()
const BOLDER = [0, 1, 2, 3]
const RAISED = [1, 1.25, 1.5, 2, 3]
const field = (name: keyof Toning) => usePanels().ways!.toning_fields.find((f) => f.name === name)!
const toning = ref({ ...PLAIN })
const toned = computed(() => JSON.stringify(toning.value) !== JSON.stringify(PLAIN))
const device = computed(() => props.devices.find((d) => d.id === deviceId.value))
const panel = computed(() => figures.value.panel ?? device.value?.device.panel)
const pxPerMm = computed(() => (panel.value?.ppi ?? 25.4) / 25.4)
const CHOICES = computed(() => [2, 4, 8, 16, 256].filter((g) => g <= (panel.value?.greys ?? 256)))
const picture = shallowRef<HTMLImageElement>()
const reply = shallowRef<Schemas['ProofReply']>()
const whole = useTemplateRef<HTMLCanvasElement>('whole')
const lens = useTemplateRef<HTMLCanvasElement>('lens')
/** Where this panel differs from the one beside it. */
const heat = shallowRef<HTMLImageElement>()
const apart = shallowRef<Schemas['DifferenceReply']>()

async function withImage<Reply extends { image: string }>(reply: Reply) {
  const image = Object.assign(new Image(), { src: reply.image })
  await image.decode()
  return { reply, image }
}
const differences = useLatest(
  async (body: Schemas['DifferenceBody']) => withImage(await take(api.POST('/api/panels/difference', { body }))),
  (answer) => {
    heat.value = answer.image
    apart.value = answer.reply
  },
)
const proofs = useLatest(
  async (body: Schemas['ProofBody']) => withImage(await take(api.POST('/api/panels/proof', { body }))),
  (answer) => {
    picture.value = answer.image
    reply.value = answer.reply
  },
  desk.tell,
)
const body = computed<Schemas['ProofBody'] | undefined>(
  () =>
    desk.sheet && {
      sheet_id: desk.sheet.id,
      device_id: deviceId.value,
      panel: figures.value.panel ?? null,
      recipe: draft.unkept,
      toning: toning.value,
      light: props.light,
    },
)
watch(
  [body, () => ink.changed],
  ([wanted]) => {
    if (!wanted) return
    emit('asked', wanted)
    void proofs.want(wanted)
  },
  { immediate: true },
)
watch([() => props.beside, body], ([beside, other]) => {
  differences.forget()
  heat.value = apart.value = undefined
  if (beside && other && beside.sheet_id === other.sheet_id) void differences.want({ one: beside, other })
})
watch(deviceId, () => {
  toning.value = { ...toning.value, greys: 0 }
  figures.value = {}
})
watch([picture, heat, () => props.at, () => props.marked], draw, { flush: 'post' })

function draw() {
  const small = whole.value?.getContext('2d')
  const large = lens.value?.getContext('2d')
  if (!picture.value || !reply.value || !small || !large) return
  const shown = {
    image: picture.value,
    heat: heat.value,
    broken: props.marked ? reply.value.broken : [],
    paper: desk.sheet!.paper,
    pxPerMm: pxPerMm.value,
    at: props.at,
  }
  drawWhole(small, shown)
  drawLens(large, shown)
}
function look(event: PointerEvent) {
  if (event.type === 'pointermove' && !event.buttons) return
  emit('look', placeIn(whole.value!.getBoundingClientRect(), desk.sheet!.paper, event.clientX, event.clientY))
}
function key(event: KeyboardEvent) {
  const step = { ArrowLeft: [-2, 0], ArrowRight: [2, 0], ArrowUp: [0, -2], ArrowDown: [0, 2] }[event.key]
  if (!step) return
  event.preventDefault()
  emit('look', { x: props.at.x + step[0]!, y: props.at.y + step[1]! })
}
</script>

<template>
  <article class="proof" :class="{ waits: proofs.busy.value }" :data-device="deviceId">
    <div class="choose">
      <ElSelect v-model="deviceId" aria-label="Device" :title="device?.device.name"
        ><ElOption v-for="d in devices" :key="d.id" :value="d.id" :label="d.device.name"
      /></ElSelect>
      <ElSelect
        :model-value="toning.dither"
        aria-label="Dither"
        :title="field('dither').help"
        @change="(dither: Toning['dither']) => (toning = { ...toning, dither })"
        ><ElOption v-for="d in field('dither').options" :key="d" :value="d" :label="d === 'none' ? 'no dither' : d"
      /></ElSelect>
      <ElSelect
        :model-value="toning.greys || panel?.greys"
        aria-label="Greys"
        @change="(greys: number) => (toning = { ...toning, greys })"
        ><ElOption v-for="g in CHOICES" :key="g" :value="g" :label="`${g} greys`"
      /></ElSelect>
      <ElSelect
        :model-value="toning.bolder_px"
        aria-label="Bolder"
        :title="field('bolder_px').help"
        @change="(bolder_px: number) => (toning = { ...toning, bolder_px })"
        ><ElOption v-for="b in BOLDER" :key="b" :value="b" :label="b ? `${b} px bolder` : 'as bold'"
      /></ElSelect>
      <ElSelect
        :model-value="toning.raised"
        aria-label="Contrast raised"
        :title="field('raised').help"
        @change="(raised: number) => (toning = { ...toning, raised })"
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
      <WordTabs v-model="below" :tabs="BELOW" label="Below this proof" />
      <button v-if="toned" type="button" class="plain-button toned" @click="toning = { ...PLAIN }">Plain toning</button>
      <PanelForm
        v-if="below === 'figures' && device"
        v-model="figures"
        :device="device"
        @made="(id: string) => (deviceId = id)"
      />
      <PanelAdvice
        v-else-if="below === 'advice' && body"
        :body="body"
        @tone="(to: Schemas['Toning']) => (toning = { ...PLAIN, ...to })"
      />
      <ExportTable v-else-if="below === 'exports' && body" :body="body" />
      <div v-show="below === 'lens'" class="close">
        <canvas ref="lens" class="lens" width="440" height="440" aria-label="Lens" data-layer="lens" />
        <ProofReadings v-if="reply" :reply="reply" :apart="apart" :px-per-mm="pxPerMm" />
        <WaitSign v-else-if="proofs.busy.value" words="This panel is on its way" />
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
  position: relative;
  container-type: inline-size;
}
.toned {
  position: absolute;
  top: 0;
  right: 0;
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
.waits .close dl {
  opacity: 0.5;
}

/* beside more than one other there is no room beside the lens */
@container (max-width: 420px) {
  .close {
    grid-template-columns: minmax(0, 1fr);
    gap: 8px;
  }
}
</style>

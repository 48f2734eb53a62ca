<script setup lang="ts">
import { ElOption, ElSelect } from 'element-plus'
import { computed, shallowRef, useTemplateRef, watch } from 'vue'
import { api, take, type DeviceItem, type Schemas } from '@/api/client'
import { giveFile } from '@/composables/use-files'
import { useLatest } from '@/composables/use-latest'
import { channels } from '@/lib/colour'
import { say } from '@/lib/numbers'
import { callsForAttention, inWords } from '@/lib/readings'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { useInk } from '@/stores/ink'
import { Film, type Shown } from './film'
import type { Below, Figures, FilmAsked } from './figures'
import PanelForm from './PanelForm.vue'

/** One device's panel while the page is written on it, at the moment all of them are shown. */
const props = defineProps<{
  devices: DeviceItem[]
  asked: FilmAsked
  tMs: number
  shown: Shown | 'waits'
}>()
const deviceId = defineModel<string>({ required: true })
const figures = defineModel<Figures>('figures', { required: true })
const below = defineModel<Below>('below', { required: true })
const emit = defineEmits<{ made: [film: Film | undefined] }>()
const FULL_S = 3 // from which the veil of waits is full
const desk = useDesk()
const draft = useDraft()
const ink = useInk()
const device = computed(() => props.devices.find((d) => d.id === deviceId.value))
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
const film = shallowRef<Film>()
const pointed = shallowRef<number>()
const body = computed(() => ({
  ...props.asked,
  sheet_id: desk.sheet!.id,
  device_id: deviceId.value,
  panel: figures.value.panel ?? null,
  updates: figures.value.updates ?? null,
  recipe: draft.unkept,
}))
const films = useLatest(
  async (wanted: Schemas['PageFilmBody']) => Film.of(await take(api.POST('/api/panels/film', { body: wanted }))),
  (made) => {
    film.value = made
    emit('made', made)
  },
  (error) => {
    film.value = undefined
    emit('made', undefined)
    desk.tell(error)
  },
)
watch([body, () => ink.changed], () => desk.sheet && void films.want(body.value), { immediate: true })
watch(deviceId, () => (figures.value = {}))
watch([film, () => props.tMs, () => props.shown], draw, { flush: 'post' })

function draw() {
  const context = canvas.value?.getContext('2d')
  if (!context || !film.value) return
  const picture = film.value.at(props.tMs, props.shown === 'waits' ? 'seen' : props.shown)
  if (canvas.value!.width !== picture.width) canvas.value!.width = picture.width
  if (canvas.value!.height !== picture.height) canvas.value!.height = picture.height
  context.putImageData(picture, 0, 0)
  if (props.shown !== 'waits') return
  context.globalAlpha = 0.75 // the ink is only hinted at under the veil
  context.fillStyle = 'white'
  context.fillRect(0, 0, picture.width, picture.height)
  context.globalAlpha = 1
  const veil = new OffscreenCanvas(picture.width, picture.height)
  const colour = getComputedStyle(document.documentElement).getPropertyValue('--attention').trim()
  veil.getContext('2d')!.putImageData(film.value.veil(channels(colour), FULL_S), 0, 0)
  context.drawImage(veil, 0, 0)
}
function point(event: PointerEvent) {
  const box = canvas.value!.getBoundingClientRect()
  pointed.value = film.value?.waitAt((event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height)
}

const known = (key: string) => desk.reading('in time', key)!
const rows = computed(() => {
  const found = film.value?.reply.readings
  if (!found) return []
  return (Object.keys(found) as (keyof typeof found)[])
    .filter((key) => found[key] !== null && !(found[key] === 0 && (key === 'fast' || key === 'full')))
    .map((key) => ({
      key,
      label: known(key).label,
      help: known(key).help,
      said: inWords(known(key), found[key]),
      bad: callsForAttention(known(key), found[key]),
    }))
})
const ghosts = computed(() => {
  const found = film.value?.reply.ghosts
  if (!found || !film.value!.reply.began_s.length) return ''
  const most = `${say(found.apart_l[0]!)} L* after one, ${say(found.apart_l.at(-1)!)} after ${found.apart_l.length}`
  return found.seen_after === null ? `${most}: never noticed` : `${most}: noticed from ${found.seen_after} on`
})
const save = () =>
  desk.attempt(async () => {
    const frames = await take(api.POST('/api/panels/film-frames', { body: body.value, parseAs: 'blob' }))
    giveFile(frames, `${device.value?.device.name}, ${body.value.frames_hz} frames a second.zip`)
  })
</script>

<template>
  <article class="card-in-time" :class="{ waits: films.busy.value }" :data-device="deviceId">
    <ElSelect v-model="deviceId" aria-label="Device" :title="device?.device.name"
      ><ElOption v-for="d in devices" :key="d.id" :value="d.id" :label="d.device.name"
    /></ElSelect>
    <canvas
      ref="canvas"
      class="picture"
      width="600"
      height="372"
      :data-at="tMs"
      data-layer="in-time"
      aria-label="The page on this panel at this moment"
      @pointermove="point"
      @pointerdown="point"
      @pointerleave="pointed = undefined"
    />
    <div class="buttons">
      <p class="small there">
        <template v-if="films.busy.value">played on this panel …</template>
        <template v-else-if="pointed !== undefined">
          {{ pointed ? `here it took ${pointed.toFixed(2)} s` : 'nothing was awaited here' }}
        </template>
        <template v-else-if="shown === 'waits'">the fuller, the longer it took; from {{ FULL_S }} s on full</template>
        <template v-else-if="film && film.reply.toned !== 'none'">toned {{ film.reply.toned }}</template>
      </p>
      <button
        type="button"
        class="plain-button"
        :aria-expanded="below === 'figures'"
        @click="below = below === 'figures' ? 'lens' : 'figures'"
      >
        {{ below === 'figures' ? 'Back to the readings' : 'Figures of this panel' }}
      </button>
      <button type="button" class="plain-button" :disabled="!film" @click="save">Save the frames</button>
    </div>
    <PanelForm
      v-if="below === 'figures' && device"
      v-model="figures"
      :device="device"
      @made="(id: string) => (deviceId = id)"
    />
    <dl v-else-if="film" class="small">
      <div v-for="r in rows" :key="r.key">
        <dt :title="r.help">{{ r.label }}</dt>
        <dd :data-reading="r.key" :class="{ bad: r.bad }">{{ r.said }}</dd>
      </div>
      <div v-if="ghosts" class="wide">
        <dt title="How far paper is off where this pen's ink was written and erased again and again without a blink">
          erased again and again
        </dt>
        <dd>{{ ghosts }}</dd>
      </div>
    </dl>
  </article>
</template>

<style scoped>
.card-in-time {
  display: grid;
  gap: 6px;
  align-content: start;
  min-width: 0;
}
.picture {
  width: 100%;
  height: auto;
  border: var(--line) solid var(--edge);
  touch-action: pan-y;
  cursor: crosshair;
}
.waits .picture,
.waits dl {
  opacity: 0.5;
}
.there {
  margin: 0;
  flex: 1 1 180px;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 20px;
}
dl {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 210px), 1fr));
  gap: 3px 24px;
  align-content: start;
  margin: 0;
  color: var(--ink);
}
dl div {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 12px;
}
dl .wide {
  grid-column: 1 / -1;
}
dd {
  text-align: right;
}
.wide dd {
  text-align: left;
}
dt {
  color: var(--graphite);
}
.bad {
  color: var(--attention);
}
</style>

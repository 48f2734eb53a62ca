<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { ElOption, ElSelect } from 'element-plus'
import { computed, ref } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import JobProgress from '@/components/JobProgress.vue'
import ReadingNote from '@/components/ReadingNote.vue'
import { roughly, say } from '@/lib/numbers'
import { useBringIn } from '@/composables/use-files'
import { useJob } from '@/composables/use-job'
import NumberField from '@/components/NumberField.vue'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'
import { useLag } from '@/stores/lag'

/** Filmed in slow motion: the simulated camera, or frames of your own, read as a task of the server. */
const emit = defineEmits<{ step: [] }>()
const desk = useDesk()
const draft = useDraft()
const lag = useLag()
const { job, busy, follow, cancel } = useJob('film', 'reading the film')
const fps = ref(240)
const scale = ref(0.1)
const seed = ref(1)
const wide = ref(512)
const found = computed(() => lag.reading)

async function run(start: () => Promise<Schemas['JobItem']>) {
  await desk.attempt(async () => {
    const asked = lag.about
    const started = start()
    lag.film = (await started).id
    const done = await follow(started)
    if (!done || asked !== lag.about) return
    const read = await take(api.GET('/api/lag/films/{job_id}', { params: { path: { job_id: done.id } } }))
    if (asked !== lag.about) return // it belongs to the pen and device that were filmed
    lag.reading = read
    const { delay_ms, ci95_ms, speed_mm_s } = read
    lag.filmed = { delay_ms, ci95_ms, speed_mm_s }
  })
}
const shoot = () =>
  run(() => {
    const body = { recipe: draft.recipe!, device_id: desk.device!.id, fps: fps.value, seed: seed.value++ }
    return take(api.POST('/api/lag/films/simulated', { body }))
  })
const bringIn = useBringIn('Film, zip of PNG frames', '.zip,application/zip', (file) =>
  run(() =>
    take(
      api.POST('/api/lag/films', {
        params: { query: { fps: fps.value, mm_per_px: scale.value } },
        body: '',
        bodySerializer: () => file,
        headers: { 'Content-Type': 'application/zip' },
      }),
    ),
  ),
)
</script>

<template>
  <ReadingNote
    title="Filmed"
    help="A slow-motion film of one straight stroke is read frame by frame: where the nib is, where the ink ends, and
      how long ago the nib was there. Zip the film's frames as PNG; give frames a second and the size of a pixel. What
      cannot be read so can be stepped through and marked by hand."
  >
    <template v-if="found">
      <p>
        <span class="number">{{ roughly(found.delay_ms) }}</span> ± {{ roughly(found.ci95_ms) }} ms, gap
        {{ say(found.gap_mm) }} mm
      </p>
      <p class="small">
        {{ found.frames_used }} frames at {{ say(found.speed_mm_s) }} mm/s<template v-if="found.truth_ms !== null"
          >; this film's truth is {{ roughly(found.truth_ms) }} ms</template
        >
      </p>
    </template>
    <p v-else-if="!busy">not filmed yet: “Film it” films this pen on this device with a simulated camera</p>
    <template #more>
      <JobProgress v-if="busy && job" :job="job" words="reading" @cancel="cancel" />
      <div v-if="found && lag.film" class="frame">
        <img
          :src="`/api/lag/films/${lag.film}/frames/${found.frame}`"
          alt="The last frame read, with nib and ink front marked"
          @error="desk.trouble = 'The picture of this frame did not come. Choose the film again.'"
          @load="(e) => (wide = (e.target as HTMLImageElement).naturalWidth)"
        />
        <i :style="{ left: `${(found.front_px / wide) * 100}%` }" class="small ink">ink</i
        ><i :style="{ left: `${(found.nib_px / wide) * 100}%` }" class="small">nib</i>
      </div>
      <div class="film" data-film>
        <ElSelect v-model="fps" aria-label="Frames a second"
          ><ElOption v-for="f in [120, 240, 480, 960]" :key="f" :value="f" :label="`${f} frames/s`"
        /></ElSelect>
        <DoWord :disabled="busy" :does="shoot">Film it</DoWord>
        <label class="small scale"
          >mm a pixel <NumberField v-model="scale" :min="0.005" :max="1" label="Millimetres a pixel"
        /></label>
        <button type="button" class="word-button" :disabled="busy" @click="bringIn">Your own</button>
      </div>
      <button v-if="lag.film && !busy" type="button" class="plain-button" @click="emit('step')">
        Step through it by hand
      </button>
    </template>
  </ReadingNote>
</template>

<style scoped>
.film {
  display: grid;
  grid-template-columns: minmax(124px, 1fr) auto;
  gap: 6px;
  margin-top: 6px;
  align-items: end;
}
.film .word-button {
  padding: 0 10px;
}
.scale {
  display: grid;
  gap: 2px;
}
.frame {
  position: relative;
  margin-top: 6px;
  padding-bottom: 20px;
}
.frame img {
  display: block;
  width: 100%;
  border: var(--line) solid var(--rule);
}
.frame i {
  position: absolute;
  bottom: 0;
  height: 40px;
  padding: 22px 0 0 3px;
  border-left: 2px solid var(--attention);
  line-height: 1;
}
.frame .ink {
  border-left: 0;
  border-right: 2px solid var(--attention);
  padding: 22px 3px 0 0;
  transform: translateX(-100%);
}
.plain-button {
  text-decoration: underline;
}
</style>

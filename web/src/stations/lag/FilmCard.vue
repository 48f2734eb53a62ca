<script setup lang="ts">
import { ElInputNumber, ElOption, ElSelect } from 'element-plus'
import { ref, shallowRef, useTemplateRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import ReadingNote from '@/components/ReadingNote.vue'
import { roughly, say } from '@/components/numbers'
import { useDesk } from '@/stores/desk'

/** Filmed in slow motion: the simulated camera, or frames of your own. */
const desk = useDesk()
const fps = ref(240)
const scale = ref(0.1)
const seed = ref(1)
const busy = ref(false)
const wide = ref(512)
const found = shallowRef<Schemas['FilmReading']>()
const chooser = useTemplateRef<HTMLInputElement>('chooser')
watch([() => desk.pen, () => desk.device], () => (found.value = undefined))

async function run(work: () => Promise<Schemas['FilmReading']>) {
  busy.value = true
  found.value = (await desk.attempt(work)) ?? found.value
  busy.value = false
}
const shoot = () => run(() => {
  const body = { recipe: desk.pen!.recipe, device_id: desk.device!.id, fps: fps.value, seed: seed.value++ }
  return take(api.POST('/api/lag/film', { body }))
})
const bringIn = () => {
  const file = chooser.value?.files?.[0]
  if (!file) return
  void run(() => take(fetch(`/api/lag/film-read?fps=${fps.value}&mm_per_px=${scale.value}`, { method: 'POST', headers: { 'Content-Type': 'application/zip' }, body: file })
    .then(async (response) => (response.ok ? { data: (await response.json()) as Schemas['FilmReading'], response } : { error: await response.json(), response }))))
  chooser.value!.value = ''
}
</script>

<template>
  <ReadingNote title="Filmed" help="A slow-motion film of one straight stroke is read frame by frame: where the nib is, where the ink ends, and how long ago the nib was there. Zip the film's frames as PNG; give frames a second and the size of a pixel.">
    <template v-if="found">
      <p><span class="number">{{ roughly(found.delay_ms) }}</span> ± {{ roughly(found.ci95_ms) }} ms, gap {{ say(found.gap_mm) }} mm</p>
      <p class="small">{{ found.frames_used }} frames at {{ say(found.speed_mm_s) }} mm/s<template v-if="found.truth_ms !== null">; this film's truth is {{ roughly(found.truth_ms) }} ms</template></p>
    </template>
    <p v-else>{{ busy ? 'Filming …' : 'not filmed yet' }}</p>
    <template #more>
      <div v-if="found" class="frame">
        <img :src="found.frame" alt="The last frame read, with nib and ink front marked" @load="(e) => (wide = (e.target as HTMLImageElement).naturalWidth)" />
        <i :style="{ left: `${(found.front_px / wide) * 100}%` }" class="small">ink</i><i :style="{ left: `${(found.nib_px / wide) * 100}%` }" class="small">nib</i>
      </div>
      <div class="film" data-film>
        <ElSelect v-model="fps" aria-label="Frames a second"><ElOption v-for="f in [120, 240, 480, 960]" :key="f" :value="f" :label="`${f} frames/s`" /></ElSelect>
        <button type="button" class="word-button" :disabled="busy" @click="shoot">Film it</button>
        <label class="small scale">mm a pixel <ElInputNumber v-model="scale" :min="0.005" :max="1" :step="0.005" :controls="false" aria-label="Millimetres a pixel" /></label>
        <button type="button" class="word-button" :disabled="busy" @click="chooser?.click()">Your own</button>
        <input ref="chooser" type="file" accept=".zip,application/zip" class="visually-hidden" tabindex="-1" aria-label="Film, zip of PNG frames" @change="bringIn">
      </div>
    </template>
  </ReadingNote>
</template>

<style scoped>
.film { display: grid; grid-template-columns: 1fr auto; gap: 6px; margin-top: 6px; align-items: end; }
.film .word-button { padding: 0 10px; }
.scale .el-input-number { width: 100%; }
.frame { position: relative; margin-top: 6px; padding-bottom: 20px; }
.frame img { display: block; width: 100%; border: var(--line) solid var(--rule); }
.frame i { position: absolute; bottom: 0; height: 40px; padding: 22px 0 0 3px; border-left: 2px solid var(--attention); line-height: 1; }
</style>

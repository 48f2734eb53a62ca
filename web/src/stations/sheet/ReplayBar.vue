<script setup lang="ts">
import { ElOption, ElSelect, ElSlider } from 'element-plus'
import { computed, ref } from 'vue'
import { api, take, takeFile, type Schemas } from '@/api/client'
import JobProgress from '@/components/JobProgress.vue'
import { giveFile } from '@/composables/use-files'
import { useJob } from '@/composables/use-job'
import { usePlay } from '@/composables/use-play'
import { useDesk } from '@/stores/desk'
import { useReplay, WAYS } from '@/stores/replay'

/** The page coming about again: play, scrub, how fast and in which way; and out as a film. */
const desk = useDesk()
const replay = useReplay()
const SPEEDS = [1, 2, 4, 8, 16, 32]
const FORMS = { webp: 'animated WebP', png: 'animated PNG', zip: 'frames, zip' } as const
const speed = ref(4)
const time = computed({ get: () => replay.at as number | null, set: (v) => (replay.at = v ?? 0) })
const { playing, play, goTo } = usePlay(
  time,
  computed(() => replay.lasts),
  computed(() => 1 / speed.value),
)
const { job, follow, cancel } = useJob('replay film', 'making the film')
const said = ref('')
const takeOut = (form: Schemas['FilmOut']['form']) =>
  desk.attempt(async () => {
    said.value = ''
    const path = { sheet_id: desk.sheet!.id }
    const body: Schemas['FilmOut'] = { form, by: replay.by, speed: speed.value, frames_hz: 12, width_px: 800 }
    const done = await follow(take(api.POST('/api/sheets/{sheet_id}/replay/film', { params: { path }, body })))
    if (!done) return
    const made = await take(api.GET('/api/exports/{job_id}', { params: { path: { job_id: done.id } } }))
    giveFile(await takeFile(`/api/exports/${done.id}/file`), made.name)
    said.value = `${made.name}: ${made.words}`
  })
</script>

<template>
  <div class="bar small" role="group" aria-label="Replay">
    <button type="button" class="word-button" @click="play">{{ playing ? 'Stop' : 'Play' }}</button>
    <ElSlider
      :model-value="replay.at"
      :min="0"
      :max="Math.max(replay.lasts, 1)"
      :step="1"
      :show-tooltip="false"
      aria-label="Moment of the replay"
      @input="(v) => goTo(v as number)"
    />
    <span class="now">{{ (replay.at / 1000).toFixed(1) }} of {{ (replay.lasts / 1000).toFixed(0) }} s</span>
    <ElSelect v-model="speed" aria-label="How fast" style="width: 84px">
      <ElOption v-for="k in SPEEDS" :key="k" :value="k" :label="`${k}×`" />
    </ElSelect>
    <ElSelect v-model="replay.by" aria-label="In which way" style="width: 160px">
      <ElOption v-for="(words, way) in WAYS" :key="way" :value="way" :label="words" />
    </ElSelect>
    <ElSelect :model-value="undefined" placeholder="take it out" aria-label="Take the replay out" @change="takeOut">
      <ElOption v-for="(words, form) in FORMS" :key="form" :value="form" :label="words" />
    </ElSelect>
    <button type="button" class="plain-button" @click="replay.close()">back to the page</button>
    <JobProgress v-if="job?.state === 'running'" class="wide" :job words="Drawing it" @cancel="cancel" />
    <p v-else-if="said" class="wide" role="status">{{ said }}</p>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 16px;
  align-items: center;
  padding: 6px 0;
}
.el-slider {
  flex: 1 1 160px;
  width: auto;
  margin: 0 10px;
}
.el-select {
  width: 132px;
}
.now {
  min-width: 84px;
  font-variant-numeric: tabular-nums;
}
.wide {
  flex: 1 0 100%;
}
</style>

<script setup lang="ts">
import { ElOption, ElSelect, ElSlider } from 'element-plus'
import { computed, ref } from 'vue'
import { usePlay } from '@/composables/use-play'

/** The one time of all panels: play, scrub, step, slow. doneMs: when something more is done, marked on it. */
const props = defineProps<{ lastsMs: number; doneMs: number | null; frameMs: number }>()
const tMs = defineModel<number>({ required: true })
const SLOWED = [1, 2, 4, 8, 16, 32]
const slowed = ref(1)
const time = computed({ get: () => tMs.value as number | null, set: (v) => (tMs.value = v ?? 0) })
const { playing, play, goTo } = usePlay(
  time,
  computed(() => props.lastsMs),
  slowed,
)
const step = (by: number) =>
  goTo(Math.min(Math.max((Math.round(tMs.value / props.frameMs) + by) * props.frameMs, 0), props.lastsMs))
const marks = computed(() => (props.doneMs === null ? {} : { [props.doneMs]: '' }))
</script>

<template>
  <div class="bar" data-film-bar>
    <button type="button" class="word-button" :disabled="!lastsMs" @click="play">
      {{ playing ? 'Stop' : 'Play' }}
    </button>
    <button type="button" class="plain-button" aria-label="One picture back" @click="step(-1)">back</button>
    <button type="button" class="plain-button" aria-label="One picture on" @click="step(1)">on</button>
    <ElSlider
      :model-value="tMs"
      :min="0"
      :max="Math.max(lastsMs, 1)"
      :step="1"
      :marks="marks"
      :show-tooltip="false"
      aria-label="Moment"
      @input="(v) => goTo(v as number)"
    />
    <span class="small now">{{ (tMs / 1000).toFixed(2) }} s</span>
    <label class="small"
      ><span>slowed</span
      ><ElSelect v-model="slowed" aria-label="Slowed"
        ><ElOption v-for="k in SLOWED" :key="k" :value="k" :label="`${k}×`" /></ElSelect
    ></label>
  </div>
</template>

<style scoped>
.bar {
  display: grid;
  grid-template-columns: auto auto auto minmax(60px, 1fr) auto auto;
  gap: 14px;
  align-items: center;
}
.word-button {
  min-width: 72px;
}
.now {
  min-width: 54px;
  text-align: right;
  font-variant-numeric: tabular-nums;
}
label {
  display: flex;
  align-items: center;
  gap: 8px;
}
.el-select {
  width: 76px;
}
@media (max-width: 600px) {
  .bar {
    grid-template-columns: auto auto auto 1fr auto;
    gap: 4px 12px;
  }
  .el-slider {
    grid-column: 1 / -1;
    grid-row: 2;
    width: auto;
    margin: 0 10px;
  }
  label span {
    display: none;
  }
}
</style>

<script setup lang="ts">
import { ElSlider } from 'element-plus'
import { computed, watch } from 'vue'
import type { Schemas } from '@/api/client'
import { usePlay } from '@/composables/use-play'
import { verdictOf, VERDICT_WORDS } from './decisions'

/**
 * When each contact was down and when it was decided, over the nib's own time; play and scrub. Steps once a second
 * where motion is unwanted.
 */
const props = defineProps<{ part: Schemas['JudgedDrill']; chosen?: number }>()
const emit = defineEmits<{ choose: [id: number] }>()
const tMs = defineModel<number | null>({ required: true })
const lasts = computed(() => Math.max(1, props.part.lasts_ms))
const share = (ms: number) => `${(100 * Math.min(ms, lasts.value)) / lasts.value}%`
const spans = computed(() => {
  const out: [number, number][] = []
  for (const [t, , , on] of props.part.nib) {
    const last = out.at(-1)
    if (on && last && t! - last[1] < 60) last[1] = t!
    else if (on) out.push([t!, t! + 4])
  }
  return out
})
const { playing, play, stop, goTo } = usePlay(tMs, lasts)
watch(
  () => props.part.drill,
  () => {
    stop()
    tMs.value = null
  },
)
</script>

<template>
  <div class="time">
    <div class="rows" :style="{ '--rows': part.contacts.length + 1 }">
      <div class="row nib">
        <i v-for="[a, b] in spans" :key="a" :style="{ left: share(a), width: `calc(${share(b)} - ${share(a)})` }" />
      </div>
      <button
        v-for="c in part.contacts"
        :key="c.id"
        type="button"
        class="row"
        :aria-label="`Contact ${c.id}, ${VERDICT_WORDS[verdictOf(c)]}${c.rule ? ` by ${c.rule}` : ''}`"
        @click="emit('choose', c.id)"
      >
        <span
          :class="['bar', verdictOf(c), { chosen: c.id === chosen }]"
          :style="{ left: share(c.born_ms), width: `max(6px, calc(${share(c.end_ms)} - ${share(c.born_ms)}))` }"
        />
        <i class="decided" :style="{ left: share(c.at_ms) }" />
      </button>
      <i v-if="tMs !== null" class="now" :style="{ left: share(tMs) }" />
    </div>
    <div class="scrub">
      <button type="button" class="word-button" @click="play">{{ playing ? 'Stop' : 'Play' }}</button>
      <ElSlider
        :model-value="tMs ?? lasts"
        :min="0"
        :max="lasts"
        :step="1"
        :show-tooltip="false"
        aria-label="Time"
        @input="(v) => goTo(v as number)"
      />
      <button type="button" class="plain-button" :disabled="tMs === null" @click="goTo(null)">all at once</button>
      <span class="small">{{ ((tMs ?? lasts) / 1000).toFixed(1) }} s</span>
    </div>
  </div>
</template>

<style scoped>
.rows {
  position: relative;
  display: grid;
  grid-template-rows: repeat(var(--rows), minmax(25px, 1fr));
  height: 116px;
  overflow: hidden auto;
  scrollbar-width: thin;
  border: var(--line) solid var(--rule);
  background: var(--card);
  padding: 2px 0;
}
.row {
  position: relative;
}
.row i,
.bar {
  position: absolute;
  top: 12%;
  bottom: 12%;
}
.nib i {
  background: var(--ink);
}
.bar {
  min-height: 0;
  border: var(--line) solid var(--graphite);
  cursor: pointer;
}
.palm-refused {
  background: repeating-linear-gradient(45deg, transparent 0 3px, var(--graphite) 3px 4px);
}
.palm-kept {
  background: var(--harm);
  border-color: var(--harm);
}
.finger-kept {
  background: var(--accent-soft);
  border-color: var(--accent);
}
.finger-refused {
  background: repeating-linear-gradient(90deg, transparent 0 3px, var(--attention) 3px 4px);
  border-color: var(--attention);
}
.chosen {
  outline: 2px solid var(--ink);
}
.row .decided {
  width: 2px;
  top: 0;
  bottom: 0;
  background: var(--ink);
  pointer-events: none;
}
.now {
  position: absolute;
  top: 0;
  bottom: 0;
  width: 2px;
  background: var(--accent);
  pointer-events: none;
}
.scrub {
  display: flex;
  flex-wrap: wrap;
  gap: 0 20px;
  align-items: center;
  margin-top: 4px;
}
.scrub .el-slider {
  flex: 1 1 140px;
  min-width: 0;
}
.scrub .small {
  width: 48px;
}
.word-button {
  min-width: 72px;
}
</style>

<script setup lang="ts">
import { ElOption, ElSelect } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useLineup, type Run } from '@/stores/lineup'

/** Two criteria against each other, the pens as their strokes: those that no other beats in both stand out. */
const props = defineProps<{ run: Run; id: string }>()
const lineup = useLineup()
const keys = computed(() => props.run.measured.criteria)
const across = ref('drag')
const up = ref('range')
const found = shallowRef<Schemas['FrontSpot'][]>([])
const front = useLatest(
  (asked: { id: string; across: string; up: string }) =>
    take(
      api.GET('/api/lineup/runs/{job_id}/front', {
        params: { path: { job_id: asked.id }, query: { across: asked.across, up: asked.up } },
      }),
    ),
  (answer) => (found.value = answer.spots),
)
watch([() => props.id, across, up], () => void front.want({ id: props.id, across: across.value, up: up.value }), {
  immediate: true,
})
/** Those that would lie on each other stand beneath each other. */
const spots = computed(() => {
  const placed: (Schemas['FrontSpot'] & { who: Schemas['LinedUp']; up: number })[] = []
  for (const s of [...found.value].sort((a, b) => b.up - a.up)) {
    const who = props.run.candidates.find((c) => c.key === s.candidate)
    const near = placed.filter((o) => Math.abs(o.across - s.across) < 22 && o.up - s.up < 16)
    if (who) placed.push({ ...s, who, up: Math.min(s.up, ...near.map((o) => o.up - 16)) })
  }
  return placed
})
</script>

<template>
  <div class="front">
    <div class="small row">
      <ElSelect v-model="up" aria-label="Upward" style="width: 190px"
        ><ElOption v-for="k in keys" :key="k" :value="k" :label="lineup.labelOf(k)"
      /></ElSelect>
      against
      <ElSelect v-model="across" aria-label="To the right" style="width: 190px"
        ><ElOption v-for="k in keys" :key="k" :value="k" :label="lineup.labelOf(k)"
      /></ElSelect>
    </div>
    <div
      class="plot"
      :class="{ stale: front.busy.value }"
      role="img"
      :aria-label="`${lineup.labelOf(up)} against ${lineup.labelOf(across)}`"
    >
      <span
        v-for="s in spots"
        :key="s.who.key"
        class="spot"
        :class="{ beaten: !s.front }"
        :style="{ left: `${2 + 0.8 * s.across}%`, bottom: `${6 + 0.78 * s.up}%` }"
        :title="s.who.name"
        ><img
          :src="`/api/pens/${s.who.pen_id}/revisions/${s.who.revision}/swatch.png`"
          alt=""
          width="56"
          height="21"
        /><span class="small">{{ s.who.name }}</span></span
      >
    </div>
    <p class="small">In bold: who is beaten by no other in both.</p>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: center;
  min-height: var(--target);
}
.plot {
  position: relative;
  max-width: 640px;
  height: 320px;
  border: solid var(--rule);
  border-width: 0 0 var(--line) var(--line);
}
.spot {
  position: absolute;
  display: grid;
  justify-items: start;
  line-height: 1.1;
}
.spot img {
  background: var(--swatch-ground);
  object-fit: contain;
}
.spot:not(.beaten) .small {
  font-weight: 700;
}
.beaten {
  opacity: 0.6;
}
:root[data-surface='e-ink'] .beaten {
  opacity: 1;
}
</style>

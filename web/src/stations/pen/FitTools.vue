<script setup lang="ts">
import { ElSlider } from 'element-plus'
import { ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { percent, say } from '@/lib/numbers'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'

/** Fit floor, ceiling and curve to the force of this writing; the draft is the preview, undo takes it back. */
const props = defineProps<{ source: Schemas['Source'] }>()
const desk = useDesk()
const draft = useDraft()
const blend = ref(0.6)
const fit = shallowRef<Schemas['FitReply']>()
const remembered = shallowRef<Schemas['KeptFit']['press']>(null)

const recalls = useLatest(
  (pair: { hand_id: string; device_id: string }) =>
    take(api.GET('/api/pen/fits/{hand_id}/{device_id}', { params: { path: pair } })),
  (answer) => (remembered.value = answer.press),
  () => (remembered.value = null),
)
watch(
  () => [desk.sheet?.hand_id, desk.sheet?.device_id],
  ([hand_id, device_id]) => hand_id && device_id && void recalls.want({ hand_id, device_id }),
  { immediate: true },
)

const fits = useLatest(
  (b: number) =>
    take(api.POST('/api/pen/fit', { body: { press: draft.recipe!.press!, source: props.source, blend: b } })),
  (answer) => {
    fit.value = answer
    draft.set('press', {
      ...answer.press,
      range: draft.recipe!.press!.range,
      opacity_range: draft.recipe!.press!.opacity_range,
    })
  },
  undefined,
  { follow: true },
)

async function start() {
  await fits.want(blend.value)
  draft.done()
}

async function remember() {
  const sheet = desk.sheet
  if (!sheet) return
  await desk.attempt(async () => {
    await take(
      api.PUT('/api/pen/fits', {
        body: {
          hand_id: sheet.hand_id,
          device_id: sheet.device_id,
          press: draft.recipe!.press!,
          saw: remembered.value,
        },
      }),
    )
    remembered.value = draft.recipe!.press!
  })
}

function recall() {
  const now = draft.recipe!.press!
  draft.set('press', { ...remembered.value, range: now.range, opacity_range: now.opacity_range })
  draft.done()
}
</script>

<template>
  <div class="fit">
    <button type="button" class="word-button strong" @click="start">Fit to my hand</button>
    <label v-if="fit" class="blend small"
      ><span>straight</span>
      <ElSlider
        v-model="blend"
        :min="0"
        :max="1"
        :step="0.05"
        :show-tooltip="false"
        aria-label="Blend from straight to even"
        @input="(b) => fits.want(b as number)"
        @change="draft.done"
      /><span>even</span></label
    >
    <button v-else-if="remembered" type="button" class="word-button" @click="recall">Take the fit remembered</button>
    <button v-if="fit" type="button" class="word-button" @click="remember">Remember</button>
  </div>
  <p v-if="fit" class="small report">
    Your force uses {{ percent(fit.before.range_used) }} → <b>{{ percent(fit.after.range_used) }}</b> of the range, ×{{
      say(fit.before.width_ratio)
    }}
    → <b>×{{ say(fit.after.width_ratio) }}</b
    >; stuck {{ percent(fit.before.floor_share + fit.before.ceiling_share) }} →
    {{ percent(fit.after.floor_share + fit.after.ceiling_share) }}. As a two-point curve:
    {{ [fit.cubic.x1, fit.cubic.y1, fit.cubic.x2, fit.cubic.y2].map((v) => v!.toFixed(2)).join(', ') }}, off by
    {{ percent(fit.cubic.largest_error) }}.
  </p>
</template>

<style scoped>
.fit {
  display: flex;
  gap: 8px;
  align-items: center;
}
.fit .word-button {
  padding: 0 12px;
}
.blend {
  display: grid;
  grid-template-columns: auto minmax(60px, 1fr) auto;
  gap: 14px;
  align-items: center;
  flex: 1;
}
.report {
  margin-top: 4px;
  color: var(--ink);
}
</style>

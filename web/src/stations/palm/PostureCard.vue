<script setup lang="ts">
import { ElRadioButton, ElRadioGroup } from 'element-plus'
import { api, take, type Schemas } from '@/api/client'
import ReadingNote from '@/components/ReadingNote.vue'
import { useDesk } from '@/stores/desk'
import { usePalm } from '@/stores/palm'
import { usePalmTrial } from '@/stores/palm-trial'

/**
 * The hand's posture, measured off a line written with the hand down, and corrected in words. The resting zone and the
 * frame's side follow it.
 */
const trial = usePalmTrial()
const palm = usePalm()
const desk = useDesk()
const REST: Record<string, string> = { below: 'below', side: 'side', above: 'hooked above' }

const measure = (correct: { side?: 'left' | 'right'; rest?: 'below' | 'side' | 'above' } = {}) =>
  desk.attempt(async () => {
    const line = trial.own.find((p) => p.drill === 'palm slides') ?? trial.own[0]
    const found = await take(
      api.POST('/api/palm/posture', {
        body: {
          stream: line?.stream ?? null,
          azimuths_deg: line ? trial.azimuthsDeg : [],
          hand_id: palm.pair!.hand_id,
          device_id: palm.pair!.device_id,
          seed: trial.seed,
          side: correct.side ?? null,
          rest: correct.rest ?? null,
        },
      }),
    )
    trial.posture = found
    trial.zone = found.zone
    await desk.setSide(found.side === desk.hand?.hand.side ? 'hand' : found.side === 'left' ? 'right' : 'left')
  })
const correct = (change: Partial<Pick<Schemas['Posture'], 'side' | 'rest'>>) =>
  measure({ side: change.side ?? trial.posture?.side, rest: change.rest ?? trial.posture?.rest })
</script>

<template>
  <ReadingNote
    title="Your hand"
    help="Read off where your palm lies while the nib writes, and off the pen's tilt. The resting zone on the map and
      the side of the frame follow it."
  >
    <p v-if="trial.posture" data-posture>{{ trial.posture.words }}</p>
    <p v-else class="small">as its record says; not measured yet</p>
    <template #more>
      <button type="button" class="word-button" @click="measure()">
        {{ trial.own.length ? 'Measure it off what I did' : 'Let it write a line' }}
      </button>
      <div v-if="trial.posture" class="words small">
        <ElRadioGroup
          :model-value="trial.posture.side"
          aria-label="Which hand"
          @update:model-value="(v) => correct({ side: v as 'left' | 'right' })"
          ><ElRadioButton value="left">left</ElRadioButton
          ><ElRadioButton value="right">right</ElRadioButton></ElRadioGroup
        >
        <ElRadioGroup
          :model-value="trial.posture.rest"
          aria-label="Where it comes from"
          @update:model-value="(v) => correct({ rest: v as 'below' | 'side' | 'above' })"
          ><ElRadioButton v-for="(w, r) in REST" :key="r" :value="r">{{ w }}</ElRadioButton></ElRadioGroup
        >
      </div>
    </template>
  </ReadingNote>
</template>

<style scoped>
.words {
  display: grid;
  gap: 6px;
  margin-top: 6px;
}
.words :deep(.el-radio-button__inner) {
  padding: 8px 9px;
  font-size: 13px;
}
</style>

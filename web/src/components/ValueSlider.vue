<script setup lang="ts">
import { ElSlider } from 'element-plus'
import { computed, ref } from 'vue'
import type { Schemas } from '@/api/client'
import { trimmed } from '@/lib/numbers'
import { noticed, onStep, placeOf, TRACK, valueAtPlace } from '@/lib/scale'
import NumberField from './NumberField.vue'

/**
 * A declared number on one line: name, slider, typed value with its unit, and a way back to what is kept. On the track:
 * the kept value as a mark, and as a band where in its range the number matters. Beneath: how much it can change.
 */
const props = defineProps<{
  field: Schemas['Control']
  value: number
  kept?: number
  /** Share of the ink this control can change, 0..1. */
  effect?: number
  /** Below and above these values nothing changes any more. */
  matters?: readonly number[]
}>()
const emit = defineEmits<{ change: [value: number]; done: [] }>()
/** What the name means is told on its own line. */
const told = ref(false)
const decimals = computed(() => Math.max(0, -Math.floor(Math.log10(props.field.step ?? 1) + 1e-9)))
const differs = computed(() => props.kept !== undefined && Math.abs(props.kept - props.value) > 1e-9)
/** Where a value lies on the track, inside its two half knobs. */
const at = (value: number) => `calc(11px + (100% - 22px) * ${(placeOf(props.field, value) / TRACK).toFixed(4)})`
const said = (value: number) => `${trimmed(value, decimals.value)} ${props.field.unit}`.trim()
const band = computed(() => {
  const [low, high] = props.matters ?? []
  if (low === undefined || high === undefined || (low <= props.field.low! && high >= props.field.high!))
    return undefined
  return { left: at(low), right: `calc(100% - (${at(high).slice(5, -1)}))` }
})

function giveOnce(value: number) {
  emit('change', value)
  emit('done')
}

/** Arrow keys step by what can be told apart, Home and End go to the limits. */
function step(event: KeyboardEvent) {
  const { low, high } = props.field
  const to = {
    ArrowRight: noticed(props.field, props.value, true),
    ArrowUp: noticed(props.field, props.value, true),
    ArrowLeft: noticed(props.field, props.value, false),
    ArrowDown: noticed(props.field, props.value, false),
    Home: low ?? 0,
    End: high ?? 1,
  }[event.key]
  if (to === undefined) return
  event.preventDefault()
  event.stopPropagation()
  giveOnce(to)
}
</script>

<template>
  <div class="holder">
    <div class="value">
      <button type="button" class="name" :aria-expanded="told" @click="told = !told">{{ field.label }}</button>
      <div class="track" @keydown.capture="step">
        <i v-if="band" class="band" :style="band" aria-hidden="true" />
        <ElSlider
          :model-value="placeOf(field, value)"
          :min="0"
          :max="TRACK"
          :show-tooltip="false"
          :aria-label="field.label"
          :format-value-text="() => said(value)"
          @input="(place) => typeof place === 'number' && emit('change', valueAtPlace(field, place))"
          @change="emit('done')"
        />
        <i v-if="differs" class="kept" :style="{ left: at(kept!) }" :title="`kept ${said(kept!)}`" aria-hidden="true" />
        <span class="limits small" aria-hidden="true"
          ><span>{{ trimmed(field.low ?? 0) }}</span
          ><span>{{ trimmed(field.high ?? 1) }}</span></span
        >
        <span v-if="effect !== undefined" class="effect" aria-hidden="true"
          ><i :style="{ width: `${Math.round(effect * 100)}%` }"
        /></span>
      </div>
      <NumberField
        :model-value="value"
        :label="field.label"
        :unit="field.unit"
        :min="field.low ?? undefined"
        :max="field.high ?? undefined"
        :decimals="decimals"
        @update:model-value="(v) => giveOnce(onStep(field, v))"
      />
      <button
        v-if="kept !== undefined"
        type="button"
        class="back small"
        :disabled="!differs"
        :aria-label="`${field.label}: back to ${said(kept)}`"
        @click="giveOnce(kept)"
      >
        {{ differs ? 'back' : '' }}
      </button>
    </div>
    <p v-if="told" class="small help">
      {{ field.help }}. From {{ said(field.low ?? 0) }} to {{ said(field.high ?? 1) }}.
    </p>
  </div>
</template>

<style scoped>
.holder {
  max-width: 560px;
  container-type: inline-size;
}
.value {
  display: grid;
  grid-template-columns: 104px minmax(72px, 1fr) 84px 34px;
  align-items: center;
  column-gap: 10px;
  min-height: var(--target);
  margin-bottom: 6px;
}
.name {
  font-size: var(--small);
  line-height: 1.2;
  min-height: 36px;
  text-align: left;
}
.name:hover,
.name[aria-expanded='true'] {
  text-decoration: underline dotted;
}
.help {
  line-height: 1.35;
  padding-bottom: 4px;
}
.track {
  position: relative;
  height: var(--target);
  padding: 0 11px;
}
.limits {
  position: absolute;
  inset: auto 0 -1px;
  display: flex;
  justify-content: space-between;
  line-height: 1;
  pointer-events: none;
}
.kept,
.band,
.effect {
  position: absolute;
  pointer-events: none;
}
.kept {
  top: 10px;
  height: 24px;
  width: 0;
  border-left: 2px dashed var(--graphite);
}
.band {
  top: 16px;
  height: 12px;
  background: var(--accent-soft);
  border-inline: 1px solid var(--accent);
}
.effect {
  left: 36px;
  right: 36px;
  bottom: 2px;
}
.effect i {
  display: block;
  height: 3px;
  background: var(--accent);
}
.value :deep(.field) {
  width: 84px;
}
.back {
  width: 34px;
  min-height: var(--target);
  color: var(--accent);
  text-decoration: underline;
}

/* in a narrow margin the name stands above */
@container (max-width: 340px) {
  .value {
    grid-template-columns: minmax(56px, 1fr) 84px 34px;
  }
  .name {
    grid-column: 1 / -1;
    padding-top: 4px;
  }
}
</style>

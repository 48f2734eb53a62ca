<script setup lang="ts">
import { ElColorPicker, ElOption, ElRadioButton, ElRadioGroup, ElSelect, ElSwitch } from 'element-plus'
import { useDebounceFn } from '@vueuse/core'
import { computed, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { percent } from '@/lib/numbers'
import { useLatest } from '@/composables/use-latest'
import GrainPicture from './GrainPicture.vue'
import ValueSlider from '@/components/ValueSlider.vue'
import { useDesk } from '@/stores/desk'
import { useDraft, valueAt } from '@/stores/draft'

/** One control for every declared field of a pen group, and how much it can change this ink. */
const props = defineProps<{ group: string; source: Schemas['Source'] }>()
const desk = useDesk()
const draft = useDraft()
const fields = computed(() => (desk.desk?.recipe_fields[props.group] ?? []).filter((f) => f.kind !== 'points'))
const value = (f: Schemas['Control']) => valueAt(draft.recipe, `${props.group}.${f.name}`)
const kept = (f: Schemas['Control']) => valueAt(draft.kept, `${props.group}.${f.name}`)

const effects = shallowRef<Record<string, Schemas['Effect']>>({})
const asked = useLatest(
  (body: Schemas['EffectsBody']) => take(api.POST('/api/pen/effects', { body })),
  (answer) => (effects.value = Object.fromEntries(answer.effects.map((e) => [e.field, e]))),
  () => (effects.value = {}),
)
const askSoon = useDebounceFn(
  () => draft.recipe && void asked.want({ recipe: draft.recipe, source: props.source, group: props.group }),
  700,
)
watch([() => props.group, () => props.source, () => draft.recipe], () => void askSoon(), { immediate: true })
const effect = (f: Schemas['Control']) => {
  const e = effects.value[`${props.group}.${f.name}`]
  return e && (e.share ? `changes up to ${percent(e.share)} of this ink` : e.reason)
}

/** An own grain can be chosen once there is one. */
const usable = (f: Schemas['Control']) => f.options.filter((o) => o !== 'own' || valueAt(draft.recipe, 'tooth.own'))

function change(f: Schemas['Control'], v: unknown) {
  draft.set(`${props.group}.${f.name}`, v)
}
function changeOnce(f: Schemas['Control'], v: unknown) {
  change(f, v)
  draft.done()
}
</script>

<template>
  <div class="controls">
    <slot />
    <template v-for="f in fields" :key="f.name">
      <div class="one">
        <ValueSlider
          v-if="f.kind === 'number' || f.kind === 'integer'"
          :field="f"
          :value="value(f) as number"
          :kept="kept(f) as number"
          @change="(v) => change(f, v)"
          @done="draft.done"
        />
        <GrainPicture v-else-if="f.kind === 'heights'" :field="f" />
        <label v-else class="row"
          ><span :title="f.help">{{ f.label }}</span>
          <ElRadioGroup
            v-if="f.kind === 'choice' && f.options.length <= 3"
            :model-value="value(f) as string"
            :aria-label="f.label"
            @change="(v) => changeOnce(f, v)"
          >
            <ElRadioButton v-for="o in f.options" :key="o" :value="o">{{ o }}</ElRadioButton>
          </ElRadioGroup>
          <ElSelect
            v-else-if="f.kind === 'choice'"
            :model-value="value(f) as string"
            :aria-label="f.label"
            @change="(v: string) => changeOnce(f, v)"
          >
            <ElOption v-for="o in usable(f)" :key="o" :value="o" />
          </ElSelect>
          <ElSwitch
            v-else-if="f.kind === 'flag'"
            :model-value="value(f) as boolean"
            :aria-label="f.label"
            @change="(v) => changeOnce(f, v)"
          />
          <ElColorPicker
            v-else
            :model-value="value(f) as string"
            :aria-label="f.label"
            @change="(v) => v && changeOnce(f, v.toLowerCase())"
          />
        </label>
        <p class="small effect">{{ effect(f) }}</p>
      </div>
    </template>
  </div>
</template>

<style scoped>
.controls {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(190px, 1fr));
  gap: 4px 24px;
  align-items: start;
}
.effect {
  max-width: calc(100% - 84px);
  min-height: 19px;
  font-style: italic;
  margin-top: -4px;
}
.row + .effect {
  margin-top: 2px;
}
.row {
  display: grid;
  gap: 2px;
  font-size: var(--small);
  min-height: 64px;
  align-content: end;
}
</style>

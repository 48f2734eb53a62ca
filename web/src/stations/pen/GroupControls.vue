<script setup lang="ts">
import { ElColorPicker, ElOption, ElRadioButton, ElRadioGroup, ElSelect, ElSwitch } from 'element-plus'
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { waitsForAnother } from '@/lib/needs'
import { percent } from '@/lib/numbers'
import { useLatest } from '@/composables/use-latest'
import GrainPicture from './GrainPicture.vue'
import ValueSlider from '@/components/ValueSlider.vue'
import { useDesk } from '@/stores/desk'
import { useDraft, valueAt } from '@/stores/draft'

/** One control for every declared field of a pen group, and how much it can change this ink. */
const props = defineProps<{ group: string; source: Schemas['Source']; inked: boolean }>()
const desk = useDesk()
const draft = useDraft()
const fields = computed(() => (desk.desk?.recipe_fields[props.group] ?? []).filter((f) => f.kind !== 'points'))
const value = (f: Schemas['Control']) => valueAt(draft.recipe, `${props.group}.${f.name}`)
const kept = (f: Schemas['Control']) => valueAt(draft.kept, `${props.group}.${f.name}`)

const effects = shallowRef<Record<string, Schemas['Effect']>>({})
const { want } = useLatest(
  (body: Schemas['EffectsBody']) => take(api.POST('/api/pen/effects', { body })),
  (answer) => (effects.value = Object.fromEntries(answer.effects.map((e) => [e.field, e]))),
  () => (effects.value = {}),
)
const askSoon = useDebounceFn(
  () => draft.recipe && props.inked && void want({ recipe: draft.recipe, source: props.source, group: props.group }),
  700,
)
watch([() => props.group, () => props.source, () => props.inked, () => draft.recipe], () => void askSoon(), {
  immediate: true,
})
watch([() => props.source.sheet_id, () => props.inked], () => (effects.value = {}))
const effect = (f: Schemas['Control']) => effects.value[`${props.group}.${f.name}`]
const said = (e: Schemas['Effect']) => (e.share ? `changes up to ${percent(e.share)} of this ink` : e.reason)

/** Controls that wait for another one: the hollow's wall while the stroke is whole. */
const waits = (f: Schemas['Control']) =>
  waitsForAnother(f, fields.value, (name) => valueAt(draft.recipe, `${props.group}.${name}`))
const idle = computed(() => fields.value.filter(waits))
const told = ref('')
const showIdle = ref(false)
const long = (f: Schemas['Control']) => ['number', 'integer', 'heights'].includes(f.kind)
/** What is picked stands first, two on a line; numbers take a line each; a picture of one's own comes last. */
const shown = computed(() => {
  const some = fields.value.filter((f) => showIdle.value || !waits(f))
  const rank = (f: Schemas['Control']) => (f.kind === 'heights' ? 2 : long(f) ? 1 : 0)
  return [...some].sort((one, other) => rank(one) - rank(other))
})

const without = computed(() => fields.value.filter((f) => effect(f) && !effect(f)!.share && !waits(f)))
const showReasons = ref(false)

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
  <div class="holder">
    <div class="controls">
      <slot />
      <template v-for="f in shown" :key="f.name">
        <div :class="{ wide: long(f) }">
          <ValueSlider
            v-if="f.kind === 'number' || f.kind === 'integer'"
            :field="f"
            :value="value(f) as number"
            :kept="kept(f) as number"
            :effect="effect(f)?.share"
            :matters="effect(f)?.matters ?? undefined"
            :title="effect(f) ? said(effect(f)!) : ''"
            @change="(v) => change(f, v)"
            @done="draft.done"
          />
          <GrainPicture v-else-if="f.kind === 'heights'" :field="f" />
          <label v-else class="row"
            ><button
              type="button"
              class="name"
              :aria-expanded="told === f.name"
              @click.prevent="told = told === f.name ? '' : f.name"
            >
              {{ f.label }}
            </button>
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
            <span class="share" :title="effect(f) ? said(effect(f)!) : ''" aria-hidden="true"
              ><i :style="{ width: `${Math.round((effect(f)?.share ?? 0) * 100)}%` }"
            /></span>
          </label>
          <p v-if="told === f.name" class="small none">{{ f.help }}.</p>
        </div>
      </template>
      <button
        v-if="without.length"
        type="button"
        class="plain-button small wide"
        :aria-expanded="showReasons"
        @click="showReasons = !showReasons"
      >
        no effect on this ink: {{ without.map((f) => f.label.toLowerCase()).join(', ') }}
      </button>
      <ul v-if="without.length && showReasons" class="small wide none">
        <li v-for="f in without" :key="f.name">{{ f.label }}: {{ effect(f)!.reason }}</li>
      </ul>
      <button v-if="idle.length" type="button" class="plain-button small wide" @click="showIdle = !showIdle">
        {{
          showIdle
            ? 'Hide what waits'
            : `${idle.length} more wait: ${idle.map((f) => f.label.toLowerCase()).join(', ')}`
        }}
      </button>
    </div>
  </div>
</template>

<style scoped>
.holder {
  container-type: inline-size;
}
@container (max-width: 380px) {
  .controls.controls {
    grid-template-columns: minmax(0, 1fr);
  }
}
.controls {
  display: grid;
  grid-template-columns: 1fr 1fr;
  column-gap: 20px;
}
.wide {
  grid-column: 1 / -1;
}
.row {
  position: relative;
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  align-items: center;
  column-gap: 12px;
  font-size: var(--small);
  line-height: 1.2;
  min-height: var(--target);
}
.name {
  min-height: var(--target);
  text-align: left;
}
.name:hover,
.name[aria-expanded='true'] {
  text-decoration: underline dotted;
}
.share {
  position: absolute;
  inset: auto 0 0;
}
.share i {
  display: block;
  height: 3px;
  background: var(--accent);
}
.none {
  list-style: none;
  line-height: 1.3;
}
</style>

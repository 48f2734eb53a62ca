<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { computed, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import InkAgain from '@/components/InkAgain.vue'
import { percent } from '@/lib/numbers'
import { useKeeping } from '@/composables/use-keeping'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'

/** The smallest change of this pen's width and tone with which none of its ink vanishes on the panels shown. */
const props = defineProps<{ deviceIds: string[]; light: string; tonings: Schemas['Toning'][] }>()
const desk = useDesk()
const draft = useDraft()
const found = shallowRef<{ fitted: Schemas['Fitted']; ids: string[] }>()
const asked = useLatest(
  (body: Schemas['PanelFitBody']) => take(api.POST('/api/panels/fit', { body })),
  (fitted, body) => (found.value = { fitted, ids: body.device_ids }),
)
watch(
  [
    () => draft.recipe,
    () => props.deviceIds.join(),
    () => props.light,
    () => JSON.stringify(props.tonings),
    () => desk.sheet?.id,
  ],
  () => {
    asked.forget()
    found.value = undefined
  },
)
const fit = () =>
  void asked.want({
    recipe: draft.recipe!,
    source: { sheet_id: desk.sheet!.id, part: 'line', stroke_ids: null },
    device_ids: props.deviceIds,
    tonings: props.tonings,
    light: props.light,
  })
const { keep, justKept } = useKeeping()
const nameOf = (id: string) => desk.desk!.devices.find((d) => d.id === id)?.device.name ?? id
const needed = computed(() => !!found.value && found.value.fitted.cost > 0)
const change = computed(() => {
  const [fitted, body] = [found.value?.fitted, draft.recipe?.body]
  if (!fitted || !body || fitted.width_mm === null) return ''
  const words = []
  if (fitted.width_mm !== body.width_mm) words.push(`${body.width_mm} → ${fitted.width_mm} mm`)
  if (fitted.colour !== body.colour) words.push(`${body.colour} → ${fitted.colour}`)
  return words.join(', ')
})
const shares = computed(
  () =>
    found.value?.ids
      .map(
        (id, k) =>
          `${nameOf(id)} ${percent(found.value!.fitted.before[k]!)} → ${percent(found.value!.fitted.after[k]!)}`,
      )
      .join('; ') ?? '',
)
/** One step of undo, as any other change of the pen. */
function tryIt() {
  const fitted = found.value!.fitted
  const copy = JSON.parse(JSON.stringify(draft.recipe)) as Schemas['Recipe']
  Object.assign(copy.body!, { width_mm: fitted.width_mm, colour: fitted.colour })
  draft.replace(copy)
  draft.done()
}
</script>

<template>
  <div class="fit" :class="{ waits: asked.busy.value }" data-fit>
    <DoWord :disabled="asked.busy.value" :does="fit">
      {{ deviceIds.length > 1 ? 'One pen for all of these' : 'Fit this pen to this panel' }}
    </DoWord>
    <p v-if="found" class="small">
      <template v-if="found.fitted.width_mm === null">
        No width up to four times this one, and no tone, keeps every line at 3:1 here ({{ shares }}).
      </template>
      <template v-else-if="!needed">Nothing of this pen's line vanishes on them ({{ shares }}).</template>
      <template v-else>
        <b>{{ change }}</b> keeps it; what vanishes: {{ shares }}
      </template>
    </p>
    <button v-if="needed" type="button" class="word-button" @click="tryIt">Try it</button>
    <template v-else-if="draft.changed">
      <DoWord class="strong" :does="keep">Keep as revision {{ draft.next }}</DoWord>
      <button v-if="draft.undoable" type="button" class="plain-button" @click="draft.undo">Undo</button>
    </template>
    <InkAgain v-else-if="justKept && desk.sheet?.strokes" />
  </div>
</template>

<style scoped>
.fit {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 14px;
  flex: 1 1 180px;
  min-width: 0;
}
.fit p {
  margin: 0;
  flex: 0 1 auto;
  max-width: 72ch;
}
.waits p {
  opacity: 0.5;
}
b {
  font-weight: 650;
  color: var(--ink);
}
</style>

<script setup lang="ts">
import { ElSlider } from 'element-plus'
import { shallowRef, watch } from 'vue'
import { api, take, type Recipe, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useDraft } from '@/stores/draft'

/** A few dials in plain words. A drag moves the pen from where it was when the dial was taken. */
const draft = useDraft()
const dials = shallowRef<Schemas['DialAt'][]>([])
const STEPS = 100
let taken: Recipe | undefined
let ended = false

const turns = useLatest(
  (body: Schemas['DialBody']) => take(api.POST('/api/pen/dials', { body })),
  (answer, asked) => {
    dials.value = answer.dials
    if (asked.dial) draft.replace(answer.recipe as Recipe, `dial.${asked.dial}`)
  },
  undefined,
  { follow: true },
)
// other controls, undo and other pens move dials too
watch(
  () => draft.recipe,
  (recipe) => {
    if (recipe && !taken) void turns.want({ recipe, dial: null, to: 0 })
  },
  { immediate: true },
)

function turn(name: string, to: number) {
  taken ??= draft.recipe
  if (taken) void turns.want({ recipe: taken, dial: name, to: to / STEPS })
}
/** The drag is one step of undo, its last answer included. */
function end() {
  ended = true
  if (!turns.busy.value) finish()
}
function finish() {
  ended = false
  taken = undefined
  draft.done()
}
watch(turns.busy, (busy) => !busy && ended && finish())
</script>

<template>
  <div class="dials">
    <div v-for="d in dials" :key="d.name" class="dial">
      <span :id="`dial-${d.name}`" class="visually-hidden">{{ d.low }} to {{ d.high }}</span>
      <span class="end" aria-hidden="true">{{ d.low }}</span>
      <ElSlider
        :model-value="Math.round(d.at * STEPS)"
        :min="0"
        :max="STEPS"
        :show-tooltip="false"
        :aria-label="`${d.low} to ${d.high}`"
        @input="(v) => typeof v === 'number' && v !== Math.round(d.at * STEPS) && turn(d.name, v)"
        @change="end"
      />
      <span class="end high" aria-hidden="true">{{ d.high }}</span>
    </div>
  </div>
</template>

<style scoped>
.dials {
  display: grid;
  gap: 10px;
  padding-top: 10px;
}
.dial {
  display: grid;
  grid-template-columns: 68px minmax(0, 1fr) 68px;
  gap: 22px;
  align-items: center;
}
.end {
  font: italic 16px var(--book);
}
.end:not(.high) {
  text-align: right;
}
</style>

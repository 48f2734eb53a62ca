<script setup lang="ts">
import { ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { useSurface } from '@/composables/use-surface'
import { inWords } from '@/lib/readings'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'

/** What helps on this panel, each change measured on this sheet. A pen's is one step of undo; toning is the panel's. */
const props = defineProps<{ body: Schemas['ProofBody'] }>()
const emit = defineEmits<{ tone: [toning: Schemas['Toning']] }>()
const desk = useDesk()
const draft = useDraft()
const advice = shallowRef<Schemas['PanelAdvice'][]>()
const asked = useLatest(
  (body: Schemas['PanelAdviceBody']) => take(api.POST('/api/panels/advice', { body })),
  (answer) => (advice.value = answer.advice),
)
const surface = useSurface()
/** The surface there was before another one was tried. */
const before = ref<'auto' | 'paper' | 'night' | 'e-ink'>()
/** The frame as it is on the screen now; its e-ink surface needs no change. */
function frame() {
  if (surface.value === 'e-ink') return null
  const style = getComputedStyle(document.documentElement)
  const colour = (name: string) => style.getPropertyValue(name).trim()
  return { words: colour('--graphite'), ground: colour('--paper') }
}
watch([() => props.body, surface], ([body]) => void asked.want({ ...body, frame: frame() }), {
  immediate: true,
  flush: 'post',
})
function back() {
  void desk.setSurface(before.value!)
  before.value = undefined
}
type Told = Schemas['PanelAdvice']
const words = (a: Told, value: number) => inWords(desk.reading(a.reading[0]!, a.reading[1]!)!, value)
const label = (a: Told) => desk.reading(a.reading[0]!, a.reading[1]!)!.label
function tryIt(a: Told) {
  if (a.toning) emit('tone', a.toning)
  if (a.surface) {
    before.value = (desk.desk?.surface ?? 'auto') as typeof before.value
    void desk.setSurface('e-ink')
  }
  if (!a.recipe) return
  draft.done()
  draft.replace(a.recipe)
  draft.done()
}
/** Changes for one reason stand together. */
const first = (k: number) => k === 0 || advice.value![k]!.title !== advice.value![k - 1]!.title
</script>

<template>
  <div class="advice" :class="{ waits: asked.busy.value }" data-panel-advice>
    <p v-if="!advice" class="small">tried on this sheet …</p>
    <p v-else-if="!advice.length" class="small">Nothing here needs to be changed, or no change helps.</p>
    <template v-for="(a, k) in advice" :key="k">
      <h3 v-if="first(k)" class="book">{{ a.title }}</h3>
      <p v-if="first(k)" class="small">{{ a.evidence }}</p>
      <div class="change">
        <button type="button" class="word-button" :disabled="asked.busy.value" @click="tryIt(a)">{{ a.doing }}</button>
        <span class="small">
          {{ label(a) }} {{ words(a, a.before) }} → <b :data-predicted="a.after">{{ words(a, a.after) }}</b>
        </span>
      </div>
    </template>
    <button v-if="before" type="button" class="plain-button" @click="back">Back to the surface there was</button>
    <button v-if="draft.undoable" type="button" class="plain-button" @click="draft.undo">Undo the pen</button>
  </div>
</template>

<style scoped>
.advice {
  display: grid;
  gap: 4px;
  justify-items: start;
}
.waits .change {
  opacity: 0.5;
}
h3 {
  margin: 4px 0 0;
  font-size: 16px;
  font-style: italic;
  font-weight: 450;
  color: var(--attention);
}
p {
  margin: 0;
}
.change {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 14px;
}
.word-button {
  text-align: left;
}
b {
  color: var(--ink);
}
</style>

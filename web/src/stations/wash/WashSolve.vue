<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { useDebounceFn } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { ElOption, ElSelect } from 'element-plus'
import { api, take, type Recipe, type Schemas } from '@/api/client'
import PaletteSpots from '@/components/PaletteSpots.vue'
import ReadingNote from '@/components/ReadingNote.vue'
import { percent, say } from '@/lib/numbers'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useInk } from '@/stores/ink'
import { useWash } from '@/stores/wash'
import { papersFor } from './papers'

/** A strength and blend that keep words readable after two passes on one paper, or plainly that there is none. */
const props = defineProps<{ paper: string; typed: string }>()
const desk = useDesk()
const ink = useInk()
const wash = useWash()
const on = ref<string>()
const which = ref<'both' | 'writing' | 'typed'>('both')
const target = computed(() => on.value ?? props.paper)
const papers = computed(() => papersFor(props.paper))
watch(
  () => props.paper,
  () => (on.value = undefined),
)
const reply = shallowRef<Schemas['SolveWashReply']>()
const answer = computed(() => reply.value?.answer)
const asked = useLatest(
  (body: Schemas['SolveWashBody']) => take(api.POST('/api/wash/solve', { body })),
  (a) => (reply.value = a),
  () => (reply.value = undefined),
  { follow: true },
)
const askSoon = useDebounceFn(() => {
  if (!wash.recipe || !wash.ink) return
  if (!props.typed.trim()) {
    asked.forget()
    reply.value = undefined
    return
  }
  void asked.want({
    wash: wash.recipe,
    ink: wash.ink.recipe,
    source: { sheet_id: desk.sheet!.id, part: 'words', stroke_ids: null },
    typed: props.typed,
    paper: target.value,
    words: which.value === 'both' ? ['writing', 'typed'] : [which.value],
  })
}, 250)
watch(
  [() => wash.recipe, () => wash.ink, target, which, () => desk.sheet?.id, () => ink.changed],
  () => void askSoon(),
  { immediate: true },
)

const same = computed(() => {
  const [s, r] = [answer.value?.setting, wash.recipe]
  return (
    !!s &&
    !!r &&
    Math.abs(s.opacity - r.body!.opacity!) < 0.006 &&
    s.blend === r.wash!.blend &&
    s.place === r.wash!.place
  )
})
const measured = computed(() => Math.min(...['writing', 'typed'].flatMap((k) => reply.value?.measured[k] ?? [])))

const others = computed(() =>
  reply.value?.colours.map((c) => ({
    name: `Use ${c.colour}: ${c.blend}, ${percent(c.opacity)}, ${say(c.contrast)}:1`,
    colour: c.colour,
  })),
)
const madeTwin = ref('')
watch([() => wash.pen?.id, reply], () => (madeTwin.value = ''))
const twinWords = computed(() => {
  const dark = reply.value?.twin_paper !== '#ffffff'
  return dark ? 'for dark paper' : 'for white paper'
})
/** Keep this wash for paper of the other lightness, as a pen of its own beside it on the roll. */
const keepTwin = (setting: Schemas['Setting']) =>
  desk.attempt(async () => {
    const made = await take(
      api.POST('/api/pens', {
        body: {
          id: `pen-${crypto.randomUUID().slice(0, 13)}`,
          recipe: { ...withSetting(setting), name: `${wash.recipe!.name.slice(0, 42)}, ${twinWords.value}` },
          note: `twin of ${wash.recipe!.name}`,
          on_roll: true,
        },
      }),
    )
    desk.replacePen(made)
    madeTwin.value = made.recipe.name!
  })

function withSetting(setting: Schemas['Setting']): Recipe {
  const copy = JSON.parse(JSON.stringify(wash.recipe)) as Recipe
  Object.assign(copy.body!, { opacity: setting.opacity, colour: setting.colour })
  Object.assign(copy.wash!, { blend: setting.blend, place: setting.place })
  return copy
}

/** Take a solution: one step of undo. */
function use(setting: Schemas['Setting']) {
  wash.done()
  wash.replace(withSetting(setting))
  wash.done()
}
</script>

<template>
  <div class="for">
    <ElSelect :model-value="target" aria-label="Solve for paper" @change="(c: string) => (on = c)"
      ><ElOption v-for="p in papers" :key="p.colour" :value="p.colour" :label="`for ${p.name}`"
    /></ElSelect>
    <ElSelect v-model="which" aria-label="Words that must stay"
      ><ElOption value="both" label="all words" /><ElOption value="writing" label="writing" /><ElOption
        value="typed"
        label="print"
    /></ElSelect>
  </div>
  <ReadingNote
    v-if="reply && answer"
    title="Solve"
    :tone="answer.setting ? 'plain' : 'attention'"
    data-solve
    :help="
      `${answer.tried} settings of strength, blend and place were tried. Words must keep 4.5:1 after two passes, ` +
      'and one pass must differ from the paper by 8 to 45 (CIEDE2000). The numbers are read off rendered pixels.'
    "
  >
    <template v-if="answer.setting">
      <p>
        {{ answer.setting.blend }}, {{ answer.setting.place }} the ink, strength
        <span class="number">{{ percent(answer.setting.opacity) }}</span>
      </p>
      <p class="small">
        measured: {{ say(measured) }}:1 after two passes, stands out by {{ say(reply.measured.visibility ?? 0) }}
      </p>
    </template>
    <p v-if="answer.trade" class="small" data-trade>{{ answer.trade }}.</p>
    <template v-if="!answer.setting">
      <p>No strength or blend of this colour works here.</p>
      <p v-if="answer.bare_contrast < (desk.reading('wash', 'writing')?.attention ?? 0)" class="small">
        The bare words reach only {{ say(answer.bare_contrast) }}:1 on this paper: change the ink or the paper first.
      </p>
      <p v-else-if="answer.best_contrast" class="small">
        Where it can be seen, words keep {{ say(answer.best_contrast) }}:1 at best; where they stay readable, it stands
        out by {{ say(answer.best_visibility) }} at most.
      </p>
    </template>
    <template #more>
      <button v-if="answer.setting" type="button" class="word-button" :disabled="same" @click="use(answer.setting)">
        {{ same ? 'In use' : 'Use it' }}
      </button>
      <p v-if="answer.other" class="small other">
        <i :style="{ background: answer.other.colour }"></i>{{ answer.other.colour }} would work:
        {{ answer.other.blend }}, {{ answer.other.place }}, {{ percent(answer.other.opacity) }}
      </p>
      <button v-if="answer.other" type="button" class="word-button" @click="use(answer.other)">Use that colour</button>
      <p v-if="reply.colours.length" class="small">Other colours that work here:</p>
      <PaletteSpots
        v-if="reply.colours.length"
        label="Other colours that work here"
        :model-value="wash.recipe?.body?.colour ?? ''"
        :spots="others"
        @update:model-value="(c) => use(reply!.colours.find((s) => s.colour === c)!)"
      />
      <template v-if="reply.twin">
        <p v-if="madeTwin" class="small" role="status">{{ madeTwin }} is on the roll.</p>
        <template v-else>
          <p class="small">
            {{ twinWords }}: {{ reply.twin.blend }}, {{ reply.twin.place }} the ink, {{ percent(reply.twin.opacity) }}
          </p>
          <DoWord :does="() => keepTwin(reply!.twin!)">Keep a twin {{ twinWords }}</DoWord>
        </template>
      </template>
    </template>
  </ReadingNote>
  <p v-else class="small">Solving …</p>
</template>

<style scoped>
.for {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.other {
  display: flex;
  align-items: center;
  gap: 6px;
}
.word-button {
  margin: 4px 0 8px;
}
.other i {
  width: 22px;
  height: 22px;
  border: var(--line) solid var(--edge);
}
</style>

<script setup lang="ts">
import { onClickOutside } from '@vueuse/core'
import { computed, defineAsyncComponent, ref, useTemplateRef } from 'vue'
import { useDesk } from '@/stores/desk'
import { useInk } from '@/stores/ink'
import { useDraft } from '@/stores/draft'
import { useFrame } from '@/stores/frame'
import { useScreenSettings } from '@/stores/screen-settings'
import { useTasks } from '@/stores/tasks'
import { useRoute } from 'vue-router'
import { article, percent } from '@/lib/numbers'

const SentenceChoices = defineAsyncComponent(() => import('./SentenceChoices.vue'))

export type Part = 'sheet' | 'pen' | 'hand' | 'device' | 'paper' | 'layers' | 'pages'
defineProps<{ covered: boolean }>()
const desk = useDesk()
const ink = useInk()
const draft = useDraft()
const screen = useScreenSettings()
const frame = useFrame()
const route = useRoute()
const tasks = useTasks()
const elsewhere = computed(() => [...tasks.tasks.values()].filter((t) => t.path !== route.name))
const open = ref<Part>()
const box = useTemplateRef<HTMLElement>('box')
onClickOutside(box, () => (open.value = undefined))
const toggle = (part: Part) => (open.value = open.value === part ? undefined : part)

/** On which layer, and over which: those above it are not said, they do not lie under the pen. */
const layers = computed(() => {
  const all = desk.sheet?.layers ?? []
  if (all.length < 2) return 'one layer'
  const at = all.findIndex((layer) => layer.id === desk.sheet!.layer)
  const below = all.slice(0, at).filter((layer) => layer.shown)
  const over = below.length ? `, over ${below.map((layer) => layer.name).join(', ')}` : ''
  return `on ${all[at]?.name}${over}`
})
interface Phrase {
  part: Part
  words: string
  more?: string
  /** What is said between it and the next. */
  then: string
}
/** The sentence: who writes on what with which pen, each part of which can be pressed. */
const phrases = computed<Phrase[]>(() => {
  const sheet = desk.sheet!
  const [hand, device] = [desk.hand?.hand.name ?? '', desk.device?.device.name ?? '']
  const here = !!desk.device && desk.device.id === screen.deviceId
  const many = sheet.pages > 1
  const pages: Phrase[] = many ? [{ part: 'pages', words: `page ${sheet.page} of ${sheet.pages}`, then: ': ' }] : []
  const revision = `, revision ${desk.pen?.revision}${draft.changed ? ', changed' : ''}`
  return [
    { part: 'sheet', words: sheet.name, then: many ? ', ' : ': ' },
    ...pages,
    {
      part: 'pen',
      words: desk.pen?.recipe.name ?? '',
      more: revision,
      then: ` in ${article(hand)} `.replace('  ', ' '),
    },
    { part: 'hand', words: hand, then: here ? ' on ' : ` on ${article(device)} `.replace('  ', ' ') },
    { part: 'device', words: here ? 'this screen' : device, then: ', ' },
    { part: 'paper', words: sheet.paper_words, then: ', ' },
    { part: 'layers', words: layers.value, then: '' },
  ]
})
onClickOutside(box, () => frame.unfolded === 'sentence' && (frame.unfolded = undefined))
</script>

<template>
  <header ref="box" :class="{ small: frame.small }">
    <button
      v-if="frame.small && desk.sheet"
      type="button"
      class="book in-hand"
      :aria-expanded="frame.unfolded === 'sentence'"
      @click="frame.turn('sentence')"
    >
      {{ desk.pen?.recipe.name }}
    </button>
    <h1
      v-if="desk.sheet"
      v-show="!frame.small || frame.unfolded === 'sentence' || open"
      class="book"
      :class="{ covered, over: frame.small }"
    >
      <template v-for="p in phrases" :key="p.part"
        ><button
          type="button"
          :data-part="p.part"
          :title="p.words"
          :aria-expanded="open === p.part"
          @click="toggle(p.part)"
        >
          {{ p.words }}<small v-if="p.more">{{ p.more }}</small></button
        >{{ p.then }}</template
      >
    </h1>
    <h1 v-else-if="desk.desk" class="book said-alone" :class="{ covered }">A new desk: say who writes, and what</h1>
    <p class="small state" role="status">
      <RouterLink v-if="draft.changed" to="/pen">writing with changes not kept</RouterLink>
      <button v-if="ink.refusals && !ink.asks" type="button" class="put-aside" @click="ink.later = 0">
        {{ ink.words }}
      </button>
      <span v-else>{{ ink.words }}</span>
      <RouterLink v-for="t in elsewhere" :key="t.words" :to="`/${t.path}`" class="task" data-task
        >{{ t.words }}, {{ percent(t.job.share) }}</RouterLink
      >
    </p>
    <SentenceChoices
      v-if="open && desk.sheet"
      :key="open"
      :part="open"
      @turn="(to) => (open = to)"
      @close="open = undefined"
    />
  </header>
</template>

<style scoped>
header {
  position: relative;
  z-index: 20;
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 24px;
  padding: 0 28px;
  border-bottom: var(--line) solid var(--rule);
  background: var(--paper);
}

/* as high whatever it says: two lines fit, and the page must not move as words come and go */
h1 {
  min-width: 0;
  max-height: 64px;
  padding: 2px 0;
  margin: 0;
  overflow: clip;
  font-size: 20px;
  font-weight: 400;
  line-height: 30px;
}
.covered {
  visibility: hidden;
}
h1 button {
  position: relative;
  max-width: 17em;
  height: 30px;
  overflow: clip;
  overflow-clip-margin: 9px;
  text-overflow: ellipsis;
  white-space: nowrap;
  vertical-align: top;
  line-height: 30px;
  font-style: italic;
  text-decoration: underline;
  text-decoration-color: var(--accent);
  text-decoration-thickness: 2px;
  text-underline-offset: 6px;
}
/* as high to press as anything else, in what room there is between the lines */
h1 button::before {
  content: '';
  position: absolute;
  inset: -7px 0;
}
h1 button:hover,
h1 button[aria-expanded='true'] {
  color: var(--accent);
}
h1 small {
  font-size: 15px;
}
/* its place does not depend on what it says: the page must not move as words come */
.state {
  flex: 0 0 200px;
  display: grid;
  justify-items: end;
  line-height: 1.25;
  text-align: right;
}
.state a,
.put-aside {
  color: var(--attention);
}
.put-aside {
  min-height: 32px;
  text-align: inherit;
  text-decoration: underline;
}

@media (max-width: 900px) {
  header {
    flex-direction: column;
    align-items: stretch;
    gap: 0;
    padding: 4px 16px;
  }
  .state {
    flex: 0 0 34px;
    align-content: center;
    justify-items: start;
    text-align: left;
  }
  h1 {
    height: 64px;
    font-size: 18px;
  }
  h1 button {
    max-width: 12em;
  }
}
/* on a telephone: the pen, and what became of the ink; the whole sentence opens over the page */
@media (max-width: 560px) {
  header.small {
    flex-direction: row;
    align-items: center;
    gap: 12px;
    height: 48px;
    padding: 0 12px;
  }
  .in-hand {
    flex: 1 1 0;
    min-width: 0;
    min-height: var(--target);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    text-align: left;
    font-size: 18px;
    font-style: italic;
    text-decoration: underline 2px var(--accent);
    text-underline-offset: 6px;
  }
  .small .state {
    flex: 0 1 170px;
    min-height: 0;
    justify-items: end;
    text-align: right;
  }
  .small .over {
    position: absolute;
    inset: 100% 0 auto;
    height: auto;
    max-height: none;
    padding: 6px 16px 10px;
    line-height: 44px;
    background: var(--card);
    border-bottom: var(--line) solid var(--edge);
  }
  .small .over button {
    height: 44px;
    max-width: 100%;
    line-height: 44px;
  }
  .said-alone {
    height: auto;
    font-size: 16px;
  }
}
</style>

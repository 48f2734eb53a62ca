<script setup lang="ts">
import { onClickOutside } from '@vueuse/core'
import { computed, ref, useTemplateRef } from 'vue'
import { useDesk } from '@/stores/desk'
import { useInk } from '@/stores/ink'
import { useDraft } from '@/stores/draft'
import { useHere } from '@/stores/here'
import { article } from '@/lib/numbers'
import SentenceChoices from './SentenceChoices.vue'

export type Part = 'sheet' | 'pen' | 'hand' | 'device' | 'paper' | 'layers' | 'pages'
defineProps<{ covered: boolean }>()
const desk = useDesk()
const ink = useInk()
const draft = useDraft()
const screen = useHere()
const open = ref<Part>()
const box = useTemplateRef<HTMLElement>('box')
onClickOutside(box, () => (open.value = undefined))
const toggle = (part: Part) => (open.value = open.value === part ? undefined : part)

const words = computed(() => {
  const hand = desk.hand?.hand.name ?? ''
  const device = desk.device?.device.name ?? ''
  const here = !!desk.device && desk.device.id === screen.deviceId
  const said = { hand, device: here ? 'this screen' : device, in: `in ${article(hand)}`.trim() }
  return { ...said, on: here ? 'on' : `on ${article(device)}`.trim() }
})
/** On which layer, and over which: those above it are not said, they do not lie under the pen. */
const layers = computed(() => {
  const all = desk.sheet?.layers ?? []
  if (all.length < 2) return 'one layer'
  const at = all.findIndex((layer) => layer.id === desk.sheet!.layer)
  const below = all.slice(0, at).filter((layer) => layer.shown)
  const over = below.length ? `, over ${below.map((layer) => layer.name).join(', ')}` : ''
  return `on ${all[at]?.name}${over}`
})
const revision = computed(() => `revision ${desk.pen?.revision}${draft.changed ? ', changed' : ''}`)
</script>

<template>
  <header ref="box">
    <h1 v-if="desk.sheet" class="book" :class="{ covered }">
      <button type="button" data-part="sheet" :aria-expanded="open === 'sheet'" @click="toggle('sheet')">
        {{ desk.sheet.name }}</button><template v-if="desk.sheet.pages > 1"
        >,
        <button type="button" data-part="pages" :aria-expanded="open === 'pages'" @click="toggle('pages')">
          page {{ desk.sheet.page }} of {{ desk.sheet.pages }}
        </button></template
      >:
      <button type="button" data-part="pen" :aria-expanded="open === 'pen'" @click="toggle('pen')">
        {{ desk.pen?.recipe.name }}<small>, {{ revision }}</small>
      </button>
      {{ words.in }}
      <button type="button" data-part="hand" :aria-expanded="open === 'hand'" @click="toggle('hand')">
        {{ words.hand }}
      </button>
      {{ words.on }}
      <button type="button" data-part="device" :aria-expanded="open === 'device'" @click="toggle('device')">
        {{ words.device }}</button>,
      <button type="button" data-part="paper" :aria-expanded="open === 'paper'" @click="toggle('paper')">
        {{ desk.sheet.paper_words }}</button>,
      <button type="button" data-part="layers" :aria-expanded="open === 'layers'" @click="toggle('layers')">
        {{ layers }}
      </button>
    </h1>
    <h1 v-else-if="desk.desk" class="book" :class="{ covered }">A new desk: say who writes, and what</h1>
    <p class="small state" role="status">
      <RouterLink v-if="draft.changed" to="/pen">writing with changes not kept</RouterLink>
      <button v-if="ink.refusals && !ink.asks" type="button" class="put-aside" @click="ink.later = 0">
        {{ ink.words }}
      </button>
      <span v-else>{{ ink.words }}</span>
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

h1 {
  margin: 0;
  font-size: 20px;
  font-weight: 400;
  line-height: 1.3;
}
.covered {
  visibility: hidden;
}
h1 button {
  min-height: var(--target);
  font-style: italic;
  text-decoration: underline;
  text-decoration-color: var(--accent);
  text-decoration-thickness: 2px;
  text-underline-offset: 6px;
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
    flex-wrap: wrap;
    gap: 4px 24px;
    padding: 6px 16px;
  }
  .state {
    flex-basis: 100%;
    justify-items: start;
    text-align: left;
  }
  h1 {
    font-size: 18px;
  }
  h1 button {
    min-height: 32px;
  }
}
@media (max-width: 560px) {
  .state {
    min-height: 2.5em;
  }
}
</style>

<script setup lang="ts">
import { computed, useTemplateRef } from 'vue'
import { PAGE, useCabinet, type Thing } from '@/stores/cabinet'
import ThingPicture from './ThingPicture.vue'

/** What was found, each as it looks; walked with the arrow keys, turned a page at a time. */
const cabinet = useCabinet()
const list = useTemplateRef<HTMLElement>('list')
const things = computed(() => cabinet.found?.things ?? [])
const count = computed(() => cabinet.found?.count ?? 0)
const from = computed(() => (count.value ? cabinet.wanted.first + 1 : 0))
const upto = computed(() => Math.min(cabinet.wanted.first + PAGE, count.value))
const isOpen = (t: Thing) => cabinet.detail?.thing.kind === t.kind && cabinet.detail.thing.id === t.id

function turn(way: number) {
  cabinet.wanted.first = Math.max(0, cabinet.wanted.first + way * PAGE)
  cabinet.look()
  list.value?.scrollIntoView({ block: 'nearest' })
}
/** Arrow keys go to the next one that way, as they lie on the screen. */
function walk(event: KeyboardEvent) {
  const all = [...(list.value?.querySelectorAll<HTMLElement>('button') ?? [])]
  const at = all.indexOf(document.activeElement as HTMLElement)
  const columns = all.filter((b) => b.offsetTop === all[0]?.offsetTop).length
  const by = { ArrowRight: 1, ArrowLeft: -1, ArrowDown: columns, ArrowUp: -columns }[event.key]
  if (by === undefined || at < 0) return
  event.preventDefault()
  all[at + by]?.focus()
}
</script>

<template>
  <ul ref="list" class="things" :class="{ stale: cabinet.stale }" aria-label="Things found" @keydown="walk">
    <li v-for="t in things" :key="`${t.kind} ${t.id}`">
      <button type="button" :aria-pressed="isOpen(t)" @click="cabinet.openThing(t.kind, t.id)">
        <ThingPicture :thing="t" />
        <b>{{ t.name }}</b>
        <span class="small"
          >{{ cabinet.kindOf(t.kind)?.words }}{{ t.made_at ? `, ${t.made_at.slice(0, 10)}` : '' }}</span
        >
        <span v-if="t.note" class="small book">{{ t.note }}</span>
      </button>
    </li>
  </ul>
  <p v-if="cabinet.found && !count" class="book first">
    {{ cabinet.wanted.binned ? 'Nothing like that lies in the bin.' : 'Nothing kept is like that.' }}
  </p>
  <nav v-if="count > PAGE" class="turn" aria-label="Pages of what was found">
    <button type="button" class="word-button" :disabled="from <= 1" @click="turn(-1)">Before</button>
    <span class="small" role="status">{{ from }} to {{ upto }} of {{ count }}</span>
    <button type="button" class="word-button" :disabled="upto >= count" @click="turn(1)">After</button>
  </nav>
</template>

<style scoped>
.things {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 4px 14px;
  margin: 4px 0 8px;
  padding: 0;
  list-style: none;
}
.things button {
  display: grid;
  align-content: start;
  gap: 2px;
  width: 100%;
  height: 100%;
  padding: 8px 6px;
  border-bottom: 4px solid transparent;
  text-align: left;
}
.things button:hover {
  background: var(--accent-soft);
}
.things [aria-pressed='true'] {
  border-bottom-color: var(--accent);
}
b,
.small {
  overflow: hidden;
  text-overflow: ellipsis;
  overflow-wrap: anywhere;
}
b {
  font-weight: 650;
}
.first {
  font-size: 17px;
  font-style: italic;
}
.turn {
  display: flex;
  gap: 16px;
  align-items: center;
}
</style>

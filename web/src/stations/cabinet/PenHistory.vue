<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { computed, ref, useTemplateRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import PenSwatch from '@/components/PenSwatch.vue'
import { when } from '@/lib/numbers'
import { useCabinet } from '@/stores/cabinet'
import { useDesk } from '@/stores/desk'

/** A pen as it was and is: a line of strokes, and between two of them what changed. */
const props = defineProps<{ history: Schemas['Revision'][] }>()
const cabinet = useCabinet()
const desk = useDesk()
const at = ref(-1)
const shown = computed(() => props.history.at(at.value) ?? props.history.at(-1)!)
const isNewest = computed(() => shown.value.pen.revision === shown.value.pen.newest)
/** The one that is shown is in sight, the newest first of all. */
const line = useTemplateRef<HTMLElement>('line')
watch(
  [shown, line],
  () => {
    const one = line.value?.children[props.history.indexOf(shown.value)] as HTMLElement | undefined
    if (one) line.value!.scrollLeft = one.offsetLeft - line.value!.offsetLeft - one.offsetWidth
  },
  { flush: 'post' },
)
const walk = (by: number) => {
  const now = props.history.indexOf(shown.value)
  at.value = Math.max(0, Math.min(props.history.length - 1, now + by))
}
/** What it was becomes its newest revision: nothing of its history is lost. */
const again = () =>
  desk.attempt(async () => {
    const { pen } = shown.value
    const body = { recipe: pen.recipe, note: `as in revision ${pen.revision}`, saw: pen.newest }
    const made = await take(api.POST('/api/pens/{pen_id}/revisions', { params: { path: { pen_id: pen.id } }, body }))
    desk.replacePen(made)
    at.value = -1
    await cabinet.changed(cabinet.detail!.thing)
  })
</script>

<template>
  <h3 class="book">How it came to be</h3>
  <ol ref="line" class="line" aria-label="Revisions" @keydown.left.prevent="walk(-1)" @keydown.right.prevent="walk(1)">
    <li v-for="r in history" :key="r.pen.revision">
      <button
        type="button"
        :aria-pressed="r === shown"
        :aria-label="`Revision ${r.pen.revision}`"
        @click="at = history.indexOf(r)"
      >
        <PenSwatch :pen="r.pen" /><span class="small">{{ r.pen.revision }}</span>
      </button>
    </li>
  </ol>
  <div class="told">
    <p class="small">
      Revision {{ shown.pen.revision }}, {{ when(shown.pen.created_at) }}: {{ shown.pen.note || '–' }}
    </p>
    <dl v-if="shown.changes.length">
      <template v-for="c in shown.changes" :key="c.field">
        <dt>{{ c.label }}</dt>
        <dd>{{ c.words }}</dd>
      </template>
    </dl>
    <p v-else-if="shown.pen.revision > 1" class="small">Nothing differs from the one before.</p>
    <DoWord v-if="!isNewest" :does="again">Make it so again</DoWord>
  </div>
</template>

<style scoped>
h3 {
  margin: 6px 0 0;
  font-size: 17px;
  font-style: italic;
  font-weight: 500;
}
.line {
  display: flex;
  overflow-x: auto;
  margin: 0;
  padding: 0;
  list-style: none;
  scrollbar-width: thin;
}
.line button {
  display: grid;
  justify-items: center;
  min-height: var(--target);
  padding: 2px 4px;
  border-bottom: 4px solid transparent;
}
.line [aria-pressed='true'] {
  border-bottom-color: var(--accent);
}
dl {
  display: grid;
  grid-template-columns: auto minmax(0, 1fr);
  gap: 2px 14px;
  margin: 0;
  font-size: var(--small);
}
dd {
  margin: 0;
  overflow-wrap: anywhere;
}
</style>

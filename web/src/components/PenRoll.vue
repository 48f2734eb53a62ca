<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { useDesk } from '@/stores/desk'
import PenSwatch from './PenSwatch.vue'

const desk = useDesk()
const router = useRouter()

const dragged = ref<string>()

/** Move a pen to another place on the roll. */
function move(id: string, to: number) {
  const ids = desk.roll.map((p) => p.id).filter((i) => i !== id)
  ids.splice(Math.min(Math.max(to, 0), ids.length), 0, id)
  void desk.attempt(() => desk.orderRoll(ids))
}

function key(event: KeyboardEvent, id: string, place: number) {
  const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (!step || !event.shiftKey) return
  event.preventDefault()
  move(id, place + step)
}

function press(id: string) {
  if (id === desk.sheet?.pen_id) void router.push('/pen')
  else void desk.takePen(id)
}
</script>

<template>
  <section class="holder" aria-label="Pens at hand">
    <div class="roll" role="toolbar" aria-label="Pen roll">
      <button
        v-for="(pen, i) in desk.roll"
        :key="pen.id"
        type="button"
        :class="{ picked: pen.id === desk.sheet?.pen_id }"
        :aria-pressed="pen.id === desk.sheet?.pen_id"
        :title="pen.id === desk.sheet?.pen_id ? 'Press again to tune it' : pen.recipe.name"
        draggable="true"
        @click="press(pen.id)"
        @keydown="key($event, pen.id, i)"
        @dragstart="dragged = pen.id"
        @dragover.prevent
        @drop.prevent="dragged && move(dragged, i)"
      >
        <span class="place" aria-hidden="true">{{ (i + 1) % 10 }}</span>
        <PenSwatch :pen="pen" />
        <span class="name">{{ pen.recipe.name }}</span>
      </button>
    </div>
  </section>
</template>

<style scoped>
.holder {
  min-width: 0;
}
.roll {
  display: flex;
  height: 100%;
  overflow-x: auto;
  border-top: var(--line) solid var(--rule);
  padding: 0 8px;
}

button {
  position: relative;
  flex: 1 0 104px;
  max-width: 150px;
  display: grid;
  grid-template-rows: 46px 20px;
  justify-items: center;
  align-content: center;
  border-top: 4px solid transparent;
}

button.picked {
  border-top-color: var(--accent);
}
button.picked .name {
  font-weight: 700;
}
button:hover .name {
  text-decoration: underline;
}
.place {
  position: absolute;
  left: 6px;
  top: 2px;
  padding: 0 2px;
  font-size: var(--small);
  color: var(--on-swatch);
  background: var(--swatch-ground);
}
.name {
  font-size: var(--small);
  max-width: 100%;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
  padding: 0 4px;
}
</style>

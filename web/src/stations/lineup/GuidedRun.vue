<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import NumberField from '@/components/NumberField.vue'
import { useDesk } from '@/stores/desk'
import { STEPS, useGuided } from '@/stores/guided'
import { useLineup } from '@/stores/lineup'

/** Asks the same steps in the same order for every pen: write, feel, palm, film. */
const desk = useDesk()
const guided = useGuided()
const lineup = useLineup()
const router = useRouter()
const points = ref(50)
const go = (pen: string, station: string) =>
  desk.attempt(async () => {
    if (desk.pen?.id !== pen) await desk.changeSheet({ pen_id: pen })
    await router.push(station)
  })
function done() {
  const at = guided.next
  if (at?.step === 'feel') guided.felt(at.pen, points.value)
  guided.tell('done')
  points.value = 50
}
</script>

<template>
  <section class="guided" aria-label="Guided run">
    <div v-if="!guided.run" class="row">
      <button type="button" class="word-button" :disabled="lineup.chosen.length < 2" @click="guided.begin()">
        Begin a guided run
      </button>
      <span class="small">the same steps for every pen, in the same order: write, feel, palm, film</span>
    </div>
    <template v-else>
      <div v-if="guided.next" class="row">
        <b>{{ guided.nameOf(guided.next.pen) }}</b>
        <span>{{ STEPS[guided.next.step].does }}.</span>
        <button
          v-if="STEPS[guided.next.step].station"
          type="button"
          class="word-button"
          @click="go(guided.next.pen, STEPS[guided.next.step].station)"
        >
          Go there with it
        </button>
        <NumberField v-else v-model="points" label="How it feels" unit="points" :min="0" :max="100" :decimals="0" />
        <button type="button" class="word-button strong" @click="done">Done</button>
        <button type="button" class="plain-button" @click="guided.tell('left out')">leave it out</button>
        <button type="button" class="plain-button" @click="guided.back()">one back</button>
      </div>
      <p v-else class="book">Every step was asked of every pen.</p>
      <p v-for="w in guided.words" :key="w" class="small">{{ w }}.</p>
      <button type="button" class="plain-button small" @click="guided.end()">end the guided run</button>
    </template>
  </section>
</template>

<style scoped src="./lineup.css" />

<style scoped>
.guided {
  margin: 6px 0;
  border-top: var(--line) solid var(--rule);
}
p {
  margin: 0;
}
</style>

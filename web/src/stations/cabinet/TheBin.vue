<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { ref, shallowRef } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useCabinet } from '@/stores/cabinet'
import { useDesk } from '@/stores/desk'

/** What emptying the bin would let go of, and what it would leave because something still needs it. */
const cabinet = useCabinet()
const desk = useDesk()
const would = shallowRef<Schemas['Emptying']>()
const said = ref('')
const busy = ref(false)
const counted = (n: number, one = 'thing') => `${n} ${one}${n === 1 ? '' : 's'}`
const kindOf = (kind: string) => cabinet.kindOf(kind)?.words ?? kind
const needed = (by: Schemas['Use'][]) => by.map((u) => `the ${kindOf(u.kind)} ${u.name} (${u.words})`).join(', ')
const look = () =>
  desk.attempt(async () => {
    said.value = ''
    would.value = await take(api.GET('/api/cabinet/bin'))
  })
async function empty() {
  busy.value = true
  await desk.attempt(async () => {
    const told = await take(api.DELETE('/api/cabinet/bin', {}))
    const gone = counted(told.emptied.go.length)
    said.value = `${gone} let go of. What was there before is kept as a backup, the newest there is.`
    would.value = undefined
    await cabinet.changed()
  })
  busy.value = false
}
</script>

<template>
  <div class="bin">
    <DoWord v-if="!would" :does="look">Empty the bin …</DoWord>
    <section v-else class="card" aria-label="Emptying the bin">
      <p v-if="would.go.length">
        {{ counted(would.go.length) }} would go for good: {{ would.go.map((t) => t.name).join(', ') }}.
      </p>
      <p v-else>Nothing in the bin can go.</p>
      <p v-if="would.with_them.length">
        With them go {{ would.with_them.map((u) => `${kindOf(u.kind)} of ${u.name}`).join(', ') }}.
      </p>
      <p v-for="s in would.stay" :key="`${s.thing.kind} ${s.thing.id}`">
        The {{ kindOf(s.thing.kind) }} <b>{{ s.thing.name }}</b> stays: {{ needed(s.needed_by) }} still
        {{ s.needed_by.length === 1 ? 'needs' : 'need' }} it.
      </p>
      <p class="small">A backup of everything is made first.</p>
      <div class="row">
        <DoWord v-if="would.go.length" class="strong" :disabled="busy" :does="empty">
          Let {{ would.go.length === 1 ? 'it' : 'them' }} go
        </DoWord>
        <button type="button" class="word-button" @click="would = undefined">Leave it</button>
        <span v-if="busy" class="small" role="status">making a backup, then emptying</span>
      </div>
    </section>
    <p v-if="said" class="small" role="status">{{ said }}</p>
  </div>
</template>

<style scoped>
.bin {
  padding: 8px 0;
}
.card {
  max-width: 760px;
  padding: 10px 16px;
  border-color: var(--ink);
}
.row {
  display: flex;
  gap: 12px;
  align-items: center;
  padding-top: 6px;
}
p {
  overflow-wrap: anywhere;
}
</style>

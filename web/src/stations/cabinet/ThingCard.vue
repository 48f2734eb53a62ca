<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { computed, defineAsyncComponent, nextTick, ref, useTemplateRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, take, takeFile } from '@/api/client'
import KeptInput from '@/components/KeptInput.vue'
import { giveFile } from '@/composables/use-files'
import { when } from '@/lib/numbers'
import { useCabinet } from '@/stores/cabinet'
import { useDesk } from '@/stores/desk'
import { useLineup } from '@/stores/lineup'
import ForOthers from './ForOthers.vue'
import PenHistory from './PenHistory.vue'
import ThingPicture from './ThingPicture.vue'

const RecordForm = defineAsyncComponent(() => import('./RecordForm.vue'))

/** The one thing that is looked at: what it is, where it is used, how it came to be, and what can be done with it. */
const cabinet = useCabinet()
const desk = useDesk()
const lineup = useLineup()
const router = useRouter()
const thing = computed(() => cabinet.detail?.thing)
const kind = computed(() => cabinet.kindOf(thing.value?.kind ?? ''))
const query = computed(() => ({ kind: thing.value!.kind, id: thing.value!.id }))
const card = useTemplateRef<HTMLElement>('card')
const said = ref('')
const editing = ref(false)
watch(
  () => [thing.value?.kind, thing.value?.id],
  async ([opened]) => {
    said.value = ''
    editing.value = false
    await nextTick()
    if (opened && matchMedia('(max-width: 900px)').matches) card.value?.scrollIntoView()
  },
)

const copy = () =>
  desk.attempt(async () => {
    await cabinet.changed(await take(api.POST('/api/cabinet/thing/copy', { params: { query: query.value } })))
    said.value = 'This is the copy.'
  })
const rename = (name: string) =>
  desk.attempt(async () => {
    const asked = { params: { query: query.value }, body: { name, saw: thing.value!.name } }
    await cabinet.changed(await take(api.PUT('/api/cabinet/thing/name', asked)))
  })
const note = (words: string) =>
  desk.attempt(async () => {
    const asked = { params: { query: query.value }, body: { note: words, saw: thing.value!.note } }
    await cabinet.changed(await take(api.PUT('/api/cabinet/thing/note', asked)))
  })
const bin = (binned: boolean) =>
  desk.attempt(async () => {
    await take(api.PUT('/api/cabinet/thing/bin', { params: { query: query.value }, body: { binned } }))
    if (thing.value!.kind === 'sheet' && binned) await desk.dropSheet(thing.value!.id)
    await cabinet.changed()
  })
const takeOut = () =>
  desk.attempt(async () => {
    giveFile(await takeFile(`/api/cabinet/thing/file?${new URLSearchParams(query.value)}`), `${thing.value!.name}.zip`)
    said.value = `${thing.value!.name}.zip is in your downloads.`
  })

/** What is done with one first of all. */
const GESTURE_ACTIONS: Record<string, [string, () => Promise<unknown>]> = {
  pen: ['Write with it', () => desk.changeSheet({ pen_id: thing.value!.id }).then(() => router.push('/sheet'))],
  hand: ['Write with this hand', () => desk.changeSheet({ hand_id: thing.value!.id })],
  device: ['Write on this device', () => desk.changeSheet({ device_id: thing.value!.id })],
  sheet: [
    'Lay it on the desk',
    async () => {
      const page = desk.desk?.sheets.filter((s) => s.sheaf === thing.value!.id).sort((a, b) => a.page - b.page)[0]
      if (page) await desk.openSheet(page.id)
      await router.push('/sheet')
    },
  ],
  'line-up': [
    'Lay it out',
    async () => {
      await lineup.needKept()
      const head = lineup.kept.find((k) => k.id === thing.value!.id)
      if (head) await lineup.openKept(head)
      await router.push('/line-up')
    },
  ],
  'lag run': ['Go to Lag', () => router.push('/lag')],
  'palm run': ['Go to Palm', () => router.push('/palm')],
  'blind pairs': [
    'Go on judging',
    () => {
      lineup.judging = thing.value!.id
      return router.push('/line-up')
    },
  ],
}
/** Pens, hands and devices are taken for the sheet on the desk, where there is one. */
const OF_A_SHEET = ['pen', 'hand', 'device']
const command = computed(() => {
  const { kind: of, binned_at } = thing.value ?? { kind: '' }
  return binned_at || (!desk.sheet && OF_A_SHEET.includes(of)) ? undefined : GESTURE_ACTIONS[of]
})
const follow = (use: { kind: string; id: string }) => void cabinet.openThing(use.kind, use.id)
</script>

<template>
  <aside ref="card" class="card-of" :class="{ stale: cabinet.busy }" aria-label="The thing looked at">
    <p v-if="!thing" class="book first">Press a thing to see where it is used and how it came to be.</p>
    <template v-else>
      <button type="button" class="plain-button back" @click="cabinet.close()">Back to the list</button>
      <ThingPicture :key="`${thing.kind} ${thing.id} ${thing.name}`" :thing />
      <h2 class="book">{{ thing.name }}</h2>
      <p class="small">
        {{ kind?.words }}{{ thing.made_at ? `, made ${when(thing.made_at)}` : ''
        }}{{ thing.binned_at ? `, in the bin since ${when(thing.binned_at)}` : '' }}
      </p>
      <template v-if="!thing.binned_at">
        <label v-if="kind?.renames" class="small"
          >Name <KeptInput :value="thing.name" needed maxlength="80" aria-label="Name of the thing" @change="rename"
        /></label>
        <label class="small"
          >Note <KeptInput :value="thing.note" maxlength="200" aria-label="Note on the thing" @change="note"
        /></label>
      </template>
      <div class="commands">
        <DoWord v-if="command" class="strong" :does="() => desk.attempt(command![1])">
          {{ command[0] }}
        </DoWord>
        <DoWord v-if="kind?.copies && !thing.binned_at" :does="copy">Copy it</DoWord>
        <DoWord :does="takeOut">Take it out</DoWord>
        <button
          v-if="cabinet.detail?.hand || cabinet.detail?.device"
          type="button"
          class="word-button"
          :aria-expanded="editing"
          @click="editing = !editing"
        >
          In numbers
        </button>
        <DoWord v-if="kind?.bins" :does="() => bin(!thing!.binned_at)">
          {{ thing.binned_at ? 'Put it back' : 'To the bin' }}
        </DoWord>
      </div>
      <p class="small" role="status">{{ said }}</p>
      <RecordForm v-if="editing" :key="thing.id" />
      <PenHistory v-if="cabinet.detail?.history.length" :history="cabinet.detail.history" />
      <template v-if="!['press fit', 'palm rules', 'contacts', 'felt'].includes(thing.kind)">
        <h3 class="book">Where it is used</h3>
        <p v-if="!cabinet.detail?.uses.length" class="small">Nowhere.</p>
        <ul>
          <li v-for="u in cabinet.detail?.uses" :key="`${u.kind} ${u.id} ${u.words}`">
            <span v-if="u.kind === 'roll'">the roll {{ u.name }}</span>
            <button v-else type="button" class="plain-button" @click="follow(u)">{{ u.name }}</button>
            <span class="small">{{ u.words }}{{ u.binned ? ', in the bin' : '' }}</span>
          </li>
        </ul>
      </template>
      <ForOthers v-if="thing.kind === 'pen' && !thing.binned_at && desk.sheet" :key="thing.id" />
    </template>
  </aside>
</template>

<style scoped>
.card-of {
  overflow-y: auto;
  padding: 0 4px 16px 0;
  scrollbar-width: thin;
}
.first {
  padding-top: 12px;
  font-style: italic;
}
h2,
h3 {
  margin: 6px 0 0;
  font-size: 20px;
  font-weight: 500;
  overflow-wrap: anywhere;
}
h3 {
  font-size: 17px;
  font-style: italic;
}
label {
  display: grid;
}
.back {
  display: none;
}
.commands {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  padding: 10px 0 4px;
}
ul {
  margin: 0;
  padding: 0;
  list-style: none;
}
li {
  display: flex;
  gap: 10px;
  align-items: baseline;
  justify-content: space-between;
  border-top: var(--line) solid var(--rule);
}
li > :first-child {
  min-width: 0;
  color: var(--ink);
}
li > .small {
  flex: none;
}
@media (max-width: 900px) {
  .back {
    display: block;
  }
  .card-of {
    overflow: visible;
    padding-top: 12px;
    border-top: var(--line) solid var(--rule);
  }
}
</style>

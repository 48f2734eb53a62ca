<script setup lang="ts">
import { useMediaQuery } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useDesk } from '@/stores/desk'
import DeviceOutline from './DeviceOutline.vue'
import HandPicture from './HandPicture.vue'
import PaperSwatch from './PaperSwatch.vue'

/** An empty desk: who writes on what, and what mostly, in a few presses; each answer is a part of the sentence. */
const desk = useDesk()
const HANDS = [
  { side: 'left', hooked: false, words: 'left hand' },
  { side: 'left', hooked: true, words: 'left hand, hooked above its line' },
  { side: 'right', hooked: false, words: 'right hand' },
  { side: 'right', hooked: true, words: 'right hand, hooked above its line' },
] as const
const uses = ref<Schemas['FirstUse'][]>([])
const hand = shallowRef<(typeof HANDS)[number]>()
const device = ref<string | null>(null)
const use = ref('')
const busy = ref(false)
const slow = useMediaQuery('(update: slow), (monochrome)')
const finger = useMediaQuery('(any-pointer: coarse)')
const others = ref(false)
const device_name = computed(() => desk.desk?.devices.find((d) => d.id === device.value)?.device.name ?? 'this screen')

onMounted(async () => {
  const first = await desk.attempt(() => take(api.GET('/api/desk/first')))
  uses.value = first?.uses ?? []
  use.value = uses.value[0]?.name ?? ''
})

async function begin(asked: boolean) {
  busy.value = true
  await desk.attempt(async () => {
    const body: Schemas['FirstDesk'] = {
      side: (asked && hand.value?.side) || 'right',
      hooked: !!asked && !!hand.value?.hooked,
      device_id: asked ? device.value : null,
      screen: slow.value ? 'paper' : finger.value ? 'touch' : 'mouse',
      use: (asked && use.value) || uses.value[0]?.name || 'quick notes',
    }
    desk.desk = await take(api.POST('/api/desk/first', { body }))
  })
  busy.value = false
}
</script>

<template>
  <section class="first station" aria-label="The first minute">
    <fieldset>
      <legend class="book">Which hand writes?</legend>
      <div class="tiles">
        <button
          v-for="h in HANDS"
          :key="h.words"
          type="button"
          class="tile"
          :aria-pressed="h === hand"
          @click="hand = h"
        >
          <HandPicture :side="h.side" :hooked="h.hooked" /><span>{{ h.words }}</span>
        </button>
      </div>
    </fieldset>
    <fieldset>
      <legend class="book">What mostly?</legend>
      <div class="tiles">
        <button
          v-for="u in uses"
          :key="u.name"
          type="button"
          class="tile"
          :aria-pressed="u.name === use"
          @click="use = u.name"
        >
          <PaperSwatch :paper="u.paper" :width="64" :height="52" />
          <span>{{ u.name }}</span><span class="small">{{ u.help }}</span>
        </button>
      </div>
    </fieldset>
    <fieldset>
      <legend class="book">On what?</legend>
      <div class="tiles">
        <button type="button" class="tile short" :aria-pressed="device === null" @click="device = null">
          <span>this screen</span><span class="small">measured when you wish</span>
        </button>
        <button type="button" class="tile short" :aria-expanded="others" @click="others = !others">
          <span>{{ device === null ? 'a stand-in' : device_name }}</span><span class="small"
            >for a device that is not here</span
          >
        </button>
      </div>
      <div v-if="others" class="tiles">
        <button
          v-for="d in desk.desk?.devices"
          :key="d.id"
          type="button"
          class="tile"
          :aria-pressed="d.id === device"
          @click="device = d.id"
        >
          <DeviceOutline :device="d.device" /><span class="small">{{ d.device.name }}</span>
        </button>
      </div>
    </fieldset>
    <div class="go">
      <button type="button" class="word-button strong" :disabled="!hand || busy" @click="begin(true)">
        Put the sheet down
      </button>
      <button type="button" class="word-button" :disabled="busy" @click="begin(false)">Just let me write</button>
      <p class="small">Nothing here can be wrong: each answer is a part of the sentence above, to be changed there.</p>
      <RouterLink to="/cabinet?way=in" class="word-button">Bring in what you have elsewhere</RouterLink>
    </div>
  </section>
</template>

<style scoped>
.first {
  height: 100%;
  overflow-y: auto;
  padding: 20px 32px;
  display: flex;
  flex-direction: column;
  gap: 14px;
  max-width: 860px;
  margin: 0 auto;
}
fieldset {
  border: 0;
  margin: 0;
  padding: 0;
  min-width: 0;
}
legend {
  font-size: 19px;
  font-style: italic;
  padding: 0;
  margin-bottom: 6px;
}
.tiles {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(150px, 1fr));
  gap: 10px;
}
.tiles + .tiles {
  margin-top: 10px;
}
.tile {
  display: grid;
  justify-items: center;
  align-content: center;
  gap: 2px;
  min-height: 124px;
  padding: 8px;
  border: var(--line) solid var(--edge);
  border-radius: var(--corner);
  background: var(--card);
  line-height: 1.25;
}
.tile.short {
  min-height: 60px;
}
.tile[aria-pressed='true'] {
  outline: 3px solid var(--accent);
  outline-offset: -3px;
  font-weight: 650;
}
.go {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 12px;
  padding-bottom: 8px;
}
.go p {
  flex: 1 1 240px;
}

@media (max-width: 560px) {
  .first {
    padding: 12px 16px;
  }
  .tiles {
    grid-template-columns: 1fr 1fr;
  }
}
</style>

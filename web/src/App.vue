<script setup lang="ts">
import { computed, defineAsyncComponent, onMounted, ref, watchEffect } from 'vue'
import { useEventListener } from '@vueuse/core'
import { useRoute, useRouter } from 'vue-router'
import KeyList from './components/KeyList.vue'
import PenRoll from './components/PenRoll.vue'
import ChangeNotice from './components/ChangeNotice.vue'
import TheSentence from './components/TheSentence.vue'
import TheStations from './components/TheStations.vue'
import WaitSign from './components/WaitSign.vue'
import { useEscapeFolds, useEscapePassesLists } from '@/composables/use-escape'
import { useHeldPage } from '@/composables/use-held-page'
import { useInAPause } from '@/composables/use-in-a-pause'
import { useChangeEvents } from '@/composables/use-change-events'
import { useSurface } from '@/composables/use-surface'
import { STATIONS } from './stations'
import { useGestureActions } from './stores/gesture-actions'
import { useSelection } from './stores/selection'
import { useDesk } from './stores/desk'
import { SIZES, useFrame } from './stores/frame'
import { useInk } from './stores/ink'
import { useMirrorShow } from './stores/mirror'

const FirstMinute = defineAsyncComponent(() => import('./components/FirstMinute.vue'))
const desk = useDesk()
const selection = useSelection()
const ink = useInk()
const frame = useFrame()
const mirror = useMirrorShow()
const gestures = useGestureActions()
watchEffect(() => document.documentElement.style.setProperty('--words', String(SIZES[frame.words] ?? 1)))
const route = useRoute()
const router = useRouter()
const keys = ref(false)
/** The station that was pressed, until its screen is here. */
const going = ref('')
router.beforeEach((to, from) => void (to.name !== from.name && (going.value = String(to.name))))
router.afterEach(() => void (going.value = ''))
router.onError(() => void (going.value = ''))
const goingTo = computed(() => STATIONS.find((s) => s.path === going.value)?.word)
const told = useInAPause(() => !!(desk.trouble || desk.news || desk.clash || ink.asks))
useSurface()
useChangeEvents()
useHeldPage()
useEscapePassesLists()
useEscapeFolds()

onMounted(async () => {
  await desk.load()
  await ink.resume()
  await mirror.look()
})

function pickByKey(digit: string) {
  const pen = desk.roll[digit === '0' ? 9 : Number(digit) - 1]
  if (!pen) return
  // the key of the pen in hand takes the one before again
  const wanted = pen.id === desk.sheet?.pen_id && !selection.ids.length ? desk.penBefore : pen.id
  if (wanted && desk.desk?.pens.some((p) => p.id === wanted)) void desk.attempt(() => selection.takePen(wanted))
}

useEventListener(window, 'focus', () => desk.desk && void desk.lookAgain().catch(() => undefined))

useEventListener('keydown', (event: KeyboardEvent) => {
  const typing =
    event.target instanceof HTMLElement &&
    event.target.closest('input, textarea, [contenteditable], [role=slider], [role=listbox]')
  if (typing || event.ctrlKey || event.metaKey || event.altKey) return
  gestures.byKey(event.key)
  if (/^\d$/.test(event.key)) pickByKey(event.key)
  else if (event.key === 'f' || event.key === 'F') frame.fullScreen()
  else if (event.key === '?') keys.value = !keys.value
  else if (event.key === '[' || event.key === ']') {
    const at = STATIONS.findIndex((s) => s.path === route.name)
    const next = STATIONS[at + (event.key === ']' ? 1 : -1)]
    if (next) void router.push(`/${next.path}`)
  }
})
</script>

<template>
  <div class="frame" :class="[`stations-${desk.stationSide}`, `roll-${frame.rollPlace}`, { folded: frame.rollFolded }]">
    <TheSentence class="top" :covered="told" />
    <div class="news"><ChangeNotice v-if="told" /></div>
    <div class="body">
      <TheStations class="side" @keys="keys = !keys" />
      <main class="middle">
        <WaitSign v-if="goingTo" class="going" :words="`${goingTo} is on its way`" />
        <RouterView v-if="desk.sheet || (desk.desk && route.name === 'cabinet')" />
        <FirstMinute v-else-if="desk.desk" />
      </main>
      <PenRoll class="pens" />
    </div>
    <KeyList v-if="keys" @close="keys = false" />
  </div>
</template>

<style scoped>
.frame {
  --roll: 82px;
  position: relative;
  display: grid;
  height: 100%;
  grid-template: 'top' 64px 'body' minmax(0, 1fr) / minmax(0, 1fr);
}
.frame.folded {
  --roll: 44px;
}
/* stations beside, the roll on the side that was chosen */
.body {
  grid-area: body;
  display: grid;
  min-height: 0;
  grid-template: 'side head' auto 'side middle' minmax(0, 1fr) 'side foot' auto / 124px minmax(0, 1fr);
}
.stations-right .body {
  grid-template: 'head side' auto 'middle side' minmax(0, 1fr) 'foot side' auto / minmax(0, 1fr) 124px;
}
.roll-left .body {
  grid-template: 'side left middle' minmax(0, 1fr) / 124px calc(var(--roll) + 34px) minmax(0, 1fr);
}
.roll-right .body {
  grid-template: 'side middle right' minmax(0, 1fr) / 124px minmax(0, 1fr) calc(var(--roll) + 34px);
}
.stations-right.roll-left .body {
  grid-template: 'left middle side' minmax(0, 1fr) / calc(var(--roll) + 34px) minmax(0, 1fr) 124px;
}
.stations-right.roll-right .body {
  grid-template: 'middle right side' minmax(0, 1fr) / minmax(0, 1fr) calc(var(--roll) + 34px) 124px;
}
.pens {
  min-height: var(--roll);
}
.roll-foot .pens {
  grid-area: foot;
  height: var(--roll);
}
.roll-head .pens {
  grid-area: head;
  height: var(--roll);
}
.roll-left .pens {
  grid-area: left;
}
.roll-right .pens {
  grid-area: right;
}

.top {
  grid-area: top;
}
.side {
  grid-area: side;
}
.middle {
  grid-area: middle;
  min-height: 0;
  position: relative;
}

/* over the station that is left */
.going {
  position: absolute;
  z-index: 18;
  inset: 0 0 auto;
  padding: 20px 32px;
  background: var(--paper);
}

/* in the place of the sentence and takes no room: the page must not move as words come and go */
.news {
  grid-area: top;
  position: absolute;
  z-index: 30;
  inset: 0 252px auto 0;
}

@media (max-width: 900px) {
  .frame {
    grid-template-rows: auto minmax(0, 1fr);
  }
  .news {
    right: 0;
  }
  .frame .body.body {
    grid-template: 'head' auto 'middle' minmax(0, 1fr) 'foot' auto 'side' auto / minmax(0, 1fr);
  }
}
@media (max-width: 560px) {
  /* the pens fold to the one in hand */
  .roll-foot .pens,
  .roll-head .pens {
    height: auto;
    min-height: 56px;
  }
}
</style>

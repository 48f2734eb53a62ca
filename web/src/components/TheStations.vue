<script setup lang="ts">
import { computed, defineAsyncComponent, ref } from 'vue'
import { STATIONS } from '@/stations'
import { useDesk, type Surface } from '@/stores/desk'
import { useFrame } from '@/stores/frame'
import FrameSheet from './FrameSheet.vue'

// what only helps beside a server comes when it is asked for
const OtherScreens = defineAsyncComponent(() => import('./OtherScreens.vue'))
const TakeOut = defineAsyncComponent(() => import('./TakeOut.vue'))
defineEmits<{ keys: [] }>()
const desk = useDesk()
const taking = ref(false)
const arranging = ref(false)
const inviting = ref(false)
const frame = useFrame()
const canFill = document.fullscreenEnabled
const shown = computed(() => STATIONS.filter((s) => !frame.hidden.includes(s.path)))
const SURFACES: Surface[] = ['auto', 'paper', 'night', 'e-ink']
const next = () =>
  desk.setSurface(SURFACES[(SURFACES.indexOf((desk.desk?.surface ?? 'auto') as Surface) + 1) % SURFACES.length]!)
</script>

<template>
  <nav aria-label="Stations" :class="desk.stationSide">
    <ul>
      <li v-for="s in shown" :key="s.path">
        <RouterLink :to="`/${s.path}`" active-class="here">{{ s.word }}</RouterLink>
      </li>
    </ul>
    <div class="low">
      <button type="button" class="plain-button" :aria-expanded="taking" @click="taking = !taking">Take out</button>
      <button type="button" class="plain-button" @click="next">Surface: {{ desk.desk?.surface ?? 'auto' }}</button>
      <button type="button" class="plain-button" :aria-expanded="arranging" @click="arranging = !arranging">
        Frame
      </button>
      <button type="button" class="plain-button" :aria-expanded="inviting" @click="inviting = !inviting">
        Screens
      </button>
      <button v-if="canFill" type="button" class="plain-button filled" @click="frame.fullScreen()">Whole screen</button>
      <button type="button" class="plain-button keys" @click="$emit('keys')">Keys</button>
    </div>
    <TakeOut v-if="taking" @close="taking = false" />
    <FrameSheet v-if="arranging" @close="arranging = false" />
    <OtherScreens v-if="inviting" @close="inviting = false" />
  </nav>
</template>

<style scoped>
nav {
  display: flex;
  flex-direction: column;
  justify-content: space-between;
  padding: 18px 0 10px;
  border-right: var(--line) solid var(--rule);
}

nav.right {
  border-right: 0;
  border-left: var(--line) solid var(--rule);
}
ul {
  list-style: none;
}

a {
  display: flex;
  align-items: center;
  min-height: var(--target);
  padding: 0 24px 0 28px;
  color: var(--graphite);
  text-decoration: none;
  white-space: nowrap;
  border-left: 4px solid transparent;
}

a:hover {
  color: var(--ink);
}
a.here {
  color: var(--ink);
  font-weight: 650;
  border-left-color: var(--accent);
}
.low {
  display: grid;
  padding: 0 8px 0 32px;
}
.low button {
  font-size: var(--small);
}

@media (max-width: 900px) {
  nav,
  nav.right {
    flex-direction: row;
    align-items: center;
    padding: 0 12px;
    border: 0;
    border-top: var(--line) solid var(--rule);
  }
  ul {
    display: flex;
  }
  a {
    padding: 0 9px;
    border-left: 0;
    border-bottom: 4px solid transparent;
  }
  a.here {
    border-bottom-color: var(--accent);
  }
  .low {
    display: flex;
    gap: 12px;
    padding: 0;
  }
  .keys {
    display: none;
  }
}

@media (max-width: 560px) {
  nav,
  nav.right {
    flex-wrap: wrap;
    padding: 0 4px;
  }
  ul {
    flex-wrap: wrap;
  }
  a {
    padding: 0 5px;
    font-size: var(--small);
  }
  .low {
    padding: 0 9px;
  }
  .filled {
    display: none;
  }
}
</style>

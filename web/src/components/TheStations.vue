<script setup lang="ts">
import { onClickOutside } from '@vueuse/core'
import { ElOption, ElSelect } from 'element-plus'
import { computed, defineAsyncComponent, ref, useTemplateRef, watch } from 'vue'
import { useRoute } from 'vue-router'
import { STATIONS } from '@/stations'
import { useDesk, type Surface } from '@/stores/desk'
import { useFrame } from '@/stores/frame'
import SheetLine from './SheetLine.vue'

// what only helps beside a server comes when it is asked for
const FrameSheet = defineAsyncComponent(() => import('./FrameSheet.vue'))
const OtherScreens = defineAsyncComponent(() => import('./OtherScreens.vue'))
const TakeOut = defineAsyncComponent(() => import('./TakeOut.vue'))
defineEmits<{ keys: [] }>()
const desk = useDesk()
const taking = ref(false)
const arranging = ref(false)
const inviting = ref(false)
const frame = useFrame()
const canFill = document.fullscreenEnabled
const route = useRoute()
const nav = useTemplateRef<HTMLElement>('nav')
const here = computed(() => STATIONS.find((s) => s.path === route.name)?.word ?? 'Stations')
const fold = () => frame.unfolded === 'stations' && (frame.unfolded = undefined)
onClickOutside(nav, fold)
watch(
  () => route.name,
  () => (frame.unfolded = undefined),
)
const shown = computed(() => STATIONS.filter((s) => !frame.hidden.includes(s.path)))
const SURFACES: [Surface, string][] = [
  ['auto', 'as the system says'],
  ['paper', 'paper'],
  ['night', 'night'],
  ['e-ink', 'e-ink'],
]
</script>

<template>
  <nav ref="nav" aria-label="Stations" :class="[desk.stationSide, { small: frame.small }]">
    <div v-if="frame.small" class="line">
      <button
        type="button"
        class="station-word"
        :aria-expanded="frame.unfolded === 'stations'"
        @click="frame.turn('stations')"
      >
        {{ here }}
      </button>
      <SheetLine v-if="route.name === 'sheet'" />
    </div>
    <div v-show="!frame.small || frame.unfolded === 'stations'" class="all">
      <ul>
        <li v-for="s in shown" :key="s.path">
          <RouterLink :to="`/${s.path}`" active-class="here">{{ s.word }}</RouterLink>
        </li>
      </ul>
      <div class="low">
        <button type="button" class="plain-button" :aria-expanded="taking" @click="taking = !taking">Take out</button>
        <ElSelect
          class="surface"
          :model-value="desk.desk?.surface ?? 'auto'"
          aria-label="Surface"
          @change="(surface: Surface) => desk.setSurface(surface)"
        >
          <template #label="{ value }">Surface: {{ value }}</template>
          <ElOption v-for="[surface, words] in SURFACES" :key="surface" :value="surface" :label="words" />
        </ElSelect>
        <button type="button" class="plain-button" :aria-expanded="arranging" @click="arranging = !arranging">
          Frame
        </button>
        <button type="button" class="plain-button" :aria-expanded="inviting" @click="inviting = !inviting">
          Screens
        </button>
        <button v-if="canFill" type="button" class="plain-button filled" @click="frame.fullScreen()">
          Whole screen
        </button>
        <button type="button" class="plain-button keys" @click="$emit('keys')">Keys</button>
      </div>
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
.all {
  display: flex;
  flex: 1;
  flex-direction: column;
  justify-content: space-between;
  min-width: 0;
}
.low {
  display: grid;
  padding: 0 0 0 32px;
}
:root[data-surface='e-ink'] #desk .surface :deep(.el-select__wrapper) {
  border: 0;
  box-shadow: none;
}
.surface :deep(.el-select__suffix) {
  display: none;
}
.surface :deep(.el-select__selected-item) {
  color: var(--graphite);
}
.surface :deep(.el-select__wrapper) {
  min-height: var(--target);
  padding: 0;
  font-size: var(--small);
  box-shadow: none;
  background: none;
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
  .all {
    flex-direction: row;
    align-items: center;
  }
  .surface {
    width: 112px;
  }
  .low button {
    white-space: nowrap;
  }
  .filled {
    display: none;
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

/* on a telephone: the word of the station, and beside it what the sheet needs at hand; the others open over the page */
@media (max-width: 560px) {
  nav.small {
    position: relative;
    padding: 0 12px;
  }
  .line {
    display: flex;
    flex: 1;
    align-items: center;
    justify-content: space-between;
    gap: 12px;
    min-width: 0;
  }
  .station-word {
    min-height: var(--target);
    font-weight: 650;
    text-decoration: underline 3px var(--accent);
    text-underline-offset: 6px;
  }
  .small .all {
    position: absolute;
    z-index: 25;
    inset: auto 0 100%;
    flex-direction: column;
    align-items: stretch;
    padding: 8px 16px;
    background: var(--card);
    border-top: var(--line) solid var(--edge);
  }
  .small ul {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
  }
  .small .low {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 0 12px;
    padding-top: 6px;
    border-top: var(--line) solid var(--rule);
  }
  .filled {
    display: none;
  }
}
</style>

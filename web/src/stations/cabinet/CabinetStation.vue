<script setup lang="ts">
import WaitSign from '@/components/WaitSign.vue'
import { useLocalStorage } from '@vueuse/core'
import { watch } from 'vue'
import { useRoute } from 'vue-router'
import { useCabinet } from '@/stores/cabinet'
import { useDesk } from '@/stores/desk'
import BackupList from './BackupList.vue'
import ComeIn from './ComeIn.vue'
import FindBar from './FindBar.vue'
import TheBin from './TheBin.vue'
import ThingCard from './ThingCard.vue'
import ThingList from './ThingList.vue'
import WordTabs from '@/components/WordTabs.vue'

/** Everything that is kept, with its history; what was let go of; and how all of it was, on other days. */
const WAYS = { kept: 'what is kept', bin: 'the bin', backups: 'backups', in: 'bring in' } as const
const desk = useDesk()
const cabinet = useCabinet()
void cabinet.need()
const way = useLocalStorage<keyof typeof WAYS>('gray-quill-cabinet-way', 'kept')
const route = useRoute()
const asked = String(route.query.way)
if (asked in WAYS) way.value = asked as keyof typeof WAYS
watch(
  way,
  (now) => {
    Object.assign(cabinet.wanted, { binned: now === 'bin', first: 0 })
    cabinet.close()
    cabinet.look()
  },
  { immediate: true },
)
</script>

<template>
  <section v-if="cabinet.info" class="station" :class="desk.stationSide">
    <div class="main">
      <WordTabs v-model="way" :tabs="WAYS" label="What of the cabinet is shown" />
      <div v-if="way === 'kept' || way === 'bin'" class="found">
        <TheBin v-if="way === 'bin'" />
        <FindBar />
        <ThingList />
      </div>
      <BackupList v-else-if="way === 'backups'" />
      <ComeIn v-else />
    </div>
    <ThingCard v-if="way === 'kept' || way === 'bin'" />
  </section>
  <section v-else class="station"><WaitSign words="The cabinet is being opened" /></section>
</template>

<style scoped>
.station {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 340px;
  gap: 32px;
  height: 100%;
  padding: 14px 32px 0;
}
.station.left {
  grid-template-columns: minmax(0, 1fr) 340px;
}
.main {
  display: grid;
  grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
  min-height: 0;
}
.found {
  overflow-y: auto;
  padding: 0 4px 16px 0;
  scrollbar-width: thin;
}
.main:last-child {
  grid-column: 1 / -1;
}
@media (max-width: 900px) {
  .station {
    display: block;
    overflow-y: auto;
    padding: 12px 16px;
  }
  .found {
    overflow: visible;
  }
}
</style>

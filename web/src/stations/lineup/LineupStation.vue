<script setup lang="ts">
import WaitSign from '@/components/WaitSign.vue'
import { useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'
import { useDesk } from '@/stores/desk'
import { useLineup } from '@/stores/lineup'
import BlindPairs from './BlindPairs.vue'
import ChooseTuning from './ChooseTuning.vue'
import RankColumn from './RankColumn.vue'
import WhoIsLined from './WhoIsLined.vue'
import WordTabs from '@/components/WordTabs.vue'

/** Which pen: by what can be measured, by pairs judged blind, or by choosing with no numbers at all. */
const WAYS = { rank: 'rank', pairs: 'blind pairs', choose: 'tune by choosing' } as const
const desk = useDesk()
const lineup = useLineup()
void lineup.need()
const way = useLocalStorage<keyof typeof WAYS>('gray-quill-lineup-way', 'rank')
/** Who is lined up is not asked while lines are chosen between. */
const whole = computed(() => way.value === 'choose' || (way.value === 'pairs' && !!lineup.judging))
</script>

<template>
  <section v-if="lineup.info" class="station" :class="[desk.stationSide, { whole }]">
    <WhoIsLined v-if="!whole" :only="way === 'pairs'" />
    <div class="main">
      <WordTabs v-model="way" :tabs="WAYS" label="How pens are told apart" />
      <RankColumn v-if="way === 'rank'" />
      <BlindPairs v-else-if="way === 'pairs'" />
      <ChooseTuning v-else />
    </div>
  </section>
  <section v-else class="station"><WaitSign words="The line-up is being laid out" /></section>
</template>

<style scoped>
.station {
  display: grid;
  grid-template-columns: 270px minmax(0, 1fr);
  gap: 32px;
  height: 100%;
  padding: 14px 32px 0;
}
.station.right {
  grid-template-columns: minmax(0, 1fr) 270px;
}
.station.whole {
  grid-template-columns: minmax(0, 1fr);
}
.station.right > :first-child:not(.main) {
  order: 2;
}
.main {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  min-height: 0;
}
@media (max-width: 900px) {
  .station,
  .station.right {
    display: block;
    overflow-y: auto;
    padding: 12px 16px;
  }
}
</style>

<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { ElDatePicker, ElInput, ElOption, ElSelect } from 'element-plus'
import { computed, watch } from 'vue'
import { useCabinet } from '@/stores/cabinet'

/** Words, kind, days and use: each narrows what is found. */
const cabinet = useCabinet()
const USES = { any: 'used or not', used: 'used somewhere', unused: 'used nowhere' } as const
const wanted = cabinet.wanted
const kinds = computed(() =>
  (cabinet.info?.kinds ?? [])
    .map((k) => ({ ...k, count: cabinet.found?.by_kind[k.name] ?? 0 }))
    .filter((k) => k.count || k.name === wanted.kind),
)
const all = computed(() => Object.values(cabinet.found?.by_kind ?? {}).reduce((sum, n) => sum + n, 0))
const soon = useDebounceFn(cabinet.look, 150)
watch(
  () => [wanted.words, wanted.kind, wanted.since, wanted.until, wanted.use],
  () => {
    wanted.first = 0
    void soon()
  },
)
const days = computed({
  get: () => (wanted.since || wanted.until ? [wanted.since, wanted.until] : []),
  set: (range: string[] | null) => Object.assign(wanted, { since: range?.[0] ?? '', until: range?.[1] ?? '' }),
})
</script>

<template>
  <div class="bar" role="search">
    <ElInput v-model="wanted.words" class="words" clearable maxlength="200" aria-label="Words to look for">
      <template #prefix><span class="small">Look for</span></template>
    </ElInput>
    <ElDatePicker
      v-model="days"
      class="days"
      type="daterange"
      value-format="YYYY-MM-DD"
      start-placeholder="made since"
      end-placeholder="until"
      aria-label="Days of making"
    />
    <ElSelect v-model="wanted.use" class="use" aria-label="Use">
      <ElOption v-for="(words, key) in USES" :key="key" :value="key" :label="words" />
    </ElSelect>
  </div>
  <div class="kinds" role="group" aria-label="Kind">
    <button type="button" class="plain-button" :aria-pressed="!wanted.kind" @click="wanted.kind = ''">
      everything <span class="small">{{ all }}</span>
    </button>
    <button
      v-for="k in kinds"
      :key="k.name"
      type="button"
      class="plain-button"
      :aria-pressed="wanted.kind === k.name"
      @click="wanted.kind = wanted.kind === k.name ? '' : k.name"
    >
      {{ k.many }} <span class="small">{{ k.count }}</span>
    </button>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 12px;
  margin-top: 8px;
}
.words {
  flex: 1 1 240px;
}
.bar :deep(.days) {
  flex: 0 1 260px;
  height: var(--target);
}
.use {
  flex: 0 0 170px;
}
.kinds {
  display: flex;
  flex-wrap: wrap;
  gap: 0 18px;
}
.kinds [aria-pressed='true'] {
  color: var(--ink);
  border-bottom: 3px solid var(--accent);
}
</style>

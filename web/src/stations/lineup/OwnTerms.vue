<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { ElInput, ElOption, ElSelect } from 'element-plus'
import { ref } from 'vue'
import type { Schemas } from '@/api/client'
import NumberField from '@/components/NumberField.vue'
import { useLineup } from '@/stores/lineup'

/** What a candidate must have, and criteria of one's own, scored by hand. */
const props = defineProps<{ candidates: Schemas['LinedUp'][] }>()
const lineup = useLineup()
const mustKey = ref('')
function addMust(key: string) {
  const known = lineup.info?.criteria.find((c) => c.key === key)
  if (known)
    lineup.musts = [...lineup.musts.filter((m) => m.criterion !== key), { criterion: key, bound: known.nothing }]
  mustKey.value = ''
}
const isShare = (key: string) => lineup.info?.criteria.find((c) => c.key === key)?.reading.unit === '%'
const least = (key: string) =>
  lineup.info?.criteria.find((c) => c.key === key)?.reading.better === 'less' ? 'at most' : 'at least'
const unitOf = (key: string) => lineup.info?.criteria.find((c) => c.key === key)?.reading.unit ?? ''
const ownName = ref('')
function addOwn() {
  const name = ownName.value.trim()
  if (!name || lineup.scored.some((o) => o.name === name)) return
  const points = Object.fromEntries(props.candidates.map((c) => [c.key, 50]))
  lineup.scored = [...lineup.scored, { name, points, note: '' }]
  lineup.add(name)
  ownName.value = ''
}
const score = (name: string, key: string, to: number) =>
  (lineup.scored = lineup.scored.map((o) => (o.name === name ? { ...o, points: { ...o.points, [key]: to } } : o)))
</script>

<template>
  <div>
    <div class="row">
      <span class="small">it must have</span>
      <span v-for="(m, k) in lineup.musts" :key="m.criterion" class="must small">
        {{ lineup.labelOf(m.criterion) }} {{ least(m.criterion) }}
        <NumberField
          :model-value="isShare(m.criterion) ? 100 * m.bound : m.bound"
          :label="`Bound of ${lineup.labelOf(m.criterion)}`"
          :unit="unitOf(m.criterion)"
          :decimals="2"
          @update:model-value="
            (v: number) =>
              (lineup.musts = lineup.musts.map((one, j) =>
                j === k ? { ...one, bound: isShare(one.criterion) ? v / 100 : v } : one,
              ))
          "
        />
        <button
          type="button"
          class="plain-button small"
          @click="lineup.musts = lineup.musts.filter((one) => one !== m)"
        >
          no must
        </button>
      </span>
      <ElSelect v-model="mustKey" placeholder="a criterion" aria-label="A must" style="width: 190px" @change="addMust">
        <ElOption v-for="c in lineup.info?.criteria" :key="c.key" :value="c.key" :label="c.reading.label" />
      </ElSelect>
    </div>
    <div v-for="o in lineup.scored" :key="o.name" class="own">
      <b>{{ o.name }}</b>
      <label v-for="c in candidates" :key="c.key" class="small"
        >{{ c.name }}
        <NumberField
          :model-value="o.points[c.key] ?? 0"
          :label="`${o.name} of ${c.name}`"
          :min="0"
          :max="100"
          :decimals="0"
          @update:model-value="(v: number) => score(o.name, c.key, v)"
      /></label>
      <button
        type="button"
        class="plain-button small"
        @click="lineup.scored = lineup.scored.filter((one) => one.name !== o.name)"
      >
        take it away
      </button>
    </div>
    <div class="row">
      <ElInput
        v-model="ownName"
        maxlength="40"
        placeholder="feel, grip, price …"
        aria-label="A criterion of your own"
        style="width: 190px"
        @keydown.enter="addOwn"
      />
      <DoWord :disabled="!ownName.trim()" :does="addOwn">Score it by hand</DoWord>
    </div>
  </div>
</template>

<style scoped>
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  align-items: center;
  min-height: var(--target);
}
.must,
.own label {
  display: inline-flex;
  gap: 6px;
  align-items: center;
}
.own {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 18px;
  align-items: center;
}
</style>

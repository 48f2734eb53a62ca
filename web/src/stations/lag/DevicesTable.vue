<script setup lang="ts">
import { ElOption, ElSelect } from 'element-plus'
import { computed } from 'vue'
import type { Schemas } from '@/api/client'
import { roughly } from '@/lib/numbers'
import { useDesk } from '@/stores/desk'

/** Pens on devices: half of all ink is quicker than this. */
const props = defineProps<{ table: Schemas['Compared'][] }>()
const others = defineModel<string[]>({ required: true })
const desk = useDesk()
const pens = computed(() => [...new Set(props.table.map((c) => c.pen))])
const cell = (device: string, pen: string) => props.table.find((c) => c.device_id === device && c.pen === pen)
</script>

<template>
  <table>
    <thead>
      <tr class="small">
        <th scope="col">median, ms</th>
        <th v-for="p in pens" :key="p" scope="col">{{ p }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="d in desk.desk!.devices" :key="d.id" :class="{ here: d.id === desk.device?.id }">
        <th scope="row">{{ d.device.name }}</th>
        <td v-for="p in pens" :key="p" :data-cell="`${d.id}/${p}`" :title="cell(d.id, p)?.word">
          <b>{{ roughly(cell(d.id, p)?.p50_ms ?? 0) }}</b> <span class="small">{{ cell(d.id, p)?.word }}</span>
        </td>
      </tr>
    </tbody>
  </table>
  <ElSelect
    v-model="others"
    multiple
    :multiple-limit="4"
    collapse-tags
    collapse-tags-tooltip
    aria-label="Pens beside"
    class="others"
    ><ElOption v-for="p in desk.desk!.pens" :key="p.id" :value="p.id" :label="p.recipe.name"
  /></ElSelect>
</template>

<style scoped>
td .small {
  display: block;
}
.here th {
  font-weight: 650;
  color: var(--accent);
}
.others {
  width: 260px;
  margin-top: 6px;
}
</style>

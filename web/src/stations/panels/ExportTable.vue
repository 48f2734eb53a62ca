<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { inWords } from '@/lib/readings'
import { useDesk } from '@/stores/desk'

/** The sheet as it is sent out, at several dpi, beside what its writer sees on this panel. */
const props = defineProps<{ body: Schemas['ProofBody'] }>()
const desk = useDesk()
const found = shallowRef<Schemas['Exports']>()
const asked = useLatest(
  ({ sheet_id, device_id, panel, recipe, toning }: Schemas['ProofBody']) =>
    take(api.POST('/api/panels/exports', { body: { sheet_id, device_id, panel, recipe, toning } })),
  (answer) => (found.value = answer),
)
watch(
  () => props.body,
  (body) => void asked.want(body),
  { immediate: true },
)
const known = (key: string) => desk.reading('exported', key)!
const KEYS = ['edge_mm', 'faint', 'apart_l'] as const
const verdict = computed(() => {
  if (!found.value) return ''
  const soft = found.value.softest_dpi
  return soft === null
    ? 'no picture of it is softer than this panel shows it'
    : `a picture at ${soft} dpi is softer than this panel shows it: send a finer one, or vectors`
})
</script>

<template>
  <div :class="{ waits: asked.busy.value }" data-exports>
    <p v-if="!found" class="small">drawn as it is sent out …</p>
    <table v-else class="small">
      <thead>
        <tr>
          <th scope="col">looked at</th>
          <th v-for="key in KEYS" :key="key" scope="col" :title="known(key).help">{{ known(key).label }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="look in found.looks" :key="look.dpi" :data-dpi="look.dpi">
          <th scope="row">{{ look.dpi ? `picture, ${look.dpi} dpi` : 'on this panel' }}</th>
          <td v-for="key in KEYS" :key="key">{{ inWords(known(key), look[key]) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="found" class="verdict">{{ verdict }}</p>
  </div>
</template>

<style scoped>
.waits table {
  opacity: 0.5;
}
table {
  border-collapse: collapse;
  color: var(--ink);
}
th,
td {
  padding: 3px 16px 3px 0;
  text-align: left;
  font-weight: 400;
}
thead th {
  color: var(--graphite);
}
.verdict {
  margin: 6px 0 0;
  font: italic 15px/1.35 var(--book);
  color: var(--accent);
}
</style>

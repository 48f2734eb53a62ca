<script setup lang="ts">
import { ElOption, ElSelect } from 'element-plus'
import { computed, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import NumberField from '@/components/NumberField.vue'
import { useLatest } from '@/composables/use-latest'
import { inWords } from '@/lib/readings'
import { useDesk } from '@/stores/desk'
import { TIMES, useStrip } from '@/stores/strip'

/** How the strip is set, and how much calmer what was written in it is. */
const emit = defineEmits<{ line: [] }>()
const desk = useDesk()
const strip = useStrip()
const share = computed({ get: () => Math.round(100 * strip.before), set: (v) => (strip.before = v / 100) })
const read = shallowRef<Schemas['Calmer']>()
const reads = useLatest(
  ({ id, ids }: { id: string; ids: string[] }) =>
    take(api.POST('/api/sheets/{sheet_id}/calmer', { params: { path: { sheet_id: id } }, body: { ids } })),
  (answer) => (read.value = answer),
  () => undefined,
)
watch([() => desk.sheet?.ink, () => strip.ids.length], () => {
  if (desk.sheet && strip.ids.length) void reads.want({ id: desk.sheet.id, ids: strip.ids })
  else read.value = undefined
})
const words = computed(() => {
  const r = read.value
  if (!r || r.strip === null) return strip.ids.length ? 'Too little is written here yet to say how calm it is.' : ''
  const known = (key: string) => desk.reading('strip', key)!
  const here = `feet of letters ${inWords(known('strip'), r.strip)} of their height off the line`
  if (r.calmer === null || r.low === null || r.high === null) return `Here ${here}; nothing else to lay it beside.`
  const beside = `Here ${here}, elsewhere ${inWords(known('elsewhere'), r.elsewhere)}`
  if (r.low <= 1 && r.high >= 1) return `${beside}: no difference that can be told.`
  const times = `${inWords(known('calmer'), r.calmer)} (${r.low.toFixed(1)} to ${r.high.toFixed(1)})`
  return `${beside}: ${r.calmer > 1 ? 'calmer' : 'less calm'}, ${times}.`
})
</script>

<template>
  <div class="bar small" role="group" aria-label="Strip">
    <label
      >Enlarged
      <ElSelect v-model="strip.times" aria-label="Enlarged" style="width: 76px"
        ><ElOption v-for="k in TIMES" :key="k" :value="k" :label="`${k}×`" /></ElSelect
    ></label>
    <label>Moves on before the end <NumberField v-model="share" label="Moves on" unit="%" :min="5" :max="60" /></label>
    <label
      >Line to line, 0 as ruled
      <NumberField v-model="strip.pitchMm" label="Line to line" unit="mm" :min="0" :max="40" :decimals="1"
    /></label>
    <label
      >From the left
      <NumberField v-model="strip.leftMm" label="Lines begin" unit="mm" :min="0" :max="200" :decimals="1"
    /></label>
    <label
      >From the right
      <NumberField v-model="strip.rightMm" label="Lines end" unit="mm" :min="0" :max="200" :decimals="1"
    /></label>
    <button type="button" class="plain-button" @click="emit('line')">next line</button>
    <button type="button" class="plain-button" @click="strip.on = false">back to the page</button>
    <p class="words" role="status">{{ strip.full ? 'The page is full: put down a new page. ' : '' }}{{ words }}</p>
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: end;
  padding: 6px 0;
}
label {
  display: grid;
}
.words {
  flex: 1 0 100%;
  min-height: 20px;
}
</style>

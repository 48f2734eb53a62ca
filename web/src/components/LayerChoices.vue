<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import OnOff from '@/components/OnOff.vue'
import { ElOption, ElSelect } from 'element-plus'
import { computed, onMounted, ref, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import KeptInput from '@/components/KeptInput.vue'
import { useDesk } from '@/stores/desk'
import { useInk } from '@/stores/ink'
import ValueSlider from './ValueSlider.vue'

/** The sheet's layers from the top: which is written on, what each holds and how it lies on those below. */
type Layer = Schemas['Layer']
const desk = useDesk()
const ink = useInk()
const hold = ref<Schemas['LayersHold']>()
const layers = computed(() => desk.sheet?.layers ?? [])
const fromTop = computed(() => [...layers.value].reverse())
const field = (name: string) => hold.value?.fields.find((f) => f.name === name)
const counted = (n: number) => (n === 1 ? '1 stroke' : `${n} strokes`)

async function look() {
  const id = desk.sheet?.id
  if (!id) return
  const told = await take(api.GET('/api/sheets/{sheet_id}/layers', { params: { path: { sheet_id: id } } }))
  if (id === desk.sheet?.id) hold.value = told
}
onMounted(() => void desk.attempt(look))
watch([() => desk.sheet?.id, () => desk.sheet?.ink], () => void desk.attempt(look))

/** Keep these layers; one step of undo. */
async function keep(next: Layer[], on = desk.sheet!.layer, moved: Record<string, string[]> = {}) {
  // the pen never writes where nothing would be seen: on the nearest other layer then
  const free = next.filter((layer) => layer.shown && !layer.locked)
  const there = free.some((layer) => layer.id === on) ? on : (free.at(-1)?.id ?? on)
  const step = { layers: { layers: next, on: there, moved, saw: layers.value } }
  await desk.attempt(() => ink.change(desk.sheet!.id, step))
}
const set = (id: string, change: Partial<Layer>) =>
  keep(layers.value.map((layer) => (layer.id === id ? { ...layer, ...change } : layer)))
const BARE = { shown: true, locked: false, opacity: 1, blend: 'normal', clipped: false, cover: false }

function add() {
  const id = `layer-${crypto.randomUUID().slice(0, 8)}`
  const at = layers.value.findIndex((layer) => layer.id === desk.sheet!.layer) + 1
  const made = { ...BARE, id, name: `layer ${layers.value.length + 1}` }
  return keep([...layers.value.slice(0, at), made, ...layers.value.slice(at)], id)
}
/** The ready-made set goes over what is there. */
function addReady() {
  const fresh = (hold.value?.ready_made ?? []).filter((layer) => !layers.value.some((l) => l.id === layer.id))
  return keep([...layers.value, ...fresh], 'lines')
}
function shift(id: string, by: number) {
  const next = [...layers.value]
  const at = next.findIndex((layer) => layer.id === id)
  const [layer] = next.splice(at, 1)
  next.splice(at + by, 0, layer!)
  void keep(next)
}
const merge = (id: string) => keep(layers.value.filter((layer) => layer.id !== id))
const open = ref<string>()
const BLENDS = { normal: 'simply', multiply: 'darkening', screen: 'lightening' } as const
</script>

<template>
  <div class="layers">
    <section v-for="(layer, k) in fromTop" :key="layer.id" :class="{ now: layer.id === desk.sheet?.layer }">
      <div class="line">
        <KeptInput
          :value="layer.name"
          needed
          maxlength="30"
          aria-label="Name of the layer"
          @change="(name: string) => set(layer.id, { name })"
        />
        <span class="small count">{{ counted(hold?.held[layer.id] ?? 0) }}</span>
        <OnOff :model-value="layer.id === desk.sheet?.layer" @update:model-value="keep(layers, layer.id)"
          >written on</OnOff
        >
        <OnOff :model-value="layer.shown" @update:model-value="(shown) => set(layer.id, { shown })">shown</OnOff>
        <button
          type="button"
          class="plain-button"
          :aria-expanded="open === layer.id"
          @click="open = open === layer.id ? undefined : layer.id"
        >
          more
        </button>
      </div>
      <div v-if="open === layer.id" class="more">
        <ValueSlider
          v-if="field('opacity')"
          :field="field('opacity')!"
          :value="layer.opacity"
          @change="(opacity) => (layer.opacity = opacity)"
          @done="set(layer.id, { opacity: layer.opacity })"
        />
        <div class="acts">
          <ElSelect
            :model-value="layer.blend"
            aria-label="How it lies on what is below"
            style="width: 150px"
            @change="(blend: string) => set(layer.id, { blend })"
          >
            <ElOption v-for="(words, blend) in BLENDS" :key="blend" :value="blend" :label="words" />
          </ElSelect>
          <OnOff :model-value="layer.locked" @update:model-value="(locked) => set(layer.id, { locked })">locked</OnOff>
          <OnOff :model-value="layer.clipped" @update:model-value="(clipped) => set(layer.id, { clipped })"
            >only on ink below</OnOff
          >
          <OnOff :model-value="layer.cover" @update:model-value="(cover) => set(layer.id, { cover, shown: !cover })"
            >a study cover</OnOff
          >
          <button v-if="k > 0" type="button" class="plain-button" @click="shift(layer.id, 1)">up</button>
          <button v-if="k < fromTop.length - 1" type="button" class="plain-button" @click="shift(layer.id, -1)">
            down
          </button>
          <button v-if="fromTop.length > 1" type="button" class="plain-button" @click="merge(layer.id)">
            {{ k < fromTop.length - 1 ? `merge into ${fromTop[k + 1]!.name}` : `merge into ${fromTop[k - 1]!.name}` }}
          </button>
        </div>
      </div>
    </section>
    <div class="foot">
      <DoWord class="strong" :disabled="layers.length >= 12" :does="add"> A layer over this </DoWord>
      <DoWord v-if="!layers.some((l) => l.id === 'lines')" :disabled="layers.length > 9" :does="addReady">
        Rough, lines and shading
      </DoWord>
    </div>
  </div>
</template>

<style scoped>
.layers {
  display: grid;
}
section {
  border-top: var(--line) solid var(--rule);
  padding: 4px 8px;
}
.now {
  box-shadow: inset 4px 0 0 var(--accent);
}
:root[data-surface='e-ink'] .now {
  border-left: 6px solid var(--ink);
}
.line {
  display: grid;
  grid-template-columns: minmax(90px, 1fr) 84px auto auto auto;
  align-items: center;
  gap: 12px;
}
.more {
  padding: 4px 0 8px;
}
.acts,
.foot {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 4px 16px;
}
.foot {
  padding-top: 12px;
}
@media (max-width: 560px) {
  .line {
    grid-template-columns: 1fr auto auto auto;
  }
  .count {
    display: none;
  }
}
</style>

<script setup lang="ts">
import WaitSign from '@/components/WaitSign.vue'
import DoWord from '@/components/DoWord.vue'
import { useEventListener } from '@vueuse/core'
import { ElColorPicker, ElInput, ElOption, ElRadioButton, ElRadioGroup, ElSelect, ElSwitch } from 'element-plus'
import { computed, ref } from 'vue'
import PaletteSpots from '@/components/PaletteSpots.vue'
import PenSwatch from '@/components/PenSwatch.vue'
import ValueSlider from '@/components/ValueSlider.vue'
import { useDesk } from '@/stores/desk'
import { valueAt } from '@/stores/draft'
import { useWash } from '@/stores/wash'
import WashGrid from './WashGrid.vue'
import WashSet from './WashSet.vue'
import WashSolve from './WashSolve.vue'

const desk = useDesk()
const wash = useWash()
const view = ref<'grid' | 'set'>('grid')
const typed = ref('wings folded')
const paper = ref<string>()
const ownPaper = computed(() => paper.value ?? desk.sheet!.paper.colour!)
const field = (group: string, name: string) => (desk.desk?.recipe_fields[group] ?? []).find((f) => f.name === name)!
const now = (path: string) => valueAt(wash.recipe, path)
const kept = (path: string) => valueAt(wash.kept, path)
const SLIDERS = [
  ['body', 'opacity'],
  ['body', 'width_mm'],
  ['wash', 'straighten'],
] as const
const CHOICES = [
  ['wash', 'place'],
  ['wash', 'blend'],
  ['wash', 'tip.shape'],
  ['wash', 'straight_to'],
] as const
const FLAGS = [
  ['wash', 'build_up'],
  ['wash', 'hold_straight'],
] as const

function once(path: string, value: unknown) {
  wash.set(path, value)
  wash.done()
}

useEventListener('keydown', (event: KeyboardEvent) => {
  if (!(event.ctrlKey || event.metaKey) || (event.target as HTMLElement).closest('input[type=text], textarea')) return
  const key = event.key.toLowerCase()
  if (key === 'z' && event.shiftKey) wash.redo()
  else if (key === 'z') wash.undo()
  else if (key === 's') void wash.keep()
  else return
  event.preventDefault()
})
</script>

<template>
  <section v-if="wash.recipe && wash.pen && wash.ink" class="station framed" :class="desk.stationSide">
    <aside class="margin" aria-label="This wash">
      <div class="scrolls">
        <ElSelect :model-value="wash.pen.id" aria-label="Wash" @change="(id: string) => (wash.chosen = id)">
          <ElOption v-for="p in wash.washes" :key="p.id" :value="p.id" :label="p.recipe.name"
            ><span class="option"><PenSwatch :pen="p" />{{ p.recipe.name }}</span></ElOption
          >
        </ElSelect>
        <WashSolve :paper="ownPaper" :typed="typed" />
        <div class="controls">
          <label class="row"
            ><span :title="field('body', 'colour').help">Colour</span
            ><ElColorPicker
              :model-value="now('body.colour') as string"
              aria-label="Colour"
              @change="(v) => v && once('body.colour', v.toLowerCase())"
          /></label>
          <PaletteSpots
            :model-value="now('body.colour') as string"
            label="Own colours"
            @update:model-value="(v) => once('body.colour', v)"
          />
          <ValueSlider
            v-for="[group, name] in SLIDERS"
            :key="name"
            :field="name === 'opacity' ? { ...field(group, name), label: 'Strength' } : field(group, name)"
            :value="now(`${group}.${name}`) as number"
            :kept="kept(`${group}.${name}`) as number"
            @change="(v) => wash.set(`${group}.${name}`, v)"
            @done="wash.done"
          />
          <label v-for="[group, name] in CHOICES" :key="name" class="row"
            ><span :title="field(group, name).help">{{ field(group, name).label }}</span>
            <ElSelect
              :model-value="now(`${group}.${name}`) as string"
              :aria-label="field(group, name).label"
              @change="(v: string) => once(`${group}.${name}`, v)"
            >
              <ElOption v-for="o in field(group, name).options" :key="o" :value="o" />
            </ElSelect>
          </label>
          <ValueSlider
            v-if="now('wash.tip.shape') === 'chisel' || now('wash.tip.shape') === 'ellipse'"
            :field="field('wash', 'tip.angle_deg')"
            :value="now('wash.tip.angle_deg') as number"
            :kept="kept('wash.tip.angle_deg') as number"
            @change="(v) => wash.set('wash.tip.angle_deg', v)"
            @done="wash.done"
          />
          <label v-for="[group, name] in FLAGS" :key="name" class="row flag"
            ><span :title="field(group, name).help">{{ field(group, name).label }}</span>
            <ElSwitch
              :model-value="now(`${group}.${name}`) as boolean"
              :aria-label="field(group, name).label"
              @change="(v) => once(`${group}.${name}`, v)"
          /></label>
          <label class="row flag"
            ><span title="Strokes of this wash do not deepen where they cross; the Pen station's Streaks says how much"
              >Its strokes lie as one layer</span
            >
            <ElSwitch
              :model-value="now('wash.streaks') === 0"
              aria-label="Its strokes lie as one layer"
              @change="(v) => once('wash.streaks', v ? 0 : kept('wash.streaks') || 1)"
          /></label>
        </div>
      </div>
      <div class="keep">
        <p class="small" role="status">
          {{ wash.changed ? 'washing with changes not kept' : `kept as revision ${wash.pen.revision}` }}
        </p>
        <DoWord class="strong" :disabled="!wash.changed" :does="() => wash.keep()">
          Keep as revision {{ wash.next }}
        </DoWord>
        <button type="button" class="word-button" :disabled="!wash.undoable" @click="wash.undo">Undo</button>
        <button type="button" class="word-button" :disabled="!wash.redoable" @click="wash.redo">Redo</button>
      </div>
    </aside>

    <div class="bench">
      <div class="views">
        <ElRadioGroup v-model="view" aria-label="View">
          <ElRadioButton value="grid">on papers</ElRadioButton>
          <ElRadioButton value="set">told apart</ElRadioButton>
        </ElRadioGroup>
        <template v-if="view === 'grid'">
          <label class="inline"
            ><span class="small">printed words</span><ElInput v-model="typed" maxlength="22" aria-label="Printed words"
          /></label>
          <label class="inline"
            ><span class="small">paper of your own</span
            ><ElColorPicker
              :model-value="ownPaper"
              aria-label="Paper of your own"
              @change="(v) => (paper = v?.toLowerCase() ?? undefined)"
          /></label>
        </template>
      </div>
      <WashGrid v-if="view === 'grid'" :own="ownPaper" :typed="typed" />
      <WashSet v-else :paper="ownPaper" />
    </div>
  </section>
  <section v-else-if="wash.pen" class="station"><WaitSign words="The wash is being laid out" /></section>
  <section v-else class="none">
    <p class="book">
      There is no wash among your pens. Bring one in, or give a pen the place “under” in its Wash group.
    </p>
  </section>
</template>

<style scoped>
.station {
  --margin: 264px;
}
.bench {
  display: grid;
  grid-template-rows: auto minmax(0, 1fr);
  gap: 8px;
  min-height: 0;
}
.views {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 8px 24px;
  min-height: 52px;
}
.inline {
  display: flex;
  align-items: center;
  gap: 8px;
}
.inline .el-input {
  width: 170px;
}
.controls {
  display: grid;
  gap: 6px;
}
.row {
  display: grid;
  grid-template-columns: 96px minmax(0, 1fr);
  align-items: center;
  font-size: var(--small);
  min-height: var(--target);
}
.row.flag {
  grid-template-columns: minmax(0, 1fr) auto;
}
/* nothing lies under what keeps it */
.station .margin {
  overflow: hidden;
}
.scrolls {
  display: grid;
  flex: 1;
  align-content: start;
  gap: 10px;
  min-height: 0;
  overflow-y: auto;
  padding: 2px 4px;
  scrollbar-width: thin;
}
.keep {
  border-top: var(--line) solid var(--rule);
  padding: 6px 0;
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  padding-bottom: 8px;
}
.keep .word-button {
  padding: 0 12px;
  white-space: nowrap;
}
.option {
  display: flex;
  align-items: center;
  gap: 10px;
}
.none {
  display: grid;
  place-content: center;
  height: 100%;
  padding: 32px;
  font-size: 17px;
}

@media (max-width: 900px) {
  .scrolls {
    overflow: visible;
  }
  .bench {
    grid-template-rows: auto auto;
  }
  .controls {
    grid-template-columns: repeat(auto-fit, minmax(min(280px, 100%), 1fr));
    column-gap: 24px;
  }
}
.keep p {
  flex: 1 0 100%;
  grid-column: 1 / -1;
}
</style>

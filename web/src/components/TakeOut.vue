<script setup lang="ts">
import { ElCheckbox, ElOption, ElSelect } from 'element-plus'
import { ref, useTemplateRef } from 'vue'
import { takeFile } from '@/api/client'
import { giveFile } from '@/composables/use-files'
import { useLittleSheet } from '@/composables/use-little-sheet'
import { useDesk } from '@/stores/desk'

const emit = defineEmits<{ close: [] }>()
const desk = useDesk()
const FORMS = [
  ['pdf', 'PDF', 'outlines, one page, true size'],
  ['svg', 'SVG', 'outlines, for other programs and cutters'],
  ['png', 'PNG', 'a picture'],
  ['ora', 'OpenRaster', 'pictures, a layer each'],
  ['inkml', 'InkML', 'what your hand did, sample by sample'],
] as const
const dpi = ref(300)
const paper = ref(true)
const said = ref('')

async function takeOut(form: string) {
  if (!desk.sheet) return
  await desk.attempt(async () => {
    const name = `${desk.sheet!.name}.${form}`
    const path = `/api/sheets/${desk.sheet!.id}/file?form=${form}&dpi=${dpi.value}&paper=${paper.value}`
    giveFile(await takeFile(path), name)
    said.value = `${name} is in your downloads.`
  })
}

const takeOutPen = () =>
  desk.attempt(async () => {
    const pen = desk.pen!
    giveFile(await takeFile(`/api/pens/${pen.id}/revisions/${pen.revision}/file`), `${pen.id}-${pen.revision}.json`)
    said.value = `${pen.recipe.name} is in your downloads.`
  })

const root = useTemplateRef<HTMLElement>('root')
useLittleSheet(root, () => emit('close'))
</script>

<template>
  <section ref="root" class="out card" :class="desk.stationSide" aria-label="Take out" tabindex="-1">
    <h2 class="book">Take out {{ desk.sheet?.name }}</h2>
    <div class="options">
      <ElCheckbox v-model="paper" label="with its paper" size="large" />
      <ElSelect v-model="dpi" aria-label="Dots an inch of pictures" style="width: 150px">
        <ElOption v-for="d in [150, 300, 600]" :key="d" :value="d" :label="`at ${d} dpi`" />
      </ElSelect>
    </div>
    <button v-for="[form, word, what] in FORMS" :key="form" type="button" class="choice" @click="takeOut(form)">
      <b>{{ word }}</b> <span class="small">{{ what }}</span>
    </button>
    <button type="button" class="choice" @click="takeOutPen">
      <b>The pen</b> <span class="small">{{ desk.pen?.recipe.name }} as JSON</span>
    </button>
    <p v-if="!paper" class="small">
      Without its paper a PNG cannot hold how a wash mixes with what lies below it: laid on a grey or coloured ground it
      looks lighter or darker than here. SVG and PDF hold it.
    </p>
    <p class="small" role="status">{{ said }}</p>
    <button type="button" class="word-button" @click="emit('close')">Close</button>
  </section>
</template>

<style scoped>
.out {
  position: fixed;
  z-index: 25;
  bottom: 88px;
  left: 24px;
  width: 400px;
  max-width: calc(100vw - 48px);
  padding: 16px 20px;
  border-color: var(--ink);
}

.out.right {
  left: auto;
  right: 24px;
}
h2 {
  font-size: 17px;
  font-style: italic;
  font-weight: 500;
}
.options {
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin: 8px 0;
}
.choice {
  display: flex;
  gap: 12px;
  align-items: center;
  width: 100%;
  min-height: var(--target);
  border-top: var(--line) solid var(--rule);
  text-align: left;
}
.choice:hover {
  background: var(--accent-soft);
}
.choice b {
  width: 92px;
  font-weight: 650;
}
p {
  min-height: 20px;
  padding: 8px 0;
}
</style>

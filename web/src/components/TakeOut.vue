<script setup lang="ts">
import { ElCheckbox, ElInput, ElOption, ElSelect } from 'element-plus'
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { api, take, takeFile, type Schemas } from '@/api/client'
import { giveFile } from '@/composables/use-files'
import { useJob } from '@/composables/use-job'
import { usePopover } from '@/composables/use-popover'
import { useDesk } from '@/stores/desk'
import { useLatest } from '@/composables/use-latest'
import NumberField from './NumberField.vue'
import JobProgress from './JobProgress.vue'

const emit = defineEmits<{ close: [] }>()
const desk = useDesk()
const FORMS = [
  ['pdf', 'PDF', 'outlines, true size, print with its own text'],
  ['svg', 'SVG', 'outlines, for other programs and cutters'],
  ['png', 'PNG', 'a picture'],
  ['ora', 'OpenRaster', 'pictures, a layer each'],
  ['inkml', 'InkML', 'what your hand did, sample by sample'],
] as const
type Form = (typeof FORMS)[number][0]
const dpi = ref(300)
const paper = ref(true)
/** Which pages: this one, all, or those that are typed. */
const which = ref<'this' | 'all' | 'some'>('all')
const some = ref('1-2')
const apart = ref(false)
const nameNow = desk.sheet?.name ?? ''
const names = ref(/[{}]/.test(nameNow) ? '{sheet}' : nameNow.slice(0, 80))
const lifted = ref(false)
const covered = computed(() => desk.desk?.sheets.some((s) => s.sheaf === desk.sheet?.sheaf && s.covers?.length))
/** Whose panel a PNG is as seen on; none for ink as it is. */
const panel = ref('screen')
const panels = computed(() => (desk.desk?.devices ?? []).filter((d) => d.device.panel.technology === 'e-paper'))
const many = computed(() => (desk.sheet?.pages ?? 1) > 1)
/** Pages of a PDF no longer than this, where some are longer; where cuts would go through ink is said first. */
const LONG = 1.6 // times as high as wide
const cut = ref(false)
const cutMm = ref(210)
const annotated = ref(false)
const long = computed(() => desk.sheet && desk.sheet.paper.height_mm > LONG * desk.sheet.paper.width_mm)
const cuts = shallowRef<Schemas['PageCuts']>()
const looks = useLatest(
  ({ id, mm }: { id: string; mm: number }) =>
    take(api.GET('/api/sheets/{sheet_id}/cuts', { params: { path: { sheet_id: id }, query: { page_mm: mm } } })),
  (answer) => (cuts.value = answer),
)
watch([() => cut.value && long.value && desk.sheet?.id, cutMm], ([id, mm]) => {
  cuts.value = undefined
  if (id) void looks.want({ id, mm })
})
const cutWords = computed(() => {
  if (!cuts.value) return ''
  const forced = cuts.value.cuts.filter((c) => c.crossed)
  const pieces = `${cuts.value.cuts.length + 1} pages`
  if (!forced.length) return `${pieces}; no ink is cut through.`
  const at = forced.map((c) => `${Math.round(c.at_mm)} mm (${c.crossed} strokes)`).join(', ')
  return `${pieces}; ink is cut through at ${at}: no clear place lies near. Another height may help.`
})
const said = ref('')
const told = ref<Schemas['TakenOut']>()
const { job, busy, follow, cancel } = useJob('take out', 'taking it out')

async function takeOut(form: Form) {
  if (!desk.sheet || busy.value) return
  said.value = ''
  told.value = undefined
  await desk.attempt(async () => {
    const body: Schemas['ExportBody'] = {
      form,
      pages: !many.value ? 'this' : which.value === 'some' ? some.value.trim() || '1' : which.value,
      apart: apart.value,
      dpi: dpi.value,
      paper: paper.value,
      names: names.value.trim() || '{sheet}',
      device_id: form === 'png' && panel.value !== 'screen' ? panel.value : null,
      cut_mm: form === 'pdf' && cut.value && long.value ? cutMm.value : null,
      annotated: form === 'pdf' && annotated.value,
      lifted: lifted.value,
    }
    const path = { sheet_id: desk.sheet!.id }
    await give(take(api.POST('/api/sheets/{sheet_id}/exports', { params: { path }, body })))
  })
}
const takeOutAll = () =>
  desk.attempt(async () => {
    said.value = ''
    told.value = undefined
    await give(take(api.POST('/api/archive/out', {})))
  })

/** Follow what is being made, and hand it over. */
async function give(started: Promise<Schemas['JobItem']>) {
  const done = await follow(started)
  if (!done) return
  const made = await take(api.GET('/api/exports/{job_id}', { params: { path: { job_id: done.id } } }))
  giveFile(await takeFile(`/api/exports/${done.id}/file`), made.name)
  told.value = made
  const inside = made.files.length ? `, ${made.files.length} files` : ''
  said.value = `${made.name}${inside} is in your downloads.`
}

const takeOutPen = () =>
  desk.attempt(async () => {
    const pen = desk.pen!
    giveFile(await takeFile(`/api/pens/${pen.id}/revisions/${pen.revision}/file`), `${pen.id}-${pen.revision}.json`)
    said.value = `${pen.recipe.name} is in your downloads.`
  })

const root = useTemplateRef<HTMLElement>('root')
usePopover(root, () => emit('close'))
</script>

<template>
  <section ref="root" class="out card" :class="desk.stationSide" aria-label="Take out" tabindex="-1">
    <h2 class="book">Take out {{ desk.sheet?.name }}</h2>
    <p v-if="desk.trouble" class="small harm" role="alert">{{ desk.trouble }}</p>
    <div class="options">
      <ElCheckbox v-model="paper" label="with its paper" size="large" />
      <ElSelect v-model="dpi" aria-label="Dots an inch of pictures" style="width: 150px">
        <ElOption v-for="d in [150, 300, 600]" :key="d" :value="d" :label="`at ${d} dpi`" />
      </ElSelect>
      <ElSelect v-if="many" v-model="which" aria-label="Which pages" style="width: 150px">
        <ElOption value="this" :label="`page ${desk.sheet?.page}`" />
        <ElOption value="all" :label="`all ${desk.sheet?.pages} pages`" />
        <ElOption value="some" label="some pages" />
      </ElSelect>
      <ElInput v-if="many && which === 'some'" v-model="some" aria-label="Pages, like 2-4, 7" style="width: 110px" />
      <ElCheckbox v-if="many && which !== 'this'" v-model="apart" label="a file each" size="large" />
    </div>
    <div class="options">
      <label class="small" title="{sheet}, {page}, {bookmark} and {date} stand for what they name"
        >Named
        <ElInput v-model="names" aria-label="How files are named" maxlength="80" />
      </label>
      <label class="small"
        >PNG as seen on
        <ElSelect v-model="panel" aria-label="PNG as seen on">
          <ElOption value="screen" label="the screen" />
          <ElOption v-for="d in panels" :key="d.id" :value="d.id" :label="d.device.name" />
        </ElSelect>
      </label>
    </div>
    <div class="options">
      <ElCheckbox v-if="covered" v-model="lifted" label="with covers lifted" size="large" />
      <ElCheckbox v-model="annotated" label="PDF: ink as annotations" size="large" />
      <template v-if="long">
        <ElCheckbox v-model="cut" label="PDF: long pages cut at" size="large" />
        <NumberField v-model="cutMm" label="Height of a page" unit="mm" :min="40" :max="1000" :decimals="0" />
      </template>
    </div>
    <p v-if="cut && long" class="small" :class="{ stale: looks.busy.value }" role="status">{{ cutWords }}</p>
    <div class="forms">
      <button
        v-for="[form, word, what] in FORMS"
        :key="form"
        type="button"
        class="choice"
        :disabled="busy"
        @click="takeOut(form)"
      >
        <b>{{ word }}</b> <span class="small">{{ what }}</span>
      </button>
      <button type="button" class="choice" :disabled="busy" @click="takeOutAll">
        <b>Everything</b> <span class="small">pens, sheets, hands, devices: one archive</span>
      </button>
      <button type="button" class="choice" @click="takeOutPen">
        <b>The pen</b> <span class="small">{{ desk.pen?.recipe.name }} as JSON</span>
      </button>
    </div>
    <p v-if="!paper" class="small">
      Without its paper a PNG cannot hold how a wash mixes with what lies below it: laid on a grey or coloured ground it
      looks lighter or darker than here. SVG and PDF hold it.
    </p>
    <JobProgress v-if="busy && job" :job words="Taking it out" @cancel="cancel" />
    <p class="small" role="status">{{ said }} {{ told?.words }}</p>
    <button type="button" class="word-button" @click="emit('close')">Close</button>
  </section>
</template>

<style scoped>
.out {
  position: fixed;
  z-index: 25;
  bottom: 24px;
  left: 24px;
  width: 600px;
  max-width: calc(100vw - 48px);
  max-height: calc(100vh - 48px);
  overflow: auto;
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
.forms {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(260px, 1fr));
  gap: 0 16px;
}
.options {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 16px;
  align-items: center;
  margin: 4px 0;
}
.options label.small {
  display: grid;
  flex: 1;
  min-width: 0;
}
.harm {
  color: var(--harm);
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
  flex: none;
  width: 92px;
  font-weight: 650;
}
p {
  min-height: 20px;
  padding: 8px 0;
}
</style>

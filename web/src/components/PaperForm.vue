<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { ElCheckbox, ElColorPicker, ElInput, ElOption, ElRadioButton, ElRadioGroup, ElSelect } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas, type SheetItem } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { callsForAttention, inWords } from '@/lib/readings'
import { waitsForAnother } from '@/lib/needs'
import DeclaredField from './DeclaredField.vue'
import PaletteSpots from './PaletteSpots.vue'
import { useDesk } from '@/stores/desk'

type Paper = SheetItem['paper']
const props = defineProps<{ paper: Paper }>()
const emit = defineEmits<{ change: [paper: Paper] }>()
const desk = useDesk()
const set = (part: Partial<Paper>) => emit('change', { ...props.paper, ...part })

const landscape = computed(() => props.paper.width_mm > props.paper.height_mm)
const sizeName = computed(() => {
  const [short, long] = [props.paper.width_mm, props.paper.height_mm].sort((a, b) => a - b)
  return (
    Object.entries(desk.desk?.paper_sizes_mm ?? {}).find(
      ([, mm]) => Math.abs(mm[0]! - short!) < 0.05 && Math.abs(mm[1]! - long!) < 0.05,
    )?.[0] ?? 'own size'
  )
})

function setSize(name: string) {
  const mm = desk.desk?.paper_sizes_mm[name]
  if (mm) set(landscape.value ? { width_mm: mm[1]!, height_mm: mm[0]! } : { width_mm: mm[0]!, height_mm: mm[1]! })
}

function turn(way: string) {
  if ((way === 'landscape') !== landscape.value)
    set({ width_mm: props.paper.height_mm, height_mm: props.paper.width_mm })
}

/** Numbers and choices that have an effect on this ruling; colours have spots of their own. */
const declared = shallowRef<Schemas['Control'][]>([])
void desk.attempt(async () => {
  declared.value = (await take(api.GET('/api/papers'))).paper_fields
})
const fields = computed(() =>
  declared.value.filter(
    (f) =>
      f.kind !== 'colour' &&
      f.name !== 'ruling' &&
      !waitsForAnother(f, declared.value, (name) => props.paper[name as keyof Paper]),
  ),
)

/** Whether the ruling drowns the ink, and which spacing suits the letters, read of the sheet on the desk. */
const found = shallowRef<Schemas['OnPaper']>()
const reading = useLatest(
  ({ id, paper }: { id: string; paper: Paper }) =>
    take(api.POST('/api/sheets/{sheet_id}/on-paper', { params: { path: { sheet_id: id } }, body: { paper } })),
  (answer) => (found.value = answer),
  () => undefined,
)
watch([() => desk.sheet?.id, () => props.paper], ([id, paper]) => id && void reading.want({ id, paper }), {
  immediate: true,
})
const ruled = computed(() => ['ruled', 'squared', 'dotted', 'columns'].includes(props.paper.ruling))
const suits = computed(() => (ruled.value ? found.value?.suits_mm : null))
const told = computed(() => {
  const r = found.value
  if (!r) return ''
  const known = (key: string) => desk.reading('on paper', key)!
  const say = (key: keyof Schemas['OnPaper']) => `${known(key).label} ${inWords(known(key), r[key])}`
  const words = props.paper.ruling === 'blank' ? [say('ink')] : [`${say('ink')}, ${say('rules')}`]
  if (callsForAttention(known('over_rules'), r.over_rules)) words.push('these rules drown thin lines')
  if (r.x_height_mm !== null) words.push(`letters: ${say('x_height_mm')}, ${say('reach_mm')}`)
  if (r.fill !== null)
    words.push(`${say('fill')}${callsForAttention(known('fill'), r.fill) ? ': lines run into each other' : ''}`)
  return `${words.join('; ')}.`
})

const called = ref('')
const keep = () =>
  desk.attempt(async () => {
    const others = (desk.desk?.papers ?? []).filter((p) => p.name !== called.value.trim())
    await desk.keepDesk({
      papers: [...others, { name: called.value.trim(), paper: props.paper, prints: desk.sheet?.prints ?? [] }],
    })
    called.value = ''
  })
/** Whether new sheets lie on this paper, rather than on one like the sheet before. */
const isNew = computed(() => JSON.stringify(desk.desk?.new_paper) === JSON.stringify(props.paper))
const forNew = (on: boolean) =>
  desk.attempt(async () => {
    const change: Partial<Schemas['DeskChange']> = on ? { new_paper: props.paper } : { new_as_before: true }
    await take(api.PATCH('/api/desk', { body: change as Schemas['DeskChange'] }))
    if (desk.desk) desk.desk.new_paper = on ? props.paper : null
  })

/** A new sheet colour brings the ruling that suits it. */
const colour = (value: string) =>
  desk.attempt(async () => {
    const { rule_colour } = await take(
      api.POST('/api/desk/colours', { body: { paper_colour: value, colours: [], pen: null } }),
    )
    set({ colour: value, rule_colour })
  })
</script>

<template>
  <div class="form">
    <label
      >Size
      <ElSelect :model-value="sizeName" aria-label="Size" @update:model-value="setSize">
        <ElOption v-for="name in Object.keys(desk.desk?.paper_sizes_mm ?? {})" :key="name" :value="name" />
      </ElSelect>
    </label>
    <label
      >Lies
      <ElRadioGroup
        :model-value="landscape ? 'landscape' : 'portrait'"
        aria-label="Orientation"
        @update:model-value="(v) => turn(String(v))"
      >
        <ElRadioButton value="portrait">portrait</ElRadioButton
        ><ElRadioButton value="landscape">landscape</ElRadioButton>
      </ElRadioGroup>
    </label>
    <label v-for="f in fields" :key="f.name" :title="f.help"
      >{{ f.unit ? `${f.label}, ${f.unit}` : f.label }}
      <DeclaredField
        :field="f"
        :model-value="paper[f.name as keyof Paper]"
        @update:model-value="(v) => set({ [f.name]: v })"
    /></label>
    <label
      >Colour
      <span class="colours">
        <button
          v-for="(value, name) in desk.desk?.paper_colours"
          :key="name"
          type="button"
          class="spot"
          :style="{ background: value }"
          :aria-label="name"
          :title="String(name)"
          :aria-pressed="value === paper.colour"
          @click="colour(value)"
        />
        <PaletteSpots :model-value="paper.colour" label="Own colours" @update:model-value="colour" />
        <ElColorPicker :model-value="paper.colour" aria-label="Own colour" @change="(v) => v && colour(v)" />
      </span>
    </label>
    <p v-if="told" class="small told" data-on-paper>
      {{ told }}
      <button
        v-if="suits && suits !== paper.spacing_mm"
        type="button"
        class="word-button"
        @click="set({ spacing_mm: suits })"
      >
        {{ suits }} mm suits this hand
      </button>
    </p>
    <div class="told keep">
      <ElInput v-model="called" maxlength="30" placeholder="Name of this paper" aria-label="Name of this paper" />
      <DoWord :disabled="!called.trim()" :does="keep"> Keep it as a paper of mine </DoWord>
      <ElCheckbox :model-value="isNew" size="large" label="new sheets lie on it" @change="(on) => forNew(!!on)" />
    </div>
  </div>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 12px 24px;
}
.told {
  grid-column: 1 / -1;
  margin: 0;
  max-width: 80ch;
}
.keep {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 16px;
  align-items: center;
}
.keep .el-input {
  width: 220px;
}
.form > label {
  display: grid;
  gap: 4px;
  font-size: var(--small);
}
.colours {
  flex-wrap: wrap;
  display: flex;
  gap: 8px;
  align-items: center;
}
.spot {
  width: 44px;
  height: 44px;
  border: var(--line) solid var(--edge);
  border-radius: var(--corner);
}
.spot[aria-pressed='true'] {
  outline: 3px solid var(--accent);
  outline-offset: 1px;
}
</style>

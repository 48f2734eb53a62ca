<script setup lang="ts">
import { ElCheckbox } from 'element-plus'
import { computed, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useBringIn } from '@/composables/use-files'
import { useLatest } from '@/composables/use-latest'
import { callsForAttention, inWords } from '@/lib/readings'
import { useDesk } from '@/stores/desk'
import { useUnderlay, type Print } from '@/stores/underlay'
import DeclaredField from './DeclaredField.vue'

/** Pictures and document pages under the ink: laid, faded, cut, moved by numbers or by the pen, and taken away. */
const emit = defineEmits<{ close: [] }>()
const desk = useDesk()
const underlay = useUnderlay()
const told = shallowRef<Schemas['PrintsRead']>()
const reads = useLatest(
  (id: string) => take(api.GET('/api/sheets/{sheet_id}/prints', { params: { path: { sheet_id: id } } })),
  (answer) => (told.value = answer),
)
watch([() => desk.sheet?.id, () => desk.sheet?.ink], ([id]) => id && void reads.want(id), { immediate: true })

const WAYS = { fit: 'all of it', fill: 'fill the page', true: 'as large as it came', turn: 'turn it' } as const
/** Said or done otherwise. */
const NAMED = ['id', 'file', 'file_page', 'quarter_turns', 'height_mm']
const fields = computed(() => (told.value?.print_fields ?? []).filter((f) => !NAMED.includes(f.name)))
const fileOf = (p: Print) => told.value?.files.find((f) => f.id === p.file)
const pagesOf = (p: Print) => fileOf(p)?.sizes_mm.length ?? 1
const pageField = computed(() => told.value?.print_fields.find((f) => f.name === 'file_page'))
function set(p: Print, name: string, value: unknown) {
  const width = name === 'width_mm' ? { height_mm: (p.height_mm * Number(value)) / p.width_mm } : {}
  void underlay.change(p.id, { [name]: value, ...width } as Partial<Print>)
}
/** What washes leave of printed text. */
const read = computed(() =>
  (told.value?.read ?? []).map((r) => {
    const known = (key: string) => desk.reading('on print', key)!
    const after = known('after')
    if (r.after === null || r.before === null) return { key: r.name, words: `${r.name}: no text lies under it.` }
    const [plain, under] = [inWords(known('before'), r.before), inWords(after, r.after)]
    return {
      key: r.name,
      words: `${r.name}: text ${plain} as printed, ${under} under it.`,
      harm: callsForAttention(after, r.after),
    }
  }),
)
const FORMS = '.pdf,.png,.jpg,.jpeg,.svg'
const bringIn = useBringIn('Picture or PDF under the ink', FORMS, (file) => underlay.bringIn(file, 'print'))
function move(p: Print) {
  underlay.moving = underlay.moving === p.id ? undefined : p.id
  if (underlay.moving) emit('close')
}
</script>

<template>
  <div class="form" :class="{ stale: reads.busy.value }">
    <p v-if="!underlay.all.length" class="small">
      A picture, a drawing or a page of a PDF becomes the paper under your ink; repeated, it is a pattern. PDF out keeps
      its own lines and text.
    </p>
    <fieldset v-for="(p, k) in underlay.all" :key="p.id">
      <legend>
        {{ fileOf(p)?.name ?? 'Picture' }}<template v-if="pagesOf(p) > 1">, page {{ p.file_page }}</template>
      </legend>
      <div class="row">
        <button
          v-for="(words, how) in WAYS"
          :key="how"
          type="button"
          class="word-button"
          @click="underlay.lay(p.id, how)"
        >
          {{ words }}
        </button>
        <button type="button" class="word-button" @click="move(p)">move it with the pen</button>
        <button
          v-if="k"
          type="button"
          class="word-button"
          @click="
            underlay.set([...underlay.all.slice(0, k - 1), p, underlay.all[k - 1]!, ...underlay.all.slice(k + 1)])
          "
        >
          lower
        </button>
        <button type="button" class="word-button" @click="underlay.drop(p.id)">take it away</button>
      </div>
      <div class="fields">
        <label v-if="pageField && pagesOf(p) > 1"
          >{{ pageField.label }}
          <DeclaredField
            :field="{ ...pageField, high: pagesOf(p) }"
            :model-value="p.file_page"
            @update:model-value="(v) => set(p, 'file_page', v)"
        /></label>
        <label v-for="f in fields" :key="f.name" :title="f.help"
          >{{ f.unit ? `${f.label}, ${f.unit}` : f.label }}
          <DeclaredField
            :field="f"
            :model-value="p[f.name as keyof Print]"
            @update:model-value="(v) => set(p, f.name, v)"
        /></label>
      </div>
    </fieldset>
    <ElCheckbox
      v-if="underlay.all.length"
      v-model="underlay.carries"
      size="large"
      label="ink that lies on it goes with it"
    />
    <p v-for="r in read" :key="r.key" class="small" :class="{ harm: r.harm }">{{ r.words }}</p>
    <button type="button" class="word-button" @click="bringIn">Lay a picture or PDF page under the ink</button>
  </div>
</template>

<style scoped>
.form {
  display: grid;
  gap: 8px;
  justify-items: start;
}
fieldset {
  width: 100%;
  min-width: 0;
  margin: 0;
  padding: 8px 0 0;
  border: 0;
  border-top: var(--line) solid var(--rule);
}
legend {
  padding: 0 8px 0 0;
  font-weight: 650;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(120px, 1fr));
  gap: 6px 16px;
  margin-top: 8px;
}
.fields label {
  display: grid;
  font-size: 13px;
}
.harm {
  color: var(--harm);
}
</style>

<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { useDebounceFn } from '@vueuse/core'
import { ElOption, ElSelect } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Recipe, type Schemas } from '@/api/client'
import { say } from '@/lib/numbers'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useWash } from '@/stores/wash'
import { short } from '@/lib/names'

/** Up to six washes told apart: by everybody, and on every panel that has only greys, or pale colours. */
const props = defineProps<{ paper: string }>()
const MOST = 6
const desk = useDesk()
const wash = useWash()
const members = ref<string[]>(wash.washes.slice(0, MOST).map((p) => p.id))
const greyDevices = computed(() =>
  (desk.desk?.devices ?? [])
    .filter((d) => d.device.kind === 'e-paper' || !d.device.panel!.colour)
    .sort((a, b) => Number(a.device.panel!.colour) - Number(b.device.panel!.colour)),
)
const onDevices = ref<string[]>(greyDevices.value.map((d) => d.id))
const pens = computed(() => members.value.map((id) => wash.washes.find((p) => p.id === id)).filter((p) => !!p))
const recipes = computed<Recipe[]>(() => pens.value.map((p) => (p.id === wash.pen?.id ? wash.recipe! : p.recipe)))
const reply = shallowRef<Schemas['SetReply']>()
const failing = computed(() => reply.value?.conditions.filter((c) => !c.passes) ?? [])
const replacements = computed(() => reply.value?.proposal?.replacements ?? [])
const proposed = computed(() => reply.value?.proposal?.conditions ?? [])
const asked = useLatest(
  (body: Schemas['SetBody']) => take(api.POST('/api/wash/set', { body })),
  (a) => (reply.value = a),
)
const askSoon = useDebounceFn(() => {
  if (recipes.value.length > 1 && wash.ink)
    void asked.want({ washes: recipes.value, ink: wash.ink.recipe, paper: props.paper, device_ids: onDevices.value })
  else {
    asked.forget()
    reply.value = undefined
  }
}, 120)
watch([recipes, onDevices, () => props.paper], () => void askSoon(), { immediate: true })

/** The one after the last wash is the paper. */
const nameOf = (place: number) => (pens.value[place] ? short(pens.value[place].recipe.name!) : 'the paper')
const changed = ref(false)

/** Keep every replacement as its pen's next revision; the old ones stay in the pens' history. */
const take_ = () =>
  desk.attempt(async () => {
    for (const r of replacements.value) {
      const pen = pens.value[r.place]!
      const recipe = { ...recipes.value[r.place]!, body: { ...recipes.value[r.place]!.body!, colour: r.colour } }
      desk.replacePen(
        await take(
          api.POST('/api/pens/{pen_id}/revisions', {
            params: { path: { pen_id: pen.id } },
            body: { recipe, note: 'told apart from the other washes', saw: pen.newest },
          }),
        ),
      )
    }
    changed.value = true
  })
</script>

<template>
  <div class="set">
    <div class="choose">
      <label class="inline"
        ><span class="small">washes</span>
        <ElSelect v-model="members" multiple :multiple-limit="MOST" collapse-tags aria-label="Washes of the set"
          ><ElOption v-for="p in wash.washes" :key="p.id" :value="p.id" :label="p.recipe.name" /></ElSelect
      ></label>
      <label class="inline"
        ><span class="small">on</span>
        <ElSelect v-model="onDevices" multiple collapse-tags placeholder="colour panels only" aria-label="Grey panels"
          ><ElOption v-for="d in greyDevices" :key="d.id" :value="d.id" :label="d.device.name" /></ElSelect
      ></label>
    </div>
    <p v-if="recipes.length < 2" class="book">Choose two washes or more.</p>
    <template v-else-if="reply">
      <p class="book verdict" :class="{ bad: failing.length }" data-verdict>
        <template v-if="!failing.length"
          >Everybody can tell these washes apart, and from the paper, on every panel chosen.</template
        >
        <template v-else
          >{{ nameOf(failing[0]!.pair[0]) }} and {{ nameOf(failing[0]!.pair[1]) }} are too alike under
          {{ failing[0]!.name
          }}<template v-if="failing.length > 1">, and {{ failing.length - 1 }} more conditions fail</template
          >.</template
        >
      </p>
      <table>
        <caption class="visually-hidden">
          How the washes look under each condition, and the smallest difference
        </caption>
        <thead>
          <tr class="small">
            <th scope="col">seen with</th>
            <th v-for="(p, k) in pens" :key="p.id" scope="col">
              {{ short(p.recipe.name!) }}<i v-if="replacements.some((r) => r.place === k)"> *</i>
            </th>
            <th scope="col">the paper</th>
            <th scope="col">closest two</th>
            <th v-if="proposed.length" scope="col">with the proposal</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(c, row) in reply.conditions" :key="c.name" :data-condition="c.name">
            <th scope="row">{{ c.name }}</th>
            <td v-for="(colour, k) in c.seen" :key="k">
              <span
                class="patch"
                :class="{ near: !c.passes && c.pair.includes(k) }"
                :style="{ background: colour }"
              ></span>
              <span v-if="proposed[row]" class="patch" :style="{ background: proposed[row]!.seen[k] }"></span>
            </td>
            <td class="reading">
              <b :class="{ bad: !c.passes }">{{ say(c.smallest) }}</b> <span class="small">of {{ c.enough }}</span
              ><br /><span class="small">{{
                c.passes ? 'told apart' : `${nameOf(c.pair[0])} ✕ ${nameOf(c.pair[1])}`
              }}</span>
            </td>
            <td v-if="proposed[row]" class="reading">
              <b :class="{ bad: !proposed[row]!.passes }">{{ say(proposed[row]!.smallest) }}</b>{{ ' '
              }}<span class="small">{{ proposed[row]!.passes ? 'told apart' : 'still too alike' }}</span>
            </td>
          </tr>
        </tbody>
      </table>
      <div v-if="replacements.length" class="proposal">
        <p>
          <template v-for="(r, i) in replacements" :key="r.place"
            >{{ i ? ', ' : '' }}{{ nameOf(r.place) }} in <i class="dot" :style="{ background: r.colour }"></i
            >{{ r.colour }}</template
          >:
          {{
            reply.proposal?.passes
              ? 'then all conditions pass, words keep 4.5:1 after two passes.'
              : 'better, but no colours were found that pass everywhere; leave out a wash or a panel.'
          }}
        </p>
        <DoWord :does="take_">Keep as new revisions</DoWord>
      </div>
      <p v-else-if="changed" class="small">Kept. The old colours are in each pen's revisions.</p>
      <p class="small">
        Upper patches: each wash once on your paper.
        {{ proposed.length ? 'Lower patches: as proposed; * marks what changes.' : '' }} Numbers: CIEDE2000 of the
        closest two.
      </p>
    </template>
  </div>
</template>

<style scoped>
.set {
  overflow: hidden auto;
  min-height: 0;
  display: flex;
  flex-direction: column;
  gap: 10px;
  scrollbar-width: thin;
}
.choose {
  display: flex;
  flex-wrap: wrap;
  gap: 8px 24px;
}
.inline {
  display: flex;
  align-items: center;
  gap: 8px;
}
.inline {
  min-width: 0;
}
.inline .el-select {
  width: min(250px, 70vw);
}
.verdict {
  font-size: 17px;
  font-style: italic;
  color: var(--accent);
  max-width: 80ch;
}
.verdict.bad,
b.bad {
  color: var(--attention);
}
table {
  border-collapse: collapse;
  width: 100%;
  table-layout: fixed;
}
thead th {
  overflow-wrap: anywhere;
}
thead th {
  text-align: left;
  font-weight: 400;
  vertical-align: bottom;
  padding: 0 8px 4px 0;
  max-width: 92px;
}
tbody th {
  text-align: left;
  font-weight: 400;
  padding: 4px 12px 4px 0;
  overflow-wrap: anywhere;
}
td {
  padding: 4px 8px 4px 0;
  vertical-align: middle;
}
.patch {
  display: block;
  width: min(84px, 100%);
  height: 24px;
  border: var(--line) solid var(--rule);
}
.patch.near {
  outline: 3px dashed var(--attention);
  outline-offset: -3px;
}
.reading {
  line-height: 1.3;
  overflow-wrap: anywhere;
}
.dot {
  display: inline-block;
  width: 14px;
  height: 14px;
  border: var(--line) solid var(--edge);
  vertical-align: -2px;
  margin-right: 4px;
}
.proposal {
  flex-wrap: wrap;
  display: flex;
  gap: 16px;
  align-items: center;
  max-width: 90ch;
}
.proposal .word-button {
  flex-shrink: 0;
}
</style>

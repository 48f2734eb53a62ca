<script setup lang="ts">
import { ElInput, ElOption, ElSelect } from 'element-plus'
import { computed, ref, shallowRef, useTemplateRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import KeptInput from '@/components/KeptInput.vue'
import PickFromPicture from '@/components/PickFromPicture.vue'
import { useDragOrder, withMoved } from '@/composables/use-drag-order'
import { say } from '@/lib/numbers'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useDraft } from '@/stores/draft'

/** The writer's own colours, all in one view, each with its contrast to the paper. */
const desk = useDesk()
const draft = useDraft()
const name = ref('')
const onSheet = ref<string[]>([])
const sheets = useLatest(
  (id: string) => take(api.GET('/api/sheets/{sheet_id}', { params: { path: { sheet_id: id } } })),
  (detail) => (onSheet.value = detail.colours),
  () => (onSheet.value = []),
)
watch(
  () => desk.sheet?.id,
  (id) => id && void sheets.want(id),
  { immediate: true },
)
const colour = computed(() => draft.recipe!.body!.colour.toLowerCase())

/** WCAG contrast with the paper, of the colour in use and of the palette, from the core. */
const contrasts = shallowRef<Record<string, number>>({})
const asked = useLatest(
  (body: Schemas['Colours']) =>
    take(api.POST('/api/desk/colours', { body })).then((a) =>
      Object.fromEntries(body.colours.map((c, i) => [c, a.contrasts[i]!])),
    ),
  (answer) => (contrasts.value = answer),
)
watch(
  [() => draft.recipe, () => desk.desk?.palette, () => desk.sheet?.paper.colour],
  () => {
    void asked.want({
      paper_colour: desk.sheet!.paper.colour,
      colours: [colour.value, ...desk.desk!.palette.map((p) => p.colour)],
      pen: draft.recipe ?? null,
    })
  },
  { immediate: true },
)
const contrast = (hex: string) => contrasts.value[hex]

function choose(hex: string) {
  draft.set('body.colour', hex)
  draft.done()
}

const save = (palette: { name: string; colour: string }[]) =>
  desk.attempt(async () => {
    await desk.keepDesk({ palette })
  })
const add = () =>
  save([
    ...desk.desk!.palette.filter((s) => s.colour !== colour.value),
    { name: name.value.trim(), colour: colour.value },
  ]).then(() => (name.value = ''))
/** The colour of the palette that was chosen to be arranged, by its own colour. */
const at = computed(() => desk.desk!.palette.findIndex((s) => s.colour === colour.value))
const arrange = (hex: string, to: number) => {
  const { palette } = desk.desk!
  return save(
    withMoved(
      palette,
      palette.find((s) => s.colour === hex)!,
      to,
    ),
  )
}
const shift = (by: number) => arrange(colour.value, at.value + by)
const spots = useTemplateRef<HTMLElement>('spots')
const order = useDragOrder(spots, (hex, to) => void arrange(hex, to))
const rename = (called: string) => save(desk.desk!.palette.map((s, k) => (k === at.value ? { ...s, name: called } : s)))
/** Put the colour in hand in the place of another one. */
const replacing = ref('')
const replace = (old: string) =>
  save(desk.desk!.palette.map((s) => (s.colour === old ? { name: s.name, colour: colour.value } : s)))
const search = ref('')
const sets = computed(() =>
  Object.entries(desk.desk?.palettes ?? {}).filter(([title, set]) =>
    `${title} ${set.map((s) => s.name).join(' ')}`.toLowerCase().includes(search.value.trim().toLowerCase()),
  ),
)
const showSets = ref(false)
const remove = () => save(desk.desk!.palette.filter((s) => s.colour !== colour.value))
const own = computed(() => desk.desk!.palette.find((s) => s.colour === colour.value))
</script>

<template>
  <div>
    <h2>
      Colours <em v-if="contrast(colour)" class="book">contrast {{ say(contrast(colour)!) }}:1 on this paper</em>
    </h2>
    <div ref="spots" class="palette" role="listbox" aria-label="Own colours">
      <button
        v-for="(s, k) in desk.desk?.palette"
        :key="s.colour"
        type="button"
        role="option"
        :aria-selected="s.colour === colour"
        :class="{ carried: order.carried(s.colour) }"
        title="Drag to arrange, or Shift and the arrow keys"
        v-bind="order.of(s.colour, k)"
        @click="order.dragged() || choose(s.colour)"
      >
        <span class="spot" :style="{ background: s.colour }"></span
        ><span class="small">{{ s.name }} {{ contrast(s.colour)?.toFixed(1) }}</span>
      </button>
    </div>
    <p v-if="onSheet.length" class="pick small">
      pick up from the sheet
      <button v-for="c in onSheet" :key="c" type="button" :aria-label="`Pick up ${c}`" @click="choose(c)">
        <span class="spot" :style="{ background: c }"></span>
      </button>
    </p>
    <PickFromPicture @pick="choose" />
    <div class="own">
      <template v-if="own">
        <KeptInput
          :value="own.name"
          needed
          maxlength="30"
          aria-label="Name of this colour"
          class="called"
          @change="rename"
        />
        <button type="button" class="word-button" :disabled="at === 0" @click="shift(-1)">Earlier</button>
        <button type="button" class="word-button" :disabled="at === desk.desk!.palette.length - 1" @click="shift(1)">
          Later
        </button>
        <button type="button" class="word-button" @click="remove">Take {{ own.name }} out</button>
      </template>
      <template v-else>
        <ElInput v-model="name" placeholder="Name for this colour" maxlength="30" aria-label="Name for this colour" />
        <button
          type="button"
          class="word-button"
          :disabled="!name.trim() || desk.desk!.palette.length >= 24"
          @click="add"
        >
          Keep it
        </button>
        <ElSelect
          v-model="replacing"
          placeholder="or in place of"
          aria-label="In place of"
          class="called"
          @change="replace"
        >
          <ElOption v-for="s in desk.desk?.palette" :key="s.colour" :value="s.colour" :label="s.name" />
        </ElSelect>
      </template>
    </div>
    <button type="button" class="plain-button small" :aria-expanded="showSets" @click="showSets = !showSets">
      sets to start from
    </button>
    <template v-if="showSets">
      <ElInput v-model="search" placeholder="Find a set or a colour" aria-label="Find a set or a colour" />
      <button v-for="[title, set] in sets" :key="title" type="button" class="set" @click="save(set)">
        <span class="small">{{ title }}</span>
        <span
          ><i v-for="s in set" :key="s.colour" class="spot" :style="{ background: s.colour }" :title="s.name"
        /></span>
      </button>
    </template>
  </div>
</template>

<style scoped>
.palette {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 2px 8px;
  margin: 4px 0 8px;
}
.palette button {
  display: flex;
  align-items: center;
  gap: 8px;
  min-height: 44px;
  padding: 2px;
  border-radius: var(--corner);
  text-align: left;
  line-height: 1.15;
  user-select: none;
  touch-action: pan-y;
}
.palette .carried {
  opacity: 0.5;
}
.palette button[aria-selected='true'] {
  outline: 3px solid var(--accent);
}
.spot {
  flex: none;
  width: 26px;
  height: 26px;
  border: var(--line) solid var(--edge);
  border-radius: var(--corner);
}
.pick {
  display: flex;
  align-items: center;
  flex-wrap: wrap;
}
.pick button {
  display: grid;
  place-content: center;
  width: 44px;
  height: 44px;
}
.own {
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
}
.own .word-button {
  padding: 0 10px;
}
.called {
  width: 120px;
}
.set {
  display: grid;
  gap: 2px;
  width: 100%;
  min-height: var(--target);
  padding: 6px 0;
  text-align: left;
  border-top: var(--line) solid var(--rule);
}
.set .spot {
  display: inline-block;
  margin-right: 4px;
}
</style>

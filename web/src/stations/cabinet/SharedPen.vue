<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { ElCheckbox } from 'element-plus'
import { computed, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, take, type Schemas } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { inWords } from '@/lib/readings'
import { useCabinet } from '@/stores/cabinet'
import { useDesk } from '@/stores/desk'

/** A pen somebody shared: on their hand, and on mine; what of it my device cannot do; and taken over or not. */
const props = defineProps<{ file: File }>()
const emit = defineEmits<{ done: [words: string] }>()
const MOST = 8
const cabinet = useCabinet()
const desk = useDesk()
const router = useRouter()
const fit = ref(false)
const seen = shallowRef<Schemas['SharedLook']>()
const asked = () => ({
  params: { query: { sheet_id: desk.sheet!.id, fit: fit.value } },
  body: '' as never,
  bodySerializer: () => props.file,
  headers: { 'Content-Type': 'application/zip' },
})
const looks = useLatest(
  (wish: ReturnType<typeof asked>) => take(api.POST('/api/pens/shared/look', wish)),
  (answer) => (seen.value = answer),
)
watch([() => props.file, fit, () => desk.sheet?.id], () => void looks.want(asked()), { immediate: true })

const rows = computed(() =>
  (seen.value?.differs ?? []).slice(0, MOST).map((d) => {
    const known = desk.reading('ink', d.reading)!
    return { label: known.label, help: known.help, theirs: inWords(known, d.one), mine: inWords(known, d.other) }
  }),
)
const unlike = computed(() => (seen.value?.standard ?? []).filter((s) => !s.same))
async function keep() {
  await desk.attempt(async () => {
    const pen = await take(api.POST('/api/pens/shared', asked()))
    await desk.load()
    cabinet.look()
    emit('done', `${pen.recipe.name} is among your pens.`)
    await desk.changeSheet({ pen_id: pen.id })
    await router.push('/sheet')
  })
}
</script>

<template>
  <section v-if="seen" class="shared" :class="{ stale: looks.busy.value }" aria-label="A shared pen">
    <h2 class="book">{{ seen.name }}</h2>
    <p class="small">
      A {{ seen.kind }} with {{ seen.revisions }} {{ seen.revisions === 1 ? 'revision' : 'revisions' }}.
    </p>
    <figure>
      <img :src="seen.theirs.image" alt="On their hand" data-ink="theirs" />
      <figcaption class="small">theirs: {{ seen.hand }} on {{ seen.device }}</figcaption>
    </figure>
    <figure>
      <img :src="seen.mine.image" alt="On my hand" data-ink="mine" />
      <figcaption class="small">
        mine: {{ desk.hand?.hand.name }} on {{ desk.device?.device.name
        }}{{ seen.fitted ? ', fitted to my force' : '' }}
      </figcaption>
    </figure>
    <ElCheckbox v-model="fit" label="fit its press curve to my force" size="large" />
    <p v-for="words in seen.cannot" :key="words">{{ words }}</p>
    <p v-if="!seen.cannot.length" class="small">My device can do all of it.</p>
    <table v-if="rows.length" class="small" aria-label="Theirs and mine">
      <thead>
        <tr>
          <td />
          <th scope="col">theirs</th>
          <th scope="col">mine</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.label" :title="r.help">
          <th scope="row">{{ r.label }}</th>
          <td>{{ r.theirs }}</td>
          <td>{{ r.mine }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="unlike.length" class="small">
      Read here otherwise than was told, on: {{ unlike.map((s) => `${s.name} (${s.apart.join(', ')})`).join('; ') }}.
    </p>
    <p v-else class="small">On the three standard lines it reads here exactly as there.</p>
    <div class="row">
      <DoWord class="strong" :does="keep">Keep it and write with it</DoWord>
      <button type="button" class="word-button" @click="emit('done', '')">Leave it</button>
    </div>
  </section>
  <p v-else class="small" role="status">drawing it on your hand</p>
</template>

<style scoped>
.shared {
  max-width: 860px;
}
h2 {
  font-size: 20px;
  font-weight: 500;
}
figure {
  margin: 6px 0;
}
img {
  display: block;
  max-width: 100%;
  height: auto;
  max-height: 96px;
}
table {
  border-collapse: collapse;
}
th {
  font-weight: 400;
  text-align: left;
}
th,
td {
  padding: 2px 24px 2px 0;
  border-top: var(--line) solid var(--rule);
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  padding: 10px 0;
}
</style>

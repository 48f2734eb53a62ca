<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { ElCheckbox, ElInput, ElOption, ElSelect } from 'element-plus'
import { computed, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import JobProgress from '@/components/JobProgress.vue'
import PenSwatch from '@/components/PenSwatch.vue'
import { useJob } from '@/composables/use-job'
import { useLatest } from '@/composables/use-latest'
import { useDesk } from '@/stores/desk'
import { useLineup } from '@/stores/lineup'
import KeptLineups from './KeptLineups.vue'

/** Which pens, in which hands on which devices, on whose writing; only: the pens alone. */
defineProps<{ only?: boolean }>()
const desk = useDesk()
const lineup = useLineup()
const pens = computed(() => desk.desk?.pens ?? [])
if (!lineup.pens.length) lineup.pens = (desk.roll ?? []).slice(0, 5).map((p) => p.id)
const hands = computed(() => (lineup.hands.length ? lineup.hands : desk.sheet ? [desk.sheet.hand_id] : []))
const devices = computed(() => (lineup.devices.length ? lineup.devices : desk.sheet ? [desk.sheet.device_id] : []))
const candidates = computed<Schemas['LineupCandidate'][]>(() => {
  const [h, d] =
    lineup.own && desk.sheet ? [[desk.sheet.hand_id], [desk.sheet.device_id]] : [hands.value, devices.value]
  return lineup.chosen.flatMap((pen_id) =>
    h.flatMap((hand_id) => d.map((device_id) => ({ pen_id, hand_id, device_id, revision: null }))),
  )
})
function turn(id: string, on: boolean) {
  lineup.pens = on ? [...lineup.pens, id] : lineup.pens.filter((p) => p !== id)
}

const { job, busy, follow, cancel } = useJob('line-up', 'measuring the line-up')
/** What is measured is laid out as it comes, once there are two; expected: of how many. */
let expected = 0
const parts = useLatest(
  async (id: string) => ({ id, found: await lineup.measured(id) }),
  ({ id, found }) => void (busy.value && id === job.value?.id && lineup.laid(id, found)),
  () => undefined, // nothing can be ranked yet
)
watch(
  () => job.value?.share,
  (share) => share && share * expected > 1.5 && busy.value && void parts.want(job.value!.id),
)
const measure = () =>
  desk.attempt(async () => {
    expected = candidates.value.length
    const body: Schemas['NewLineup'] = {
      candidates: candidates.value,
      sheet_id: lineup.own ? desk.sheet!.id : null,
      seed: 1,
      glass: lineup.glass,
      tip: lineup.tip,
    }
    const done = await follow(take(api.POST('/api/lineup/runs', { body })))
    if (done) await lineup.lay(done.id)
  })
/** The same again with the pens as they are now; then what moved is said. */
const again = (kept: Schemas['LineupHead']) =>
  desk.attempt(async () => {
    let left: string[] = []
    expected = 0 // what moved is said of all of them
    const asked = take(api.POST('/api/lineup/kept/{kept_id}/retest', { params: { path: { kept_id: kept.id } } })).then(
      (told) => {
        left = told.left_out
        return told.asked
      },
    )
    const done = await follow(asked)
    if (done) await lineup.laidAgain(done.id, kept, left)
  })
</script>

<template>
  <aside class="who" aria-label="Who is lined up">
    <template v-if="!only">
      <div class="row" role="group" aria-label="On whose writing">
        <button type="button" class="plain-button" :aria-pressed="!lineup.own" @click="lineup.own = false">
          a simulated hand
        </button>
        <button type="button" class="plain-button" :aria-pressed="lineup.own" @click="lineup.own = true">
          this sheet's writing
        </button>
      </div>
      <template v-if="!lineup.own">
        <ElSelect
          :model-value="hands"
          multiple
          collapse-tags
          aria-label="Hands"
          @update:model-value="(v: string[]) => (lineup.hands = v)"
          ><ElOption v-for="h in desk.desk?.hands" :key="h.id" :value="h.id" :label="h.hand.name"
        /></ElSelect>
        <ElSelect
          :model-value="devices"
          multiple
          collapse-tags
          aria-label="Devices"
          @update:model-value="(v: string[]) => (lineup.devices = v)"
          ><ElOption v-for="d in desk.desk?.devices" :key="d.id" :value="d.id" :label="d.device.name"
        /></ElSelect>
      </template>
      <div v-else class="pair">
        <ElInput v-model="lineup.glass" maxlength="60" placeholder="bare glass, film" aria-label="Written on" />
        <ElInput v-model="lineup.tip" maxlength="60" placeholder="tip" aria-label="Tip" />
      </div>
    </template>
    <div class="pens">
      <ElCheckbox
        v-for="p in pens"
        :key="p.id"
        :model-value="lineup.pens.includes(p.id)"
        @change="(on) => turn(p.id, !!on)"
        ><PenSwatch :pen="p" /> {{ p.recipe.name }}</ElCheckbox
      >
    </div>
    <template v-if="!only">
      <DoWord class="strong" :disabled="busy || candidates.length < 2" :does="measure">
        Measure {{ candidates.length }} {{ candidates.length === 1 ? 'candidate' : 'candidates' }}
      </DoWord>
      <p v-if="candidates.length < 2" class="small">A line-up compares at least two: choose another pen.</p>
      <JobProgress v-if="busy && job" :job words="Measuring" @cancel="cancel" />
      <KeptLineups :busy @again="again" />
    </template>
  </aside>
</template>

<style scoped src="./lineup.css" />

<style scoped>
.who {
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
  padding-bottom: 12px;
}
.pair {
  display: grid;
  grid-template-columns: 3fr 2fr;
  gap: 8px;
}
.pens {
  display: grid;
  flex: 1;
  align-content: start;
  min-height: 120px;
  overflow-y: auto;
  scrollbar-width: thin;
}
.pens .el-checkbox {
  height: 44px;
  margin: 0;
}
.pens :deep(.el-checkbox__label) {
  display: flex;
  gap: 8px;
  align-items: center;
}
.pens :deep(img) {
  width: 72px;
  height: 27px;
}
@media (max-width: 900px) {
  .pens {
    flex: none;
    height: 220px;
  }
}
</style>

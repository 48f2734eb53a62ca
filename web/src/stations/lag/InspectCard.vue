<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { ElInput, ElRadioButton, ElRadioGroup } from 'element-plus'
import { storeToRefs } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import CardSizer from '@/components/CardSizer.vue'
import ReadingNote from '@/components/ReadingNote.vue'
import { percent, say } from '@/lib/numbers'
import { useLatest } from '@/composables/use-latest'
import NumberField from '@/components/NumberField.vue'
import { useDesk } from '@/stores/desk'
import { useInk } from '@/stores/ink'
import { useLag } from '@/stores/lag'
import { useScreen } from '@/stores/screen'

/**
 * What the digitiser behind this sheet's strokes, or the one in front of the user, reports; and a device of one's own
 * made from it.
 */
const desk = useDesk()
const ink = useInk()
const lag = useLag()
const screen = useScreen()
const { inspected: of } = storeToRefs(lag)
const found = shallowRef<Schemas['Inspection']>()
const refusal = ref('')
const name = ref('My device')
const stated = ref(0)
const sizing = ref(false)
const body = (): Schemas['InspectBody'] => ({
  seen: of.value === 'here' ? (lag.seen ?? null) : null,
  stand_in: of.value === 'stand-in' ? desk.device!.id : null,
  source: of.value === 'sheet' ? { sheet_id: desk.sheet!.id, part: 'sheet', stroke_ids: null } : null,
})
const words = computed(() => [...(found.value?.words ?? []), ...(of.value === 'here' ? lag.seenWords : [])])
const YES = (v: boolean | null | undefined) => (v === null || v === undefined ? 'not tried' : v ? 'yes' : 'no')

const asked = useLatest(
  (of: Schemas['InspectBody']) => take(api.POST('/api/lag/inspect', { body: of })),
  (answer) => {
    found.value = answer
    refusal.value = ''
  },
  (error) => {
    found.value = undefined
    refusal.value = error.message
  },
)
watch(
  [() => desk.sheet?.id, () => desk.device?.id, () => ink.changed, of, () => lag.seen],
  () => {
    if (!desk.sheet) return
    if (of.value !== 'here' || lag.seen) return void asked.want(body())
    asked.forget()
    found.value = undefined
    refusal.value = 'Write in the field at the lower right first.'
  },
  { immediate: true },
)

const keep = () =>
  desk.attempt(async () => {
    const made = await take(
      api.POST('/api/devices', {
        body: { name: name.value, like: desk.device!.id, ink: body(), stated_ms: stated.value, screen: null },
      }),
    )
    desk.desk?.devices.push(made)
    await desk.changeSheet({ device_id: made.id })
  })
</script>

<template>
  <ReadingNote
    title="What is reported"
    help="Read off the strokes of this sheet, off a line written on the device's stand-in, or off those you write in
      the field at the lower right: how often the device reports, how evenly, with how many levels of force, and what
      it leaves out."
  >
    <template v-if="found">
      <p>
        <span class="number">{{ say(found.report_hz) }}</span> a second, ± {{ percent(found.clock_jitter) }};
        {{ say(found.per_frame) }} a frame
      </p>
      <p class="small">
        {{ found.levels }} force levels seen, from {{ percent(found.force_low) }} to {{ percent(found.force_high)
        }}<template v-if="found.rest_noise_mm !== null">; noise at rest {{ say(found.rest_noise_mm) }} mm</template>
      </p>
      <p v-if="of !== 'sheet'" class="small">
        hover: {{ YES(found.hover) }}; contact size: {{ YES(found.contact_size) }}
      </p>
      <p v-for="w in words" :key="w" class="small missing">{{ w }}</p>
    </template>
    <p v-else class="small">{{ refusal }}</p>
    <template #more>
      <ElRadioGroup v-model="of" aria-label="Strokes of"
        ><ElRadioButton value="sheet">sheet</ElRadioButton><ElRadioButton value="stand-in">stand-in</ElRadioButton
        ><ElRadioButton value="here">here</ElRadioButton></ElRadioGroup
      >
      <div v-if="found" class="own">
        <label class="small"
          >stated delay, ms <NumberField v-model="stated" :min="0" :max="1000" label="Stated delay, ms" /></label
        ><span /> <ElInput v-model="name" maxlength="60" aria-label="Name of the device" /><DoWord
          :disabled="!name.trim()"
          :does="keep"
        >
          Keep
        </DoWord>
      </div>
      <button type="button" class="plain-button" @click="sizing = true">
        {{ screen.sized ? 'Size this screen anew' : 'Size this screen by a bank card' }}
      </button>
      <CardSizer v-if="sizing" @close="sizing = false" />
    </template>
  </ReadingNote>
</template>

<style scoped>
.missing {
  color: var(--attention);
}
.own {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 6px;
  margin-top: 6px;
}
.own .word-button {
  padding: 0 10px;
}
.own :deep(.field) {
  width: 100%;
}
.plain-button {
  text-decoration: underline;
}
</style>

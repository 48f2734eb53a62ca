<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { useIntervalFn } from '@vueuse/core'
import { ElRadioButton, ElRadioGroup } from 'element-plus'
import { computed, onMounted } from 'vue'
import { useDesk } from '@/stores/desk'
import { useShow } from '@/stores/show'
import { useVerb } from '@/stores/verb'
import { useRouter } from 'vue-router'

/** A link for others that only looks: the sheet as it is being written, for as long as it is shown. */
const desk = useDesk()
const show = useShow()
const verb = useVerb()
const router = useRouter()
const emit = defineEmits<{ done: [] }>()
const LOOK_MS = 2000
onMounted(() => void show.look())
useIntervalFn(() => show.stage?.open && void show.look(), LOOK_MS)
const whole = computed({
  get: () => !!show.stage?.whole,
  set: (all: boolean) => void show.show(all),
})
async function point() {
  await router.push('/sheet')
  verb.press('point')
  emit('done')
}
const other = computed(() => show.stage?.open && !show.shows)
const name = computed(() => desk.desk?.sheets.find((s) => s.id === show.stage?.sheet_id)?.name ?? 'another sheet')
</script>

<template>
  <div class="show">
    <h3 class="book">Show others</h3>
    <template v-if="show.stage?.open">
      <p>
        “{{ name }}” is shown to whoever has this link, and nothing else. They can only look.
        {{
          show.stage.mirrors === 1
            ? 'One looks'
            : `${show.stage.mirrors || 'Nobody'} look${show.stage.mirrors ? '' : 's'}`
        }}
        now.
      </p>
      <div class="link">
        <img :src="show.stage.code" alt="The code of the link that looks" width="150" height="150" />
        <p class="small address" data-look>{{ show.stage.link }}</p>
      </div>
      <ElRadioGroup v-model="whole" aria-label="What others see"
        ><ElRadioButton :value="false">what I see</ElRadioButton
        ><ElRadioButton :value="true">the whole page</ElRadioButton></ElRadioGroup
      >
      <DoWord v-if="other" :does="() => show.show(whole)">Show this sheet instead</DoWord>
      <DoWord :does="show.withdraw">Show nothing any more</DoWord>
    </template>
    <DoWord v-else :does="() => show.show(false)">Show this sheet to others</DoWord>
    <button type="button" class="word-button" @click="point">Point with fading ink</button>
  </div>
</template>

<style scoped>
.show {
  display: grid;
  gap: 8px;
  justify-items: start;
}
h3 {
  font-size: 17px;
  font-style: italic;
}
img {
  display: block;
  image-rendering: pixelated;
}
.address {
  overflow-wrap: anywhere;
}
</style>

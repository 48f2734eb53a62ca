<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { useIntervalFn } from '@vueuse/core'
import { ElRadioButton, ElRadioGroup } from 'element-plus'
import { computed, onMounted } from 'vue'
import { useDesk } from '@/stores/desk'
import { useMirrorShow } from '@/stores/mirror'
import { useTool } from '@/stores/tool'
import { useRouter } from 'vue-router'

/** A link for others that only looks: the sheet as it is being written, for as long as it is shown. */
const desk = useDesk()
const mirror = useMirrorShow()
const tool = useTool()
const router = useRouter()
const emit = defineEmits<{ done: [] }>()
const LOOK_MS = 2000
onMounted(() => void mirror.look())
useIntervalFn(() => mirror.stage?.open && void mirror.look(), LOOK_MS)
const whole = computed({
  get: () => !!mirror.stage?.whole,
  set: (all: boolean) => void mirror.show(all),
})
async function point() {
  await router.push('/sheet')
  tool.press('point')
  emit('done')
}
const other = computed(() => mirror.stage?.open && !mirror.shows)
const name = computed(() => desk.desk?.sheets.find((s) => s.id === mirror.stage?.sheet_id)?.name ?? 'another sheet')
</script>

<template>
  <div class="show">
    <h3 class="book">Show others</h3>
    <template v-if="mirror.stage?.open">
      <p>
        “{{ name }}” is shown to whoever has this link, and nothing else. They can only look.
        {{
          mirror.stage.mirrors === 1
            ? 'One looks'
            : `${mirror.stage.mirrors || 'Nobody'} look${mirror.stage.mirrors ? '' : 's'}`
        }}
        now.
      </p>
      <div class="link">
        <img :src="mirror.stage.code" alt="The code of the link that looks" width="150" height="150" />
        <p class="small address" data-look>{{ mirror.stage.link }}</p>
      </div>
      <ElRadioGroup v-model="whole" aria-label="What others see"
        ><ElRadioButton :value="false">what I see</ElRadioButton
        ><ElRadioButton :value="true">the whole page</ElRadioButton></ElRadioGroup
      >
      <DoWord v-if="other" :does="() => mirror.show(whole)">Show this sheet instead</DoWord>
      <DoWord :does="mirror.withdraw">Show nothing any more</DoWord>
    </template>
    <DoWord v-else :does="() => mirror.show(false)">Show this sheet to others</DoWord>
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

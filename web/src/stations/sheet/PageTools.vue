<script setup lang="ts">
import OnOff from '@/components/OnOff.vue'
import { computed, defineAsyncComponent, ref } from 'vue'
import NumberField from '@/components/NumberField.vue'
import { useDesk } from '@/stores/desk'
import { useFrame } from '@/stores/frame'
import { useScreenSettings } from '@/stores/screen-settings'
import { useLastTouch } from '@/stores/last-touch'
import { usePages } from '@/stores/pages'
import { usePalm } from '@/stores/palm'
import { useScreen } from '@/stores/screen'
import { useTool } from '@/stores/tool'
import { LARGEST, SMALLEST, type usePage } from './use-page'

const LastTouch = defineAsyncComponent(() => import('./LastTouch.vue'))
/** How near the page is looked at, and whether hands may move it. */
const props = defineProps<{ page: ReturnType<typeof usePage> }>()
const palm = usePalm()
const desk = useDesk()
const pages = usePages()
const screen = useScreen()
const tool = useTool()
const settings = useScreenSettings()
const last = useLastTouch()
const asks = ref(false)
const frame = useFrame()
/** Zoom at which a millimetre on the page is one on the screen. */
const trueZoom = computed(() => (props.page.zoom.value * screen.pxPerMm) / (props.page.cssScale.value || 1))
const percent = computed({
  get: () => Math.round((100 * props.page.zoom.value) / trueZoom.value),
  set: (v) => void props.page.zoomTo((v / 100) * trueZoom.value),
})
const limit = (z: number) => Math.round((100 * z) / trueZoom.value)
</script>

<template>
  <div class="tools small">
    <span class="group">
      <button type="button" class="plain-button" @click="page.zoomTo(page.wholeZoom.value)">whole sheet</button>
      <button type="button" class="plain-button" @click="page.zoomTo(1)">full width</button>
      <button type="button" class="plain-button rare" @click="page.zoomTo(trueZoom)">true size</button>
      <button type="button" class="plain-button" @click="page.zoomTo(page.zoom.value * 1.4)">closer</button>
      <button type="button" class="plain-button" @click="page.zoomTo(page.zoom.value / 1.4)">farther</button>
      <button type="button" class="plain-button rare" :aria-pressed="tool.boxing" @click="tool.boxing = !tool.boxing">
        closer on a part
      </button>
      <NumberField
        v-model="percent"
        class="percent rare"
        label="Magnification"
        unit="%"
        :min="limit(SMALLEST)"
        :max="limit(LARGEST)"
        :decimals="0"
      />
    </span>
    <button
      v-if="frame.small"
      type="button"
      class="plain-button"
      :aria-expanded="frame.unfolded === 'page'"
      @click="frame.turn('page')"
    >
      more
    </button>
    <span v-show="!frame.small || frame.unfolded === 'page'" class="rest" :class="{ over: frame.small }">
      <span v-if="settings.turns" class="group">
        <button type="button" class="plain-button" @click="page.turn('y', false)">turn back</button>
        <button type="button" class="plain-button" @click="page.turn('y', true)">turn on</button>
      </span>
      <span v-if="desk.sheet && desk.sheet.pages > 1" class="group" role="group" aria-label="Pages">
        <button v-if="desk.sheet.page > 1" type="button" class="plain-button" @click="pages.go(false)">
          page before
        </button>
        <button v-if="desk.sheet.page < desk.sheet.pages" type="button" class="plain-button" @click="pages.go(true)">
          page after
        </button>
        <button v-else type="button" class="plain-button" @click="pages.add(desk.sheet)">new page</button>
      </span>
      <span class="group">
        <OnOff v-model="palm.pageLock">page locked</OnOff>
        <OnOff :model-value="palm.fingerWrites" @update:model-value="(on) => (palm.fingerInk = on ? 'on' : 'off')"
          >a finger writes</OnOff
        >
        <button
          type="button"
          class="plain-button"
          :disabled="last.contact === undefined"
          aria-haspopup="dialog"
          @click="asks = !asks"
        >
          last touch
        </button>
      </span>
    </span>
    <LastTouch v-if="asks" @close="asks = false" />
  </div>
</template>

<style scoped>
.tools {
  display: flex;
  flex-wrap: wrap;
  justify-content: space-between;
  min-height: var(--target);
}
.group {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 0 16px;
}
.rest {
  display: contents;
}
@media (max-width: 560px) {
  .rare {
    display: none;
  }
  .tools {
    position: relative;
    flex-wrap: nowrap;
  }
  .rest.over {
    position: absolute;
    z-index: 15;
    inset: auto -8px 100%;
    display: grid;
    padding: 6px 16px;
    background: var(--card);
    border-top: var(--line) solid var(--edge);
  }
}
.percent {
  width: 76px;
}
.percent :deep(.el-input__wrapper) {
  box-shadow: none;
  background: none;
  border-bottom: var(--line) solid var(--rule);
  border-radius: 0;
}
</style>

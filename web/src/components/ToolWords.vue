<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { computed } from 'vue'
import { useDesk } from '@/stores/desk'
import { useScreen } from '@/stores/screen'
import { useMirrorShow } from '@/stores/mirror'
import { PEN_TOOLS, useTool, type PenTool } from '@/stores/tool'

/** What the pen does, in words at the end of the roll: a press stays, a hold lasts as long as it is held. */
const tool = useTool()
const screen = useScreen()
const mirror = useMirrorShow()
const desk = useDesk()
/** Pointing stands there while somebody looks on, reading where there are pages to turn, and each while it is done. */
const shown = computed(() => {
  const { point, read, ...rest } = PEN_TOOLS
  const pages = (desk.sheet?.pages ?? 1) > 1
  return {
    ...rest,
    ...(pages || tool.now === 'read' ? { read } : {}),
    ...(mirror.stage?.open || tool.now === 'point' ? { point } : {}),
  }
})
const PALM_MM = 16 // what touches with more than this is no finger
let holder: number | undefined

function down(event: PointerEvent, which: PenTool) {
  const size = Math.max(event.width, event.height) / screen.pxPerMm
  if (event.button || (event.pointerType === 'touch' && size > PALM_MM)) return
  holder = event.pointerId
  tool.press(which)
}
/** Pressed without a pointer. */
const byKey = (event: MouseEvent, which: PenTool) => event.detail === 0 && tool.press(which)
useEventListener(document, ['pointerup', 'pointercancel'], (event: PointerEvent) => {
  if (event.pointerId !== holder) return
  holder = undefined
  tool.letGo()
})
</script>

<template>
  <div class="verbs" role="group" aria-label="What the pen does">
    <button
      v-for="(word, key) in shown"
      :key="key"
      type="button"
      :title="key === 'write' && tool.now === 'write' ? 'Press again for widths, colours, opacity' : undefined"
      :aria-pressed="tool.now === key"
      @pointerdown="down($event, key)"
      @click="byKey($event, key)"
    >
      {{ word }}
    </button>
  </div>
</template>

<style scoped>
.verbs {
  display: grid;
  grid-auto-flow: column;
  grid-auto-columns: minmax(52px, auto);
  flex: none;
  border-left: var(--line) solid var(--rule);
}
button {
  min-height: var(--target);
  padding: 0 8px;
  border-top: 4px solid transparent;
  font: italic 16px / 1.2 var(--book);
  touch-action: none;
  user-select: none;
}
button:hover {
  text-decoration: underline;
}
button[aria-pressed='true'] {
  border-top-color: var(--accent);
  font-weight: 700;
}
</style>

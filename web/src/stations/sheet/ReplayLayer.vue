<script setup lang="ts">
import { useTemplateRef, watch } from 'vue'
import { takeFile, type Box } from '@/api/client'
import { useLatest } from '@/composables/use-latest'
import { around } from '@/lib/boxes'
import { useDesk } from '@/stores/desk'
import { useReplay } from '@/stores/replay'
import type { usePage } from './use-page'

/** The page as it was at the replay's moment, over the page as it is. Of each moment only what changed is asked for. */
const props = defineProps<{ page: ReturnType<typeof usePage> }>()
const EDGE_MM = 0.6
const desk = useDesk()
const replay = useReplay()
const canvas = useTemplateRef<HTMLCanvasElement>('canvas')
/** What the canvas shows now; undefined where it is bare. */
let shownMs: number | undefined

function shows(atMs: number) {
  shownMs = atMs
  if (canvas.value) canvas.value.dataset.at = atMs.toFixed(0)
}

interface Wish {
  atMs: number
  box: Box
  anew: boolean
}
const pictures = useLatest(
  async ({ atMs, box, anew }: Wish) => {
    const scale = props.page.scale.value
    const { left, top } = props.page.seen.value
    // whole pixels of the page, so that parts fit each other
    const from = [Math.floor(box[0] * scale), Math.floor(box[1] * scale)] as const
    const query = new URLSearchParams({
      by: replay.by,
      at_s: String(atMs / 1000),
      scale: String(scale),
      left: String((from[0] + 0.01) / scale),
      top: String((from[1] + 0.01) / scale),
      right: String(box[2]),
      bottom: String(box[3]),
    })
    const file = await takeFile(`/api/sheets/${desk.sheet!.id}/replay.png?${query}`)
    return { atMs, anew, picture: await createImageBitmap(file), x: from[0] - left, y: from[1] - top }
  },
  ({ atMs, anew, picture, x, y }) => {
    const context = canvas.value?.getContext('2d')
    if (!context) return
    if (anew) context.clearRect(0, 0, context.canvas.width, context.canvas.height)
    context.drawImage(picture, x, y)
    picture.close()
    shows(atMs)
    // the next moment may have come while this one was drawn
    if (replay.at !== atMs) want()
  },
  (error) => {
    replay.close()
    desk.tell(error)
  },
)

/** What is seen of the page, mm. */
function seenBox(): Box {
  const { left, top, width, height } = props.page.seen.value
  const scale = props.page.scale.value
  return [left / scale, top / scale, (left + width) / scale, (top + height) / scale]
}
function want(anew = shownMs === undefined) {
  const seen = seenBox()
  if (seen[2] <= seen[0] || pictures.busy.value) return
  if (anew) return void pictures.want({ atMs: replay.at, box: seen, anew: true })
  const [from, until] = [Math.min(shownMs!, replay.at) / 1000, Math.max(shownMs!, replay.at) / 1000]
  const moved = (replay.told?.strokes ?? []).filter((s) => s.from_s <= until && s.until_s >= from)
  if (!moved.length) {
    return shows(replay.at)
  }
  const boxes = moved.map((s) => s.box_mm as Box)
  const [left, top, right, bottom] = boxes.reduce((all, one) => around(all, one))
  const box: Box = [
    Math.max(seen[0], left - EDGE_MM),
    Math.max(seen[1], top - EDGE_MM),
    Math.min(seen[2], right + EDGE_MM),
    Math.min(seen[3], bottom + EDGE_MM),
  ]
  if (box[2] - box[0] < 0.1 || box[3] - box[1] < 0.1) shows(replay.at)
  else void pictures.want({ atMs: replay.at, box, anew: false })
}
watch(
  () => replay.at,
  () => want(),
)
watch(
  [() => props.page.seen.value, () => replay.told],
  () => {
    shownMs = undefined
    pictures.forget()
    want()
  },
  { immediate: true, flush: 'post' },
)
watch(pictures.busy, (busy) => {
  if (!busy && shownMs !== replay.at) want()
})
</script>

<template>
  <canvas
    ref="canvas"
    :width="page.seen.value.width"
    :height="page.seen.value.height"
    :style="page.seenCss.value"
    data-layer="replay"
    aria-label="The page coming about again"
    role="img"
  />
</template>

<style scoped>
canvas {
  position: absolute;
  display: block;
  touch-action: none;
}
</style>

<script setup lang="ts">
import DoWord from '@/components/DoWord.vue'
import { computed, ref } from 'vue'
import { giveFile } from '@/composables/use-files'
import { inkmlOf } from '@/ink'
import { useDesk } from '@/stores/desk'
import { useInk, type Refused } from '@/stores/ink'

/** Ink the server did not take: why, and the places it can go. Nothing of it goes away by itself. */
const desk = useDesk()
const ink = useInk()
/** One after the other, or all of them over the page, where somebody asked for that. */
const all = ref(false)
const seen = computed(() => (all.value ? ink.refused : ink.refused.slice(0, 1)))

/** These are refused wherever they lie: only the pen, or the id, stands in the way on the same sheet. */
const HERE_TOO = ['no_pen', 'elsewhere', 'other_ink']
const placeable = (group: Refused) =>
  !!desk.sheet && (group.sheetId !== desk.sheet.id || HERE_TOO.includes(group.code)) && group.code !== 'bad_trace'

async function place(group: Refused) {
  const pen = group.code === 'no_pen' || !desk.desk?.pens.some((p) => p.id === group.strokes[0]!.pen_id)
  await ink.place(group, desk.sheet!, pen ? desk.pen : undefined)
}

async function takeOut(group: Refused) {
  giveFile(new Blob([inkmlOf(group.strokes)], { type: 'application/inkml+xml' }), `${group.sheetName} refused.inkml`)
  await ink.tookOut(group)
}
</script>

<template>
  <section v-if="ink.asks" class="refused" aria-label="Refused ink">
    <div v-for="(group, k) in seen" :key="group.sheetId + group.code + group.reason" class="group">
      <p>
        <b>
          {{ group.strokes.length }} {{ group.strokes.length === 1 ? 'stroke' : 'strokes' }} for {{ group.sheetName }}
        </b>
        {{ ' ' }}not taken: {{ group.reason }} Kept in this browser.
      </p>
      <span class="ways">
        <DoWord :does="() => ink.retry(group)">Try again</DoWord>
        <DoWord v-if="placeable(group)" :does="() => place(group)">
          Put on {{ group.sheetId === desk.sheet?.id ? 'this sheet with this pen' : `“${desk.sheet?.name}”` }}
        </DoWord>
        <DoWord :does="() => takeOut(group)">Take out as InkML</DoWord>
        <button v-if="group.takenOut" type="button" class="word-button" @click="ink.letGo(group)">Let it go</button>
        <button
          v-if="!k && ink.refused.length > 1"
          type="button"
          class="plain-button"
          :aria-expanded="all"
          @click="all = !all"
        >
          {{ all ? 'Only this' : `${ink.refused.length - 1} more` }}
        </button>
        <button v-if="!k" type="button" class="plain-button" @click="ink.later = ink.refusals">Later</button>
      </span>
    </div>
  </section>
</template>

<style scoped>
.refused {
  border-bottom: var(--line) solid var(--harm);
}
.group {
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  justify-content: space-between;
  gap: 4px 16px;
  min-height: 63px;
  padding: 8px 28px;
}
.group p {
  flex: 1 1 320px;
  margin: 0;
  color: var(--harm);
  overflow-wrap: anywhere;
}
.ways {
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
}

@media (max-width: 900px) {
  .group {
    padding: 6px 16px;
  }
}
</style>

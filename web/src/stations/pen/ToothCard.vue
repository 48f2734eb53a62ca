<script setup lang="ts">
import { percent } from '@/lib/numbers'
import NumberedWords from '@/components/NumberedWords.vue'
import { useDraft } from '@/stores/draft'
import { useShading } from './use-shading'

/** Tone by grade, and what exports keep of the grit. */
const draft = useDraft()
const { reply } = useShading()
const pick = (grade: string) => {
  draft.set('tooth.grade', grade)
  draft.done()
}
</script>

<template>
  <div v-if="reply">
    <h2>Tooth <em class="book">tone by grade, at your everyday force</em></h2>
    <p v-if="!reply.grades.length">
      This pen has no tooth: it lays the same tone everywhere. Choose a grain to give it some.
    </p>
    <ol v-else class="ladder" aria-label="Tone by grade">
      <li v-for="g in reply.grades" :key="g.grade">
        <button
          type="button"
          :aria-pressed="draft.recipe?.tooth?.grade === g.grade"
          :aria-label="`${g.grade}, ${percent(g.tone)}`"
          @click="pick(g.grade)"
        >
          <img :src="g.image" alt="" /><span class="small">{{ g.grade }}</span
          ><span class="small">{{ Math.round(g.tone * 100) }}</span>
        </button>
      </li>
    </ol>
    <template v-if="reply.crispness.length">
      <h2>
        Exports <em class="book">against the {{ reply.device }}</em>
      </h2>
      <table>
        <tbody>
          <tr v-for="c in reply.crispness" :key="c.dpi" :data-dpi="c.dpi">
            <th scope="row">{{ c.dpi }} dpi</th>
            <td>
              <span :class="{ bad: c.cause }"><NumberedWords :words="c.words" /></span
              ><span v-if="c.cause" class="small">: {{ c.cause }}</span>
            </td>
          </tr>
        </tbody>
      </table>
    </template>
  </div>
</template>

<style scoped>
.ladder {
  display: grid;
  grid-template-columns: repeat(7, 1fr);
  gap: 4px;
  list-style: none;
  margin: 0 0 8px;
  padding: 0;
}
.ladder button {
  display: grid;
  grid-template-columns: 1fr auto;
  width: 100%;
  padding: 2px;
  border-bottom: 4px solid transparent;
}
.ladder button[aria-pressed='true'] {
  border-bottom-color: var(--accent);
  font-weight: 650;
}
.ladder img {
  grid-column: 1 / -1;
  width: 100%;
  height: 30px;
  object-fit: cover;
}
table {
  border-collapse: collapse;
}
th {
  font-weight: 400;
  text-align: left;
  padding: 3px 12px 3px 0;
  white-space: nowrap;
  vertical-align: top;
}
td {
  padding: 3px 12px 3px 0;
  vertical-align: top;
}
b {
  font-weight: 650;
}
b.bad {
  color: var(--attention);
}
</style>

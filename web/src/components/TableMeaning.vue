<script setup lang="ts">
import { ElOption, ElSelect } from 'element-plus'
import { computed, reactive } from 'vue'
import { useBringIn } from '@/stores/bring-in'
import { useDesk } from '@/stores/desk'

/** A table of strokes before it is taken: which column is what, in which units, and its first rows. */
const emit = defineEmits<{ close: [] }>()
const desk = useDesk()
const coming = useBringIn()
const look = computed(() => coming.table!.look)
const ROLES = {
  x: 'across',
  y: 'down',
  stroke: 'stroke',
  t: 'time',
  force: 'force',
  altitude: 'altitude, deg',
  azimuth: 'azimuth, deg',
} as const
type Role = keyof typeof ROLES
const roles = reactive(
  Object.fromEntries((Object.keys(ROLES) as Role[]).map((r) => [r, look.value.roles[r] ?? ''])) as Record<Role, string>,
)
const units = reactive({ length_unit: look.value.length_unit, time_unit: look.value.time_unit })
const takeIt = () =>
  desk.attempt(async () => {
    await coming.takeTable({ ...roles, ...units })
    emit('close')
    drop()
  })
function drop() {
  coming.table = undefined
}
</script>

<template>
  <p class="small">
    {{ look.rows }} rows, {{ look.strokes }} {{ look.strokes === 1 ? 'stroke' : 'strokes' }} by their column. What is
    not chosen is passed over. Force of more than 1 is taken as a share of the most there is.
  </p>
  <div class="roles">
    <label v-for="(words, role) in ROLES" :key="role" class="small"
      >{{ words }}
      <ElSelect v-model="roles[role]" :aria-label="`Column of ${words}`" placeholder="none" clearable value-on-clear="">
        <ElOption v-for="c in look.columns" :key="c" :value="c" />
      </ElSelect>
    </label>
    <label class="small"
      >lengths in
      <ElSelect v-model="units.length_unit" aria-label="Unit of lengths"
        ><ElOption v-for="u in ['mm', 'cm', 'in', 'pt', 'px']" :key="u" :value="u" /></ElSelect
    ></label>
    <label class="small"
      >times in
      <ElSelect v-model="units.time_unit" aria-label="Unit of times"
        ><ElOption v-for="u in ['ms', 's', 'us']" :key="u" :value="u" /></ElSelect
    ></label>
  </div>
  <div class="first">
    <table class="small">
      <thead>
        <tr>
          <th v-for="c in look.columns" :key="c">{{ c }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(row, k) in look.first" :key="k">
          <td v-for="(cell, n) in row" :key="n">{{ cell }}</td>
        </tr>
      </tbody>
    </table>
  </div>
  <div class="row">
    <button type="button" class="word-button strong" :disabled="!roles.x || !roles.y" @click="takeIt">
      Take these strokes
    </button>
    <button type="button" class="word-button" @click="drop">Leave it</button>
  </div>
</template>

<style scoped>
.roles {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(150px, 1fr));
  gap: 8px 16px;
}
label {
  display: grid;
}
.first {
  overflow-x: auto;
  margin: 12px 0;
}
th,
td {
  padding: 2px 12px 2px 0;
  text-align: left;
  font-weight: 400;
}
th {
  font-weight: 650;
}
.row {
  display: flex;
  gap: 12px;
}
</style>

<script setup lang="ts">
import { ElRadioButton, ElRadioGroup } from 'element-plus'
import PaletteSpots from '@/components/PaletteSpots.vue'
import { FADES_S, POINTS_MM, usePointer } from '@/stores/pointer'

/** A pointer for those who look on: its ink fades and is never kept. */
const pointer = usePointer()
</script>

<template>
  <div class="point">
    <p class="book first">Point with the pen down: what it leaves fades when your hand rests, and is never kept.</p>
    <ElRadioGroup v-model="pointer.dot" aria-label="What it leaves"
      ><ElRadioButton :value="false">a line</ElRadioButton><ElRadioButton :value="true">a dot</ElRadioButton>
    </ElRadioGroup>
    <ElRadioGroup v-model="pointer.sizeMm" aria-label="Size of the pointer, mm"
      ><ElRadioButton v-for="mm in POINTS_MM" :key="mm" :value="mm">{{ mm }} mm</ElRadioButton></ElRadioGroup
    >
    <ElRadioGroup v-model="pointer.fadesS" aria-label="Fades after, seconds"
      ><ElRadioButton v-for="s in FADES_S" :key="s" :value="s">{{ s }} s</ElRadioButton></ElRadioGroup
    >
    <PaletteSpots v-model="pointer.colour" label="Colour of the pointer" />
  </div>
</template>

<style scoped>
.point {
  display: grid;
  gap: 8px;
  justify-items: start;
}
.first {
  font-style: italic;
  line-height: 1.4;
}
@media (max-width: 900px) {
  .point {
    grid-column: 1 / -1;
  }
}
</style>

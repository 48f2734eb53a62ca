<script setup lang="ts">
import type { Schemas } from '@/api/client'
import { ElSwitch } from 'element-plus'
import { computed } from 'vue'
import ValueSlider from '@/components/ValueSlider.vue'
import { usePalm } from '@/stores/palm'
import { usePalmTrial } from '@/stores/palm-trial'

/** One control for every rule; the drills are judged anew at each change. */
const trial = usePalmTrial()
const palm = usePalm()
const fields = computed(() => trial.info?.controls ?? [])
const now = (f: Schemas['Control']) => (trial.rules as Record<string, unknown> | undefined)?.[f.name]
const kept = (f: Schemas['Control']) => (palm.setting?.rules as Record<string, unknown> | undefined)?.[f.name]
</script>

<template>
  <div v-if="trial.rules" class="rules">
    <template v-for="f in fields" :key="f.name">
      <label v-if="f.kind === 'flag'" class="row"
        ><span :title="f.help"
          >{{ f.label }}<span class="small">{{ f.help }}</span></span
        >
        <ElSwitch :model-value="now(f) as boolean" :aria-label="f.label" @change="(v) => trial.set(f.name, v)"
      /></label>
      <div v-else :data-rule="f.name">
        <ValueSlider
          :field="f"
          :value="now(f) as number"
          :kept="kept(f) as number"
          @change="(v) => trial.set(f.name, v)"
        />
        <p class="small help">{{ f.help }}</p>
      </div>
    </template>
  </div>
</template>

<style scoped>
.rules {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(220px, 1fr));
  gap: 4px 24px;
  align-items: start;
}
.help {
  margin-top: 8px; /* clear of the ends of the scale */
  min-height: 38px;
  max-width: calc(100% - 84px);
  line-height: 1.3;
}
.row {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 12px;
  align-items: center;
  min-height: var(--target);
  font-size: var(--small);
}
.row .small {
  display: block;
}
</style>

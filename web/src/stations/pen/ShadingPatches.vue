<script setup lang="ts">
import { ElOption, ElSelect } from 'element-plus'
import { computed } from 'vue'
import { percent, say } from '@/lib/numbers'
import { useShading } from './use-shading'

/** Patches hatched by the hand at three forces, upright and leaned, and the same pen writing small. */
const { reply, ownSheet, sheets } = useShading()
const rows = computed(() =>
  ['upright', 'leaned'].map((lean) => ({ lean, patches: reply.value?.patches.filter((p) => p.lean === lean) ?? [] })),
)
const own = computed(() => reply.value?.patches.find((p) => p.lean === 'own'))
</script>

<template>
  <div v-if="reply" class="shading">
    <div class="patches">
      <template v-for="row in rows" :key="row.lean">
        <figure v-for="p in row.patches" :key="p.force" :data-patch="`${p.lean}-${p.force}`">
          <img :src="p.image" :alt="`${p.force}, ${p.lean}`" />
          <figcaption class="small">
            <b>{{ percent(p.tone) }}</b> {{ p.force }}, {{ p.lean }}<br />uneven {{ percent(p.unevenness) }}, edge
            {{ Math.round(p.raggedness_mm! * 1000) }} µm
          </figcaption>
        </figure>
      </template>
    </div>
    <div class="side">
      <figure v-for="t in reply.text" :key="t.x_height_mm" class="text" :data-text="t.x_height_mm">
        <img :src="t.image" :alt="`Small writing, letters ${t.x_height_mm} mm high`" />
        <figcaption class="small">
          <b :class="{ bad: t.verdict !== 'reads well' }">{{ t.verdict }}</b> at {{ t.x_height_mm }} mm<br />{{
            say(t.contrast)
          }}:1, {{ Math.round(t.broken * 100) }} % broken
        </figcaption>
      </figure>
      <figure v-if="own" class="text" data-patch="own">
        <img :src="own.image" alt="Your own shading" />
        <figcaption class="small">
          <b>{{ percent(own.tone) }}</b> your shading<br />uneven {{ percent(own.unevenness) }}
        </figcaption>
      </figure>
      <ElSelect
        v-if="sheets.length"
        v-model="ownSheet"
        clearable
        placeholder="add your own shading"
        aria-label="Your own shading from"
      >
        <ElOption v-for="s in sheets" :key="s.id" :value="s.id" :label="`from ${s.name}`" />
      </ElSelect>
    </div>
  </div>
</template>

<style scoped>
.shading {
  display: grid;
  grid-template-columns: minmax(0, 7fr) minmax(0, 4fr);
  gap: 16px;
  height: 100%;
  overflow-y: auto;
  padding: 6px 14px;
  background: var(--card);
  scrollbar-width: thin;
}
.patches {
  display: grid;
  grid-template-columns: repeat(3, minmax(0, 1fr));
  gap: 6px 14px;
  align-content: start;
}
figure {
  margin: 0;
}
.patches img {
  display: block;
  width: 100%;
  height: 60px;
  object-fit: cover;
}
figcaption {
  line-height: 1.3;
}
b {
  color: var(--ink);
  font-weight: 650;
}
b.bad {
  color: var(--attention);
}
.side {
  display: grid;
  gap: 6px;
  align-content: start;
}
.text {
  display: grid;
  grid-template-columns: 42% minmax(0, 1fr);
  gap: 8px;
  align-items: center;
}
.text img {
  width: 100%;
  max-height: 48px;
  object-fit: contain;
  object-position: left;
}

@media (max-width: 900px) {
  .shading {
    grid-template-columns: minmax(0, 1fr);
  }
}
</style>

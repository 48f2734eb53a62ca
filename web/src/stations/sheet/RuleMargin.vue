<script setup lang="ts">
import NumberField from '@/components/NumberField.vue'
import { RADII_MM, useGuide, type GuideKind } from '@/stores/guide'

/** What ruling does: a straightedge or a compass on the page, along which ink and washes go. */
const props = defineProps<{ middle: () => [number, number] | undefined }>()
const store = useGuide()
const KINDS: [GuideKind, string][] = [
  ['edge', 'Straightedge'],
  ['compass', 'Compass'],
]
function lay(kind: GuideKind) {
  const [x, y] = props.middle() ?? [store.guide.x, store.guide.y]
  store.lay(store.guide.kind === kind ? 'none' : kind, x, y)
}
</script>

<template>
  <div class="rule">
    <p v-if="!store.on" class="book first">Lay something down to draw along.</p>
    <p v-else-if="store.guide.kind === 'edge'" class="book first">
      Drag its middle to move it, an end to turn it; two fingers do both. Then press write: what begins at it goes
      along.
    </p>
    <p v-else class="book first">
      Drag its middle to move it, its rim to change the radius. Then press write: what begins at it goes around.
    </p>
    <div class="acts">
      <button
        v-for="[kind, words] in KINDS"
        :key="kind"
        type="button"
        class="word-button"
        :aria-pressed="store.guide.kind === kind"
        @click="lay(kind)"
      >
        {{ words }}
      </button>
    </div>
    <template v-if="store.guide.kind === 'edge'">
      <NumberField
        :model-value="store.guide.angle"
        label="Angle"
        unit="°"
        :min="-180"
        :max="180"
        :decimals="1"
        @update:model-value="(angle) => store.set({ angle })"
      />
      <div class="acts">
        <button type="button" class="word-button" @click="store.set({ angle: store.guide.angle + 90 })">
          Quarter turn
        </button>
        <button type="button" class="word-button" @click="store.set({ angle: 0 })">Level</button>
      </div>
    </template>
    <NumberField
      v-if="store.guide.kind === 'compass'"
      :model-value="store.guide.radius"
      label="Radius"
      unit="mm"
      :min="RADII_MM[0]"
      :max="RADII_MM[1]"
      :decimals="1"
      @update:model-value="(radius) => store.set({ radius })"
    />
  </div>
</template>

<style scoped>
.rule {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 10px;
}
.first {
  font-size: 16px;
  font-style: italic;
  line-height: 1.4;
}
.acts {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
}
.acts .word-button {
  padding: 0 6px;
}
@media (max-width: 900px) {
  .rule {
    grid-column: 1 / -1;
    grid-template-columns: repeat(auto-fit, minmax(160px, 1fr));
    align-items: center;
  }
  .rule .acts {
    grid-template-columns: repeat(auto-fit, minmax(112px, 1fr));
  }
}
</style>

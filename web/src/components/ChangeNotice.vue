<script setup lang="ts">
import { useDesk } from '@/stores/desk'
import RefusedInk from './RefusedInk.vue'

/** What the writer has to know, and say what comes of it. */
const desk = useDesk()
</script>

<template>
  <div class="band">
    <p v-if="desk.trouble" class="trouble" role="alert">
      <span>{{ desk.trouble }}</span>
      <button type="button" class="word-button" @click="desk.trouble = ''">Understood</button>
    </p>
    <p v-if="desk.news" class="trouble only" role="status">
      <span>{{ desk.news }}</span>
      <button type="button" class="word-button" @click="desk.news = ''">Understood</button>
    </p>
    <p v-if="desk.clash" class="trouble" role="alert">
      <span>{{ desk.clash.words }}</span>
      <span class="ways">
        <button type="button" class="word-button" @click="desk.settleClash(true)">Keep mine</button>
        <button type="button" class="word-button" @click="desk.settleClash(false)">Keep that</button>
      </span>
    </p>
    <RefusedInk />
  </div>
</template>

<style scoped>
.band {
  max-height: 60vh;
  overflow-y: auto;
  background: var(--paper);
}
.trouble {
  display: flex;
  align-items: center;
  gap: 16px;
  min-height: 64px;
  padding: 8px 28px;
  color: var(--harm);
  border-bottom: var(--line) solid var(--harm);
}
.only {
  color: var(--ink);
  border-bottom-color: var(--edge);
}
.ways {
  display: flex;
  gap: 8px;
}
@media (max-width: 900px) {
  .trouble {
    padding: 6px 16px;
  }
}
</style>

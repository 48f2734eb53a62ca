<script setup lang="ts">
/** A state that is on or off, in words that say what it is: a filled mark says that it is on. A press turns it. */
const on = defineModel<boolean>({ required: true })
</script>

<template>
  <button type="button" class="on-off" role="switch" :aria-checked="on" @click="on = !on">
    <i aria-hidden="true" /><span><slot /></span>
  </button>
</template>

<style scoped>
.on-off {
  display: inline-flex;
  align-items: center;
  gap: 8px;
  min-height: var(--target);
  text-align: start;
  line-height: 1.25;
}
.on-off:hover span {
  text-decoration: underline;
}
i {
  flex: none;
  width: 14px;
  height: 14px;
  border: 1.5px solid var(--edge);
  border-radius: 3px;
}
[aria-checked='true'] i {
  border-color: var(--accent);
  background: var(--accent);
  box-shadow: inset 0 0 0 2.5px var(--paper);
}
[aria-checked='true'] {
  color: var(--ink);
}
</style>

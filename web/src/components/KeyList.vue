<script setup lang="ts">
import { useTemplateRef } from 'vue'
import { usePopover } from '@/composables/use-popover'

const emit = defineEmits<{ close: [] }>()
const root = useTemplateRef<HTMLElement>('root')
usePopover(root, () => emit('close'))
const KEYS = [
  [
    '1 to 9, 0',
    'take a pen from the roll; the same key again takes the pen before; with ink chosen, ink it in that pen',
  ],
  ['Shift with arrows', 'move a pen along the roll'],
  ['[ and ]', 'the station before, the station after'],
  ['Ctrl Z', 'undo'],
  ['Ctrl Shift Z', 'redo'],
  ['Ctrl S', 'keep the pen you are tuning as a revision'],
  ['arrows', 'move a point of the press curve, a slider, or the lens'],
  ['W, R, C, U, E, P', 'write, rub, choose, rule, read, point; held while the pen does it they end as they are let go'],
  ['Ctrl C, X, V', 'take chosen ink along, cut it, put it down here; it is on the clipboard as a picture too'],
  ['Ctrl A', 'choose all ink, while choosing'],
  ['PageDown, PageUp', 'a view on or back, and from the end of a page to the next; pedals send these'],
  ['Delete', 'take the chosen ink away, or a point out of the press curve'],
  ['+ and -', 'closer and farther, on the sheet; also the wheel with Ctrl'],
  ['F', 'the whole screen, and back'],
  ['Escape', 'close what is open'],
  ['own keys', 'set under Frame'],
  ['?', 'this list'],
] as const
</script>

<template>
  <aside ref="root" class="keys card" aria-label="Keys" tabindex="-1">
    <h2 class="book">Keys</h2>
    <dl>
      <template v-for="[key, what] in KEYS" :key="key">
        <dt>{{ key }}</dt>
        <dd>{{ what }}</dd>
      </template>
    </dl>
    <button type="button" class="word-button" @click="emit('close')">Close</button>
  </aside>
</template>

<style scoped>
.keys {
  position: fixed;
  z-index: 30;
  inset: auto 24px 96px auto;
  padding: 16px 24px;
  border-color: var(--ink);
}

h2 {
  font-size: 17px;
  font-style: italic;
  font-weight: 500;
  margin-bottom: 8px;
}
dl {
  display: grid;
  grid-template-columns: auto auto;
  gap: 6px 20px;
  margin-bottom: 12px;
}
dt {
  font-weight: 650;
}
</style>

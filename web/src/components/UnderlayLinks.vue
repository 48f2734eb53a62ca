<script setup lang="ts">
import { ref, shallowRef, watch } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useDesk } from '@/stores/desk'
import { usePages } from '@/stores/pages'

/** Outline and links of the documents under the ink: a press on a link says where it leads, and only then it opens. */
const emit = defineEmits<{ close: [] }>()
const desk = useDesk()
const pages = usePages()
const found = shallowRef<Schemas['PrintedLinks']>()
/** The address that was pressed, to be opened. */
const asked = ref('')

watch(
  () => desk.sheet?.prints.length && desk.sheet.id,
  (id) => {
    asked.value = ''
    found.value = undefined
    if (!id) return
    const params = { path: { sheet_id: id } }
    void desk.attempt(async () => {
      const told = await take(api.GET('/api/sheets/{sheet_id}/prints/links', { params }))
      if (id === desk.sheet?.id) found.value = told
    })
  },
  { immediate: true },
)

async function goTo(id: string) {
  await pages.open(id)
  emit('close')
}
/** Where it is, without the way to it. */
const host = (address: string) => new URL(address).host || address.replace('mailto:', 'a letter to ')
</script>

<template>
  <div v-if="found?.outline.length" class="list outline" aria-label="Outline of the document">
    <h3 class="book">Outline of the document</h3>
    <button
      v-for="(line, k) in found.outline"
      :key="k"
      type="button"
      class="line"
      :style="{ paddingLeft: `${16 * line.depth}px` }"
      @click="goTo(line.page_id)"
    >
      <span>{{ line.title }}</span><span class="small">page {{ line.page }}</span>
    </button>
  </div>
  <div v-if="found?.links.length" class="list links" aria-label="Links on this page">
    <h3 class="book">Links on page {{ desk.sheet?.page }}</h3>
    <template v-for="link in found.links" :key="link.address + link.page_id">
      <button v-if="!link.address" type="button" class="line" @click="goTo(link.page_id)">
        <span>to page {{ link.page }}</span>
      </button>
      <button
        v-else
        type="button"
        class="line"
        :aria-expanded="asked === link.address"
        @click="asked = asked === link.address ? '' : link.address"
      >
        <span>{{ host(link.address) }}</span>
      </button>
      <p v-if="link.address && asked === link.address" class="leads" role="status">
        <span>
          It leads out of Gray Quill, to <b>{{ link.address }}</b>
        </span>
        <a :href="link.address" target="_blank" rel="noopener noreferrer" class="word-button">Open it</a>
      </p>
    </template>
  </div>
</template>

<style scoped>
.list {
  display: grid;
  margin-bottom: 8px;
}
.line {
  display: flex;
  gap: 12px;
  justify-content: space-between;
  align-items: center;
  min-height: var(--target);
  border-top: var(--line) solid var(--rule);
  text-align: left;
}
.line:hover {
  background: var(--accent-soft);
}
.leads {
  display: flex;
  flex-wrap: wrap;
  gap: 12px;
  align-items: center;
  margin: 8px 0;
  overflow-wrap: anywhere;
}
.leads a {
  display: inline-flex;
  align-items: center;
  min-height: var(--target);
  color: inherit;
  text-decoration: none;
}
h3 {
  margin: 8px 0 4px;
}
</style>

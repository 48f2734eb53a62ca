import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { useDesk } from './desk'
import { usePages } from './pages'

/** A second page that lies beside the one that is written on, to be read. */
export const useBeside = defineStore('beside', () => {
  const desk = useDesk()
  const id = ref<string>()
  const page = computed(() => desk.desk?.sheets.find((s) => s.id === id.value))
  const lay = (pageId: string) => (id.value = pageId)
  const close = () => (id.value = undefined)
  /** Write on that one; this one lies beside it then. */
  async function change() {
    const [here, there] = [desk.sheet?.id, page.value]
    if (!there || !here) return
    await usePages().open(there.id)
    if (desk.sheet?.id === there.id) id.value = here
  }
  return { page, lay, close, change }
})

import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import { api, take, type Schemas } from '@/api/client'
import { useDesk } from '@/stores/desk'

/** What is declared of panels; fetched once, when the station that shows them is first opened. */
export const usePanels = defineStore('panels', () => {
  const ways = shallowRef<Schemas['PanelWays']>()
  const need = async () => {
    if (ways.value) return
    await useDesk().attempt(async () => {
      ways.value = await take(api.GET('/api/panels'))
    })
  }
  return { ways, need }
})

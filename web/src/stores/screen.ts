import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'

export const CSS_PX_PER_MM = 96 / 25.4 // CSS Values and Units: an inch is 96 px, whatever the screen
/** ISO/IEC 7810, ID-1: the size of a bank card, mm. */
export const CARD_MM = { width: 85.6, height: 53.98, corner: 3.18 }

/**
 * How large a millimetre really is on this screen, in CSS pixels; kept in this browser, since it belongs to its screen.
 */
export const useScreen = defineStore('screen', () => {
  const pxPerMm = useLocalStorage('gray-quill-px-per-mm', CSS_PX_PER_MM)
  const sized = useLocalStorage('gray-quill-screen-sized', false)
  const size = (px: number) => {
    pxPerMm.value = px
    sized.value = true
  }
  return { pxPerMm, sized, size }
})

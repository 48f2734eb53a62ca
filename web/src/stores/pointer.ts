import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'

export const POINTS_MM = [1, 3, 8] as const
export const FADES_S = [0.5, 1, 2, 4] as const

/** The pointer that leaves fading ink, as this browser has it. */
export const usePointer = defineStore('pointer', () => {
  const dot = useLocalStorage('gray-quill-points-dot', false)
  const colour = useLocalStorage('gray-quill-points-colour', '#b3402e')
  const sizeMm = useLocalStorage<number>('gray-quill-points-mm', POINTS_MM[1])
  const fadesS = useLocalStorage<number>('gray-quill-points-fade', FADES_S[1])
  return { dot, colour, sizeMm, fadesS }
})

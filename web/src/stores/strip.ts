import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { ref, watch } from 'vue'
import { useDesk } from './desk'

export const TIMES = [2, 3, 4, 6, 8] as const

/** Small writing from large movements: a strip shows a small window of the page enlarged, which moves on by itself. */
export const useStrip = defineStore('strip', () => {
  const desk = useDesk()
  const on = ref(false)
  /** How many times larger than on the page the hand writes. */
  const times = useLocalStorage('gray-quill-strip-times', 4)
  /** How far before the window's end it moves on, of its width. */
  const before = useLocalStorage('gray-quill-strip-before', 0.2)
  /** From one line to the next, mm; 0 for the paper's own spacing. */
  const pitchMm = useLocalStorage('gray-quill-strip-pitch', 0)
  /** Where lines begin and end, mm from the page's edges. */
  const leftMm = useLocalStorage('gray-quill-strip-left', 12)
  const rightMm = useLocalStorage('gray-quill-strip-right', 10)
  /** What was written in the strip on this page, in this window. */
  const ids = ref<string[]>([])
  /** The window on the page, mm: left, top, right, bottom. */
  const windowMm = ref<[number, number, number, number]>([0, 0, 1, 1])
  /** Asks that the window goes somewhere: its upper left corner, mm. */
  const goes = ref<[number, number]>()
  const full = ref(false)
  watch(
    () => desk.sheet?.id,
    () => {
      ids.value = []
      full.value = false
    },
  )
  return { on, times, before, pitchMm, leftMm, rightMm, ids, windowMm, goes, full }
})

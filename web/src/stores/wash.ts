import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed } from 'vue'
import type { PenItem, Recipe } from '@/api/client'
import { useDesk } from './desk'
import { draftOf } from './draft'

export const isWash = (recipe: Recipe) => recipe.wash?.place === 'under' || recipe.kind === 'highlighter'

/** The wash being judged, and the pen whose words it meets. */
export const useWash = defineStore('wash', () => {
  const desk = useDesk()
  const chosen = useLocalStorage('gray-quill-wash', '')
  const washes = computed(() => (desk.desk?.pens ?? []).filter((p) => isWash(p.recipe)))
  const pen = computed<PenItem | undefined>(
    () =>
      washes.value.find((p) => p.id === chosen.value) ??
      (desk.pen && isWash(desk.pen.recipe) ? desk.pen : washes.value[0]),
  )
  /** The sentence's pen, or when that is a wash the first pen on the roll that writes. */
  const ink = computed<PenItem | undefined>(() =>
    desk.pen && !isWash(desk.pen.recipe) ? desk.pen : (desk.desk?.pens ?? []).find((p) => !isWash(p.recipe)),
  )
  return { chosen, washes, ink, ...draftOf(pen) }
})

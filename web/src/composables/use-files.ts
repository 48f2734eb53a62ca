import { useFileDialog } from '@vueuse/core'
import { useDesk } from '@/stores/desk'

/** Choose one file and bring it in; what is refused is said in the frame. */
export function useBringIn(accept: string, bring: (file: File) => Promise<unknown>) {
  const desk = useDesk()
  const { open, onChange, reset } = useFileDialog({ accept, multiple: false, reset: true })
  onChange((files) => {
    const file = files?.[0]
    if (file) void desk.attempt(() => bring(file)).finally(reset)
  })
  return () => open()
}

/** Hand bytes to the browser as a file in the downloads. */
export function giveFile(data: Blob, name: string) {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(data)
  link.download = name
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000)
}

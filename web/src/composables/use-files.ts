import { useFileDialog } from '@vueuse/core'
import { onScopeDispose } from 'vue'
import { useDesk } from '@/stores/desk'

/**
 * Choose one file and bring it in; what is refused is said in the frame. The field itself lies in the document under
 * its label, out of sight and out of the order of focus: the button that opens it is what is pressed. It has a place of
 * its own beside what Vue draws, which must not find strangers among its children.
 */
export function useBringIn(label: string, accept: string, bring: (file: File) => Promise<unknown>) {
  const desk = useDesk()
  const input = document.createElement('input')
  Object.assign(input, { type: 'file', ariaLabel: label, className: 'visually-hidden', tabIndex: -1 })
  document.getElementById('files')!.append(input)
  onScopeDispose(() => input.remove())
  const { open, onChange, reset } = useFileDialog({ accept, multiple: false, input })
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

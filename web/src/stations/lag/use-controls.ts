import { useEventListener } from '@vueuse/core'
import { ref, type Ref } from 'vue'

const MOST = 200

/**
 * The delay of the interface itself, apart from ink: from the press of any control inside `root` to the frame after the
 * one it changes, ms.
 */
export function useControls(root: Ref<HTMLElement | null>) {
  const delays = ref<number[]>([])
  useEventListener(
    root,
    ['click', 'input'],
    (event: Event) => {
      if (
        !(event.target instanceof Element) ||
        !event.target.closest('button, input, [role=slider], .el-select, .el-radio-button')
      )
        return
      requestAnimationFrame(() =>
        requestAnimationFrame((after) => {
          if (after > event.timeStamp) delays.value = [...delays.value, after - event.timeStamp].slice(-MOST)
        }),
      )
    },
    { capture: true },
  )
  return delays
}

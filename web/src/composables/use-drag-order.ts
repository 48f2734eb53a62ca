import { ref, type Ref } from 'vue'

const DRAG_PX = 14

interface Drag {
  key: string
  pointer: number
  x: number
  y: number
  moved: boolean
  to: number
}

/**
 * Arranging by dragging with any pointer, in reading order, and by Shift and arrow keys. Items carry their key in
 * `data-key`; `move` puts one at a place among the others.
 */
export function useDragOrder(
  holder: Readonly<Ref<HTMLElement | null>>,
  move: (key: string, to: number) => void,
  upright: () => boolean = () => false,
) {
  const drag = ref<Drag>()
  const carried = (key: string) => !!drag.value?.moved && drag.value.key === key

  function take(event: PointerEvent, key: string, place: number) {
    if (event.button) return
    drag.value = { key, pointer: event.pointerId, x: event.clientX, y: event.clientY, moved: false, to: place }
  }

  function carry(event: PointerEvent) {
    const now = drag.value
    if (!now || event.pointerId !== now.pointer || !holder.value) return
    if (!now.moved && Math.hypot(event.clientX - now.x, event.clientY - now.y) < DRAG_PX) return
    if (!now.moved) (event.currentTarget as Element).setPointerCapture(event.pointerId)
    now.moved = true
    const items = [...holder.value.querySelectorAll<HTMLElement>('[data-key]')].filter((i) => i.dataset.key !== now.key)
    const rows = items.map((i) => i.getBoundingClientRect())
    const y = Math.min(
      Math.max(event.clientY, Math.min(...rows.map((r) => r.top))),
      Math.max(...rows.map((r) => r.bottom)),
    )
    now.to = rows.filter((r) => {
      if (upright()) return event.clientY > r.top + r.height / 2
      return r.bottom < y || (r.top <= y && event.clientX > r.left + r.width / 2)
    }).length
  }

  function drop() {
    const now = drag.value
    if (now?.moved) move(now.key, now.to)
    // the click that follows a drag picks nothing
    setTimeout(() => (drag.value = undefined))
  }

  function key(event: KeyboardEvent, of: string, place: number) {
    const step = { ArrowLeft: -1, ArrowRight: 1, ArrowUp: -1, ArrowDown: 1 }[event.key]
    if (!step || !event.shiftKey) return
    event.preventDefault()
    move(of, place + step)
  }

  /** Listeners of one item. */
  const of = (name: string, place: number) => ({
    'data-key': name,
    onKeydown: (event: KeyboardEvent) => key(event, name, place),
    onPointerdown: (event: PointerEvent) => take(event, name, place),
    onPointermove: carry,
    onPointerup: drop,
    onPointercancel: () => (drag.value = undefined),
    onDragstart: (event: DragEvent) => event.preventDefault(),
  })
  return { of, carried, dragged: () => !!drag.value?.moved }
}

/** A list with one item moved to a place among the others. */
export function withMoved<T>(items: readonly T[], item: T, to: number): T[] {
  const others = items.filter((i) => i !== item)
  others.splice(Math.min(Math.max(to, 0), others.length), 0, item)
  return others
}

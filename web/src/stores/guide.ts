import { useLocalStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed } from 'vue'

/** What lies on the page to draw along. */
export type GuideKind = 'none' | 'edge' | 'compass'
/** A place of the page made one on the guide. */
export type Rail = (x: number, y: number) => [number, number]
interface Guide {
  kind: GuideKind
  /** Middle of the straightedge or of the compass, page mm. */
  x: number
  y: number
  /** How the edge rises to the right, degrees. */
  angle: number
  radius: number
}

export const EDGE_MM = { long: 160, wide: 14 } as const
const REACH_MM = 3 // a stroke that lands this near goes along the guide
const SNAP_DEG = 1.5 // turns this near to an eighth of a turn are one
export const RADII_MM = [1, 200] as const

/** The straightedge or the compass: where it lies, and how strokes that land at it go along. */
export const useGuide = defineStore('guide', () => {
  const guide = useLocalStorage<Guide>('gray-quill-guide', { kind: 'none', x: 74, y: 60, angle: 0, radius: 30 })
  const on = computed(() => guide.value.kind !== 'none')
  /** Along the edge and across it, unit vectors. */
  const axes = () => {
    const a = (-guide.value.angle * Math.PI) / 180
    return { u: [Math.cos(a), Math.sin(a)] as const, v: [-Math.sin(a), Math.cos(a)] as const }
  }

  /** What a stroke that lands at a place goes along; undefined where the guide is too far away. */
  function railAt(x: number, y: number): Rail | undefined {
    const { kind, x: cx, y: cy, radius } = guide.value
    if (kind === 'compass') {
      if (Math.abs(Math.hypot(x - cx, y - cy) - radius) > REACH_MM) return undefined
      return (px, py) => {
        const away = Math.hypot(px - cx, py - cy)
        return away < 1e-6 ? [cx + radius, cy] : [cx + ((px - cx) * radius) / away, cy + ((py - cy) * radius) / away]
      }
    }
    if (kind !== 'edge') return undefined
    const { u, v } = axes()
    const along = (x - cx) * u[0] + (y - cy) * u[1]
    const across = (x - cx) * v[0] + (y - cy) * v[1]
    const side = across < 0 ? -1 : 1
    const from = Math.abs(across) - EDGE_MM.wide / 2
    // one cannot draw on the edge itself: what lands there comes out at its nearer side
    if (Math.abs(along) > EDGE_MM.long / 2 || from > REACH_MM) return undefined
    const off = (side * EDGE_MM.wide) / 2
    const limit = EDGE_MM.long / 2
    return (px, py) => {
      const s = Math.min(limit, Math.max(-limit, (px - cx) * u[0] + (py - cy) * u[1]))
      return [cx + u[0] * s + v[0] * off, cy + u[1] * s + v[1] * off]
    }
  }

  const wrapped = (angle: number) => ((((angle + 180) % 360) + 360) % 360) - 180
  const snapped = (angle: number) => {
    const eighth = Math.round(angle / 45) * 45
    return wrapped(Math.abs(angle - eighth) < SNAP_DEG ? eighth : Math.round(angle * 10) / 10)
  }
  function set(change: Partial<Guide>) {
    const next = { ...guide.value, ...change }
    guide.value = {
      ...next,
      angle: wrapped(next.angle),
      radius: Math.min(RADII_MM[1], Math.max(RADII_MM[0], next.radius)),
    }
  }
  /** Lay a guide down in the middle of what is seen. */
  function lay(kind: GuideKind, x: number, y: number) {
    set(kind === 'none' ? { kind } : { kind, x, y })
  }

  return { guide, on, railAt, set, lay, snapped }
})

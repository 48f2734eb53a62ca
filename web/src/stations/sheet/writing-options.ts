import type { Ref } from 'vue'
import type { Recipe } from '@/api/client'
import {
  columnsOf,
  type Deposit,
  type PageView,
  type PalmEvent,
  type PalmPlan,
  type PalmTouch,
  type PenPlan,
  type Point,
  type Sample,
} from '@/ink'
import type { Side } from '@/stores/gesture-actions'
import type { Rail } from '@/stores/guide'
import type { NewStroke } from '@/stores/ink'
import type { Seen } from './use-page'

export interface Wet {
  plan: PenPlan
  points: readonly Point[]
  /** What it started from. */
  deposit?: Deposit | undefined
}

/** A pen as it writes: its plan, the revision that is kept, and what it is where that differs. */
export interface WrittenWith {
  plan: PenPlan
  id: string
  revision: number
  draft: Recipe | null
  /** What its way does instead of writing. */
  does?: 'rub' | 'choose' | 'look' | 'point' | 'read' | 'print'
  /** What the plan was made of. */
  recipe?: Recipe
}

export interface WritingOptions {
  /** Shows the part of the page that is seen. */
  canvas: Ref<HTMLCanvasElement | null>
  /** Lies over it: what look-ahead draws. */
  aheadCanvas: Ref<HTMLCanvasElement | null>
  seen: Ref<Seen>
  /** What the ink there left for the pen. */
  deposit: Ref<Deposit | undefined>
  /** The whole page, and its CSS and device pixels a millimetre. */
  page: Ref<HTMLElement | null>
  cssScale: Ref<number>
  scale: Ref<number>
  /** The pen in use, or undefined while it is not known yet. */
  pen: (event: PointerEvent) => WrittenWith | undefined
  /** What a stroke that lands at a place of the page goes along. */
  railAt: (x: number, y: number) => Rail | undefined
  /** The nib goes on writing. */
  wrote: (samples: readonly Sample[]) => void
  /** Whether the nib, held still, now sizes a figure and writes no more; and where it went then. */
  sizes: () => boolean
  sizing: (sample: Sample) => void
  /** Ink that is being written, as it is reported, and that it came to nothing. */
  inked: (samples: readonly Sample[], pen: WrittenWith) => void
  dropped: () => void
  /** A way that does not write goes on. */
  going: (samples: readonly Sample[], does: WrittenWith['does']) => void
  /** So many fingers tapped the page together, or swiped to one side, and the palm rules took none for a palm. */
  fingered: (fingers: number, side?: Side) => void
  /** What was felt on the glass, report by report, and what the palm rules made of a touch. */
  felt: (e: PalmEvent) => void
  decided: (touch: PalmTouch) => void
  /** The first of some fingers landed. */
  landed: () => void
  /** The pen's barrel button was pressed while it hovers. */
  barrel: () => void
  /** The palm rules as they are now. */
  palm: Ref<PalmPlan | undefined>
  /** A pen was seen. */
  penSeen: () => void
  /** CSS pixels a true millimetre. */
  pxPerMm: () => number
  /** How kept fingers move the page, from the beginning of this engine on; `held` while a finger is still down. */
  moved: (view: PageView, held: boolean) => void
  /** The engine begins anew: the next `moved` counts from where the page lies now. */
  begun: () => void
  /** A finished stroke: what to keep, and how it was drawn. */
  lifted: (stroke: NewStroke, wet: Wet, pen: WrittenWith) => void
  /** A finger's stroke that turned out to be a palm's: take it back. */
  withdrawn: (strokeId: string) => void
}

/** A finished stroke as it is kept. */
export function strokeOf(samples: Sample[], begunMs: number, pointerType: string, pen: WrittenWith): NewStroke {
  return {
    id: crypto.randomUUID(),
    pen_id: pen.id,
    revision: pen.revision,
    draft: pen.draft,
    layer: null,
    begun_ms: begunMs + samples[0]!.tS * 1000,
    ...columnsOf(samples, pointerType),
  }
}

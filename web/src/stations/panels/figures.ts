import type { Schemas } from '@/api/client'

/** A panel's figures as they are being changed; what is left out is as it was. */
export interface Figures {
  panel?: Schemas['Panel']
  updates?: Schemas['Updates']
}

export type Toning = Required<Schemas['Toning']>
export const PLAIN: Toning = { dither: 'none', greys: 0, bolder_px: 0, raised: 1 }

/** What is played on every panel: a part of the page, and what is done after it is written. */
export interface FilmAsked {
  x_mm: number
  y_mm: number
  width_mm: number
  then: string
  frames_hz: number
}

/** What stands below a proof. */
export const BELOW = {
  lens: 'Lens',
  advice: 'What helps',
  exports: 'Sent out',
  figures: 'Figures of this panel',
} as const
export type Below = keyof typeof BELOW

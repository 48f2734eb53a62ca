import type { Schemas } from '@/api/client'

/** A panel's figures as they are being changed; what is left out is as it was. */
export interface Figures {
  panel?: Schemas['Panel']
  updates?: Schemas['Updates']
}

/** What is played on every panel: a part of the page, and what is done after it is written. */
export interface FilmAsked {
  x_mm: number
  y_mm: number
  width_mm: number
  then: string
  frames_hz: number
}

import type { Schemas } from '@/api/client'

export type ByEye = Partial<Schemas['ByEye']>

/** What was found so far of the screen in front of the user. */
export interface Checked {
  seen?: Schemas['Seen']
  refreshHz?: number
  straight?: Schemas['Straightness']
  byEye?: ByEye
}

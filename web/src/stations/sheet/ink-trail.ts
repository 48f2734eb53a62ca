import type { PenPlan } from '@/ink'

/** The W3C Ink API (draft), as far as it is used here. */
interface Presenter {
  updateInkTrailStartPoint(event: PointerEvent, style: { color: string; diameter: number }): void
}
interface InkNavigator {
  ink?: { requestPresenter(options: { presentationArea: Element }): Promise<Presenter> }
}

/**
 * The system's own compositor carries the line on from the last point drawn here to the nib, later than any script can.
 * It only knows plain round lines of full opacity.
 */
export class InkTrail {
  private presenter: Presenter | undefined
  private of: Element | undefined

  /** Asked for between strokes, so that the next one has it. */
  async prepare(area: Element | null): Promise<void> {
    const { ink } = navigator as InkNavigator
    if (!area || !ink || this.of === area) return
    this.of = area
    this.presenter = await ink.requestPresenter({ presentationArea: area }).catch(() => undefined)
  }

  static fits(plan: PenPlan): boolean {
    return plan.shape === 'round' && plan.opacity === 1 && !plan.grain && !plan.hollow && !plan.wet && !plan.straight
  }

  carry(event: PointerEvent, plan: PenPlan, diameterPx: number): void {
    if (!this.presenter || !event.isTrusted || !InkTrail.fits(plan)) return
    try {
      this.presenter.updateInkTrailStartPoint(event, { color: plan.colour, diameter: Math.max(1, diameterPx) })
    } catch {
      this.presenter = undefined // an area or event it does not take: it is done without
    }
  }
}

"""One spot on the ink: what the hand did there and which terms made the width."""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.errors import NotFound
from gray_quill.core.ink.settle import Ink, width_terms
from gray_quill.core.ink.width import pen_samples
from gray_quill.core.trace import Trace

REACH_MM = 3.0


@dataclasses.dataclass(frozen=True)
class Spot:
    """stroke, sample: where. Factors multiply the body's width: width = body * press * pace * taper."""

    stroke: int
    sample: int
    x_mm: float
    y_mm: float
    force: float
    speed_mm_s: float
    altitude_deg: float
    azimuth_deg: float
    width_mm: float
    body_mm: float
    press_factor: float
    pace_factor: float
    taper_factor: float
    lean_factor: float


def find_spot(traces: Sequence[Trace], inks: Sequence[Ink], x_mm: float, y_mm: float) -> Spot:
    """The sample whose ink lies nearest to a place on the page, at most REACH_MM from the ink's edge."""
    gaps = [np.hypot(ink.x_mm - x_mm, ink.y_mm - y_mm) - ink.long_mm / 2 for ink in inks]
    if not gaps or min(float(g.min()) for g in gaps) > REACH_MM:
        raise NotFound("There is no ink there. Press on a stroke.")
    stroke = int(np.argmin([g.min() for g in gaps]))
    trace, ink = traces[stroke], inks[stroke]
    sample = min(round(float(ink.at[int(gaps[stroke].argmin())])), len(trace) - 1)
    terms = width_terms(trace, ink.recipe)
    speed = pen_samples(trace, ink.recipe).speed_mm_s
    at = int(np.searchsorted(ink.at, sample - 1e-9))
    at = min(at, len(ink.x_mm) - 1)
    body = ink.recipe.body.width_mm
    round_tip = ink.recipe.wash.tip.shape == "round"
    return Spot(
        stroke=stroke,
        sample=sample,
        x_mm=float(ink.x_mm[at]),
        y_mm=float(ink.y_mm[at]),
        force=float(trace.force[sample]),
        speed_mm_s=float(speed[sample]),
        altitude_deg=float(np.degrees(trace.altitude[sample])),
        azimuth_deg=float(np.degrees(trace.azimuth[sample])),
        width_mm=float(np.exp(sum(t[sample] for t in terms.values()))),
        body_mm=body,
        press_factor=float(np.exp(terms["press"][sample])),
        pace_factor=float(np.exp(terms["pace"][sample])),
        taper_factor=float(np.exp(terms["taper"][sample])),
        lean_factor=float(ink.long_mm[at] / ink.short_mm[at]) if round_tip else 1.0,
    )

"""A sheet's ink coming about again: as it was written, stroke by stroke, or at one steady speed."""

from collections.abc import Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.ink.settle import Ink
from gray_quill.core.panel.writing import Writing, starts_of
from gray_quill.core.trace import Trace, along_path_mm

BY = ("time", "stroke", "steady")
STROKE_S, GAP_S = 0.4, 0.12  # of each stroke and between two, where they come one by one
STEADY_MM_S = 60.0  # everyday writing; common practice, no source


def rewritten(traces: Sequence[Trace], inks: Sequence[Ink], by: str) -> Writing:
    """The writing in a time of its own. by: "time" as the hand took it, its pauses cut short; "stroke" each as long as
    the next; "steady" the nib at one speed.
    """
    if by == "time":
        return Writing(inks, starts_of(traces))
    times = [_times(ink, by) for ink in inks]
    lasts = np.array([float(t[-1]) + GAP_S for t in times])
    starts = np.concatenate(([0.0], np.cumsum(lasts)[:-1])) if times else lasts
    return Writing(inks, [float(s) for s in starts], times_s=times)


def _times(ink: Ink, by: str) -> Floats:
    if by == "steady":
        return along_path_mm(ink.x_mm, ink.y_mm) / STEADY_MM_S
    last = float(ink.t_s[-1])
    return ink.t_s * (STROKE_S / last) if last > 0 else ink.t_s

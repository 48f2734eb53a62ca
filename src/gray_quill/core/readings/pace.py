"""Pace: how quickly a hand wrote, and how often it was reported."""

from collections.abc import Sequence

import numpy as np

from gray_quill.core.trace import Trace


def report_hz(traces: Sequence[Trace]) -> float:
    """Reports a second, from the median time between them; 0 where no stroke has two."""
    intervals = [np.diff(t.t_s) for t in traces if len(t) > 1]
    return 1 / float(np.median(np.concatenate(intervals))) if intervals else 0.0


def median_speed_mm_s(traces: Sequence[Trace]) -> float:
    """Speed half of the reports are slower than; 0 where no stroke has two."""
    speeds = [np.hypot(np.diff(t.x_mm), np.diff(t.y_mm)) / np.diff(t.t_s) for t in traces if len(t) > 1]
    return float(np.median(np.concatenate(speeds))) if speeds else 0.0

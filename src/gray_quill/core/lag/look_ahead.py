"""Look-ahead: ink drawn where the nib will be if it keeps its velocity. It closes the gap by its horizon and overshoots
at turns.
"""

import math

import numpy as np

from gray_quill.core.arrays import Floats


def look_ahead(t_s: Floats, x_mm: Floats, y_mm: Floats, horizon_ms: float) -> tuple[Floats, Floats]:
    """Where ink would be drawn at each report, from that report and the one before, shapes (n,)."""
    dt = np.diff(t_s, prepend=2 * t_s[0] - t_s[1])
    out = []
    for v in (x_mm, y_mm):
        step = np.diff(v, prepend=v[0])
        out.append(v + step / dt * horizon_ms / 1000)
    return out[0], out[1]


def overshoot_mm(radius_mm: float, speed_mm_s: float, horizon_ms: float) -> float:
    """How far outside a circle ink is drawn: the tangent of length v h leaves it by sqrt(r^2 + (v h)^2) - r."""
    return math.hypot(radius_mm, speed_mm_s * horizon_ms / 1000) - radius_mm

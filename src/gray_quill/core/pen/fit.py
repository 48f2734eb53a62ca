"""Press fit: floor, ceiling and curve from the force a hand really uses.

Floor is the 2nd percentile of the samples, ceiling the 98th. The curve maps the writer's quantiles towards an even
spread: blend 0 is the straight line, 1 full equalisation (every tenth of the samples gets a tenth of the pen's range).
"""

import dataclasses

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError
from gray_quill.core.pen.pressure_curve import SMALLEST_SPAN, Press, press_share

FEWEST_SAMPLES = 60
QUANTILES = (0.2, 0.4, 0.6, 0.8)
SMALLEST_STEP = 0.02  # between neighbouring points, so that the curve keeps its order
FLOOR_PERCENT, CEILING_PERCENT = 2.0, 98.0


def fit_press(force: Floats, press: Press, blend: float) -> Press:
    """The press record fitted to force samples; range and opacity range stay. Raises InputError for too little to go
    by.
    """
    if len(force) < FEWEST_SAMPLES or np.ptp(force) < SMALLEST_SPAN:
        raise InputError(
            f"There is too little force to go by: write at least {FEWEST_SAMPLES} reports, light and firm, with a "
            "pen that senses force.",
            "source",
        )
    floor, ceiling = np.percentile(force, (FLOOR_PERCENT, CEILING_PERCENT))
    floor = float(np.clip(floor, 0, 0.9))
    ceiling = float(np.clip(max(ceiling, floor + 0.05), 0.05, 1))
    spread = np.clip((force - floor) / (ceiling - floor), 0, 1)
    points = [(0.0, 0.0)]
    for q, x in zip(QUANTILES, np.quantile(spread, QUANTILES), strict=True):
        x = float(x)
        y = (1 - blend) * x + blend * q
        if x - points[-1][0] >= SMALLEST_STEP and 1 - x >= SMALLEST_STEP:
            points.append((round(x, 4), round(float(np.clip(y, points[-1][1], 1)), 4)))
    return dataclasses.replace(press, floor=round(floor, 4), ceiling=round(ceiling, 4), points=(*points, (1.0, 1.0)))


@dataclasses.dataclass(frozen=True)
class CubicForm:
    """A press curve as cubic-bezier(x1, y1, x2, y2) of CSS Easing Functions Level 1, and its largest error in P."""

    x1: float
    y1: float
    x2: float
    y2: float
    largest_error: float


def cubic_bezier(form: tuple[float, float, float, float], x: Floats) -> Floats:
    """y(x) of the cubic with control points (0,0), (x1,y1), (x2,y2), (1,1); x1 and x2 in 0..1. Solved by bisection."""
    x1, y1, x2, y2 = form
    low, high = np.zeros_like(x), np.ones_like(x)
    for _ in range(52):
        t = (low + high) / 2
        over = 3 * (1 - t) ** 2 * t * x1 + 3 * (1 - t) * t * t * x2 + t**3 > x
        high, low = np.where(over, t, high), np.where(over, low, t)
    t = (low + high) / 2
    return np.asarray(
        np.where((x <= 0) | (x >= 1), np.clip(x, 0, 1), 3 * (1 - t) ** 2 * t * y1 + 3 * (1 - t) * t * t * y2 + t**3)
    )


def cubic_form(press: Press) -> CubicForm:
    """The two-point cubic nearest to the press curve between floor and ceiling (least squares over 101 points)."""
    from scipy.optimize import least_squares  # late, as in readings/tremor.py

    x = np.linspace(0, 1, 101)
    plain = dataclasses.replace(press, floor=0.0, ceiling=1.0)
    target = press_share(plain, x)

    def miss(p: Floats) -> Floats:
        return cubic_bezier((p[0], p[1], p[2], p[3]), x) - target

    found = least_squares(miss, (0.33, 0.33, 0.67, 0.67), bounds=((0, 0, 0, 0), (1, 1, 1, 1)))
    x1, y1, x2, y2 = (float(v) for v in found.x)
    return CubicForm(x1, y1, x2, y2, float(np.abs(found.fun).max()))

"""leash: the tip is pulled on a leash and moves only when it is taut."""

import math

import numba
import numpy as np

from gray_quill.core.pen.steady.base import Method, power_law

LARGEST_MM = 4.0


@numba.njit(cache=True)
def leash(t, x, y, slack_mm, _beta, _d_cutoff_hz):  # type: ignore[no-untyped-def]
    """The tip stays within slack_mm of the hand; independent of time, so of the report rate too."""
    n = len(t)
    xs, ys = np.empty(n), np.empty(n)
    xs[0], ys[0] = x[0], y[0]
    for i in range(1, n):
        dx, dy = x[i] - xs[i - 1], y[i] - ys[i - 1]
        reach = math.sqrt(dx * dx + dy * dy)
        pull = 0.0 if reach <= slack_mm else 1.0 - slack_mm / reach
        xs[i] = xs[i - 1] + dx * pull
        ys[i] = ys[i - 1] + dy * pull
    return xs, ys


_parameter, _amount = power_law(LARGEST_MM, 2.0)
LEASH = Method("leash", "length", "mm", "Swallows every movement shorter than the leash", _parameter, _amount, leash)

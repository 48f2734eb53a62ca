"""leash: the tip is pulled on a leash and moves only when it is taut."""

import math

import numba
import numpy as np

from gray_quill.core.pen.steady.base import Method, power_law

LARGEST_MM = 4.0


@numba.njit(cache=True)
def leash(t, values, slack_mm, _beta, _d_cutoff_hz):  # type: ignore[no-untyped-def]
    """The tip stays within slack_mm of the hand; independent of time, so of the report rate too."""
    n, m = values.shape
    out = np.empty((n, m))
    out[0] = values[0]
    for i in range(1, n):
        dx, dy = values[i, 0] - out[i - 1, 0], values[i, 1] - out[i - 1, 1]
        reach = math.sqrt(dx * dx + dy * dy)
        pull = 0.0 if reach <= slack_mm else 1.0 - slack_mm / reach
        for k in range(m):
            out[i, k] = out[i - 1, k] + (values[i, k] - out[i - 1, k]) * pull
    return out


_parameter, _amount = power_law(LARGEST_MM, 2.0)
LEASH = Method("leash", "length", "mm", "Swallows every movement shorter than the leash", _parameter, _amount, leash)

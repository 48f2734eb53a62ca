"""follow: the tip follows the hand exponentially, alpha = 1 - exp(-dt / tau)."""

import math

import numba
import numpy as np

from gray_quill.core.pen.steady.base import Method, power_law

LARGEST_MS = 150.0


@numba.njit(cache=True)
def follow(t, x, y, tau_ms, _beta, _d_cutoff_hz):  # type: ignore[no-untyped-def]
    """Exponential smoothing with time constant tau_ms; a ramp is followed with a delay near tau."""
    n = len(t)
    xs, ys = np.empty(n), np.empty(n)
    xs[0], ys[0] = x[0], y[0]
    for i in range(1, n):
        a = 1.0 - math.exp(-(t[i] - t[i - 1]) * 1000.0 / tau_ms)
        xs[i] = xs[i - 1] + a * (x[i] - xs[i - 1])
        ys[i] = ys[i - 1] + a * (y[i] - ys[i - 1])
    return xs, ys


_parameter, _amount = power_law(LARGEST_MS, 1.5)
FOLLOW = Method("follow", "time constant", "ms", "The same calm at every speed, the same delay too", _parameter, _amount, follow)

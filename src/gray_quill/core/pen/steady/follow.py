"""follow: the tip follows the hand exponentially with time constant tau.

The hand is taken to move straight from report to report, and the exponential follows that motion exactly:

    y_i = x_i - v tau (1 - e) + e (y_(i-1) - x_(i-1)),  e = exp(-dt / tau), v the hand's velocity in between.

Holding each report still until the next one, y_i = y_(i-1) + (1 - e)(x_i - y_(i-1)), would shorten the delay by half a
report interval and so depend on the report rate; this form is late by tau at every rate.
"""

import math

import numba
import numpy as np

from gray_quill.core.pen.steady.base import Method, power_law

LARGEST_MS = 150.0


@numba.njit(cache=True)
def follow(t, values, tau_ms, _beta, _d_cutoff_hz):  # type: ignore[no-untyped-def]
    """Exponential smoothing with time constant tau_ms; a ramp is followed tau_ms late at any report rate."""
    n, m = values.shape
    out = np.empty((n, m))
    out[0] = values[0]
    for i in range(1, n):
        steps = (t[i] - t[i - 1]) * 1000.0 / tau_ms
        e = math.exp(-steps)
        late = (1.0 - e) / steps
        for k in range(m):
            before, now = values[i - 1, k], values[i, k]
            out[i, k] = now - (now - before) * late + e * (out[i - 1, k] - before)
    return out


_parameter, _amount = power_law(LARGEST_MS, 1.5)
FOLLOW = Method(
    "follow", "time constant", "ms", "The same calm at every speed, the same delay too", _parameter, _amount, follow
)

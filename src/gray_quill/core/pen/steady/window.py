"""window: the mean of the last T ms of the path.

The mean is of the path as a function of time (straight between samples, resting at its start before it), not of the
samples, so that it does not depend on the report rate.
"""

import numba
import numpy as np

from gray_quill.core.pen.steady.base import Method, power_law

LARGEST_MS = 300.0


@numba.njit(cache=True)
def window(t, values, window_ms, _beta, _d_cutoff_hz):  # type: ignore[no-untyped-def]
    """Time-weighted mean over the last window_ms at each sample."""
    n, m = values.shape
    span = window_ms / 1000.0
    out = np.empty((n, m))
    total = np.zeros((n, m))  # integrals from the start
    out[0] = values[0]
    j = 0
    for i in range(1, n):
        dt = t[i] - t[i - 1]
        for k in range(m):
            total[i, k] = total[i - 1, k] + (values[i, k] + values[i - 1, k]) / 2 * dt
        since = t[i] - span
        if since <= t[0]:
            rest = t[0] - since
            for k in range(m):
                out[i, k] = (total[i, k] + values[0, k] * rest) / span
            continue
        while t[j + 1] <= since:
            j += 1
        u = since - t[j]
        share = u / (t[j + 1] - t[j])
        for k in range(m):
            then = values[j, k] + (values[j + 1, k] - values[j, k]) * share
            out[i, k] = (total[i, k] - total[j, k] - (values[j, k] + then) / 2 * u) / span
    return out


_parameter, _amount = power_law(LARGEST_MS, 1.5)
WINDOW = Method("window", "window", "ms", "Plain averaging: calm curves, late corners", _parameter, _amount, window)

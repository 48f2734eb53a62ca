"""window: the mean of the last T ms of the path.

The mean is of the path as a function of time (straight between samples, resting at its start before it), not of the
samples, so that it does not depend on the report rate.
"""

import numba
import numpy as np

from gray_quill.core.pen.steady.base import Method, power_law

LARGEST_MS = 300.0


@numba.njit(cache=True)
def window(t, x, y, window_ms, _beta, _d_cutoff_hz):  # type: ignore[no-untyped-def]
    """Time-weighted mean over the last window_ms at each sample."""
    n = len(t)
    span = window_ms / 1000.0
    xs, ys = np.empty(n), np.empty(n)
    ix, iy = np.zeros(n), np.zeros(n)  # integrals of the path from its start
    xs[0], ys[0] = x[0], y[0]
    j = 0
    for i in range(1, n):
        dt = t[i] - t[i - 1]
        ix[i] = ix[i - 1] + (x[i] + x[i - 1]) / 2 * dt
        iy[i] = iy[i - 1] + (y[i] + y[i - 1]) / 2 * dt
        since = t[i] - span
        if since <= t[0]:
            rest = t[0] - since
            xs[i] = (ix[i] + x[0] * rest) / span
            ys[i] = (iy[i] + y[0] * rest) / span
            continue
        while t[j + 1] <= since:
            j += 1
        u = since - t[j]
        share = u / (t[j + 1] - t[j])
        bx, by = x[j] + (x[j + 1] - x[j]) * share, y[j] + (y[j + 1] - y[j]) * share
        xs[i] = (ix[i] - ix[j] - (x[j] + bx) / 2 * u) / span
        ys[i] = (iy[i] - iy[j] - (y[j] + by) / 2 * u) / span
    return xs, ys


_parameter, _amount = power_law(LARGEST_MS, 1.5)
WINDOW = Method("window", "window", "ms", "Plain averaging: calm curves, late corners", _parameter, _amount, window)

"""The catch-up at the lift: the tip goes the rest of the hand's own way, as the hand went it."""

import numba
import numpy as np

NEAR_MM = 1e-6  # a tip nearer to the hand than this has nothing to catch up
SEARCH_GAPS, SEARCH_MM = 4.0, 1.0  # how far back along the way the tip is looked for: some times its gap, and a bit


@numba.njit(cache=True)
def caught_up(values, tip):  # type: ignore[no-untyped-def]
    """The tip's last values, (k, m), one for each report of the hand, (n, m), since the hand was where the tip is when
    the pen lifts; none where it is there already.

    From the hand's place nearest to the tip on, what sets them apart there shrinks to nothing along the way, so that
    the tip ends exactly where, and as, the pen lifted.
    """
    n, m = values.shape
    gap = np.hypot(values[n - 1, 0] - tip[0], values[n - 1, 1] - tip[1])
    if gap <= NEAR_MM:
        return values[:0].copy()
    left = SEARCH_GAPS * gap + SEARCH_MM
    nearest, at, way = gap, n - 1, 0.0
    along = np.zeros(n)  # from each report to the lift
    for i in range(n - 2, -1, -1):
        way += np.hypot(values[i + 1, 0] - values[i, 0], values[i + 1, 1] - values[i, 1])
        if way > left:
            break
        along[i] = way
        apart = np.hypot(values[i, 0] - tip[0], values[i, 1] - tip[1])
        if apart < nearest:
            nearest, at = apart, i
    if at == n - 1 or along[at] <= 0.0:
        return values[n - 1 :].copy()
    out = np.empty((n - 1 - at, m))
    for i in range(at + 1, n):
        share = along[i] / along[at]
        for k in range(m):
            out[i - at - 1, k] = values[i, k] + (tip[k] - values[at, k]) * share
    return out

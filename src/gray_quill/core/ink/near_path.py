"""Which places lie near a way: the one question of rubbing, asked of thousands of places at once."""

import numba
import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats


def near_path(x: Floats, y: Floats, reach_mm: Floats | float, path_mm: Floats) -> NDArray[np.bool_]:
    """For places (n,), whether each lies within its reach of a way (m, 2), a single point or a line of segments."""
    # copies: one kind of array, for which the kernel is compiled once
    reach = np.full(len(x), reach_mm, float) if np.isscalar(reach_mm) else np.array(reach_mm, float)
    near: NDArray[np.bool_] = _near(np.array(x, float), np.array(y, float), reach, np.array(path_mm, float, order="C"))
    return near


@numba.njit(cache=True)
def _near(x, y, reach, way):  # type: ignore[no-untyped-def]
    found = np.zeros(len(x), np.bool_)
    if len(x) == 0:
        return found
    # parts of the way that are near none of these places are left out first
    far = reach.max()
    left, right, top, bottom = x.min() - far, x.max() + far, y.min() - far, y.max() + far
    last = max(1, len(way) - 1)
    for k in range(last):
        ax, ay = way[k]
        bx, by = way[min(k + 1, len(way) - 1)]
        if max(ax, bx) < left or min(ax, bx) > right or max(ay, by) < top or min(ay, by) > bottom:
            continue
        dx, dy = bx - ax, by - ay
        square = dx * dx + dy * dy
        for i in range(len(x)):
            if found[i]:
                continue
            px, py = x[i] - ax, y[i] - ay
            share = 0.0 if square == 0 else min(1.0, max(0.0, (px * dx + py * dy) / square))
            px, py = px - share * dx, py - share * dy
            found[i] = px * px + py * py <= reach[i] * reach[i]
    return found

"""Fewer greys: rounding, ordered dither (Bayer, IEEE ICC 1973) and error diffusion (Floyd and Steinberg, Proc. SID
17(2), 1976).

Greys are spaced evenly in the encoded (sRGB) value, as panels that take 4-bit pictures space them.
"""

import numba
import numpy as np
from numpy.typing import NDArray

from gray_quill.core.errors import RecordError, unknown_choice

Grey = NDArray[np.uint8]
METHODS = ("none", "ordered", "diffuse")


def bayer(order: int) -> NDArray[np.int64]:
    """Index matrix of side 2^order by the published recursion; holds 0 .. 4^order - 1 once each."""
    m = np.zeros((1, 1), np.int64)
    for _ in range(order):
        m = np.block([[4 * m, 4 * m + 2], [4 * m + 3, 4 * m + 1]])
    return m


def check_choice(greys: int, method: str) -> None:
    """Refuse a number of greys or a method that is not known."""
    if not 2 <= greys <= 256:
        raise RecordError("A panel shows 2 to 256 greys.", "greys")
    if method not in METHODS:
        raise unknown_choice("The dither", method, METHODS, "dither")


def reduce_greys(grey: Grey, greys: int, method: str = "none") -> Grey:
    """The picture in `greys` levels from 0 to 255, shape kept."""
    check_choice(greys, method)
    if greys == 256:
        return grey
    if method == "diffuse":
        return np.asarray(_diffuse(grey, greys), np.uint8)
    shares = grey / 255 * (greys - 1)
    if method == "none":
        index = np.floor(shares + 0.5)
    else:
        m = (bayer(3) + 0.5) / 64
        tiled = np.tile(m, (grey.shape[0] // 8 + 1, grey.shape[1] // 8 + 1))[: grey.shape[0], : grey.shape[1]]
        index = np.floor(shares) + (shares - np.floor(shares) > tiled)
    return np.asarray(np.round(index * 255 / (greys - 1)), np.uint8)


@numba.njit(cache=True, nogil=True, fastmath=True)
def _diffuse(grey, greys):  # type: ignore[no-untyped-def]
    """Textbook error diffusion: left to right on every row, 7 3 5 1 sixteenths, errors kept whole, lost
    at the edges.
    """
    height, width = grey.shape
    out = np.empty((height, width), np.uint8)
    step = np.float32(255.0) / np.float32(greys - 1)
    per_step = np.float32(1.0) / step
    here, below = np.zeros(width + 2, np.float32), np.zeros(width + 2, np.float32)
    top = greys - 1
    for j in range(height):
        right = np.float32(0.0)
        for i in range(width):
            value = grey[j, i] + here[i + 1] + right
            level = int(value * per_step + np.float32(0.5)) if value > 0 else 0
            if level > top:
                level = top
            shown = level * step
            error = (value - shown) * np.float32(0.0625)
            out[j, i] = int(shown + np.float32(0.5))
            right = error * np.float32(7.0)
            below[i] += error * np.float32(3.0)
            below[i + 1] += error * np.float32(5.0)
            below[i + 2] += error
        here, below = below, here
        below[:] = 0
    return out

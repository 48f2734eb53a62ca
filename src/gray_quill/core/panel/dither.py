"""Fewer greys: rounding, ordered dither (Bayer, IEEE ICC 1973), blue noise (blue_noise.py) and error diffusion by named
kernels.

Greys are spaced evenly in the encoded (sRGB) value, as panels that take 4-bit pictures space them. What lies between
two of them is mixed by light: from afar the eye adds up light, not encoded values. Rounding goes to the nearer encoded
value and mixes nothing.
"""

import functools
from typing import NamedTuple

import numba
import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import decode_srgb
from gray_quill.core.errors import RecordError, unknown_choice
from gray_quill.core.panel.blue_noise import blue_noise

Grey = NDArray[np.uint8]
# Where a pixel's error goes: (columns to the right, rows down, part). Floyd and Steinberg, Proc. SID 17(2), 1976;
# Jarvis, Judice and Ninke, CGIP 5, 1976; Stucki, IBM RZ1060, 1981; Burkes, 1988; Sierra, 1989. All from memory.
KERNELS: dict[str, tuple[tuple[int, int, float], ...]] = {
    "floyd-steinberg": ((1, 0, 7 / 16), (-1, 1, 3 / 16), (0, 1, 5 / 16), (1, 1, 1 / 16)),
    "jarvis-judice-ninke": tuple(
        (x, y, part / 48)
        for y, row in enumerate(((7, 5), (3, 5, 7, 5, 3), (1, 3, 5, 3, 1)))
        for x, part in zip((1, 2) if y == 0 else (-2, -1, 0, 1, 2), row, strict=True)
    ),
    "stucki": tuple(
        (x, y, part / 42)
        for y, row in enumerate(((8, 4), (2, 4, 8, 4, 2), (1, 2, 4, 2, 1)))
        for x, part in zip((1, 2) if y == 0 else (-2, -1, 0, 1, 2), row, strict=True)
    ),
    "burkes": tuple(
        (x, y, part / 32)
        for y, row in enumerate(((8, 4), (2, 4, 8, 4, 2)))
        for x, part in zip((1, 2) if y == 0 else (-2, -1, 0, 1, 2), row, strict=True)
    ),
    "sierra": tuple(
        (x, y, part / 32)
        for y, row in enumerate(((5, 3), (2, 4, 5, 4, 2), (2, 3, 2)))
        for x, part in zip(((1, 2), (-2, -1, 0, 1, 2), (-1, 0, 1))[y], row, strict=True)
    ),
}
DITHERS = ("none", "ordered", "blue-noise", *KERNELS)
BEYOND = 0.625  # of 0..1, either way


class Levels(NamedTuple):
    """The greys there are. value: of each in the space they are mixed in, 0..1; encoded: 0..255. For each of `steps`
    steps of 0..1 and BEYOND it either way: bound, the one between two levels that lies in it or next above it, and
    under, over: those two, as values and encoded.
    """

    value: NDArray[np.float32]
    encoded: Grey
    steps: np.float32
    bound: NDArray[np.float32]
    under: NDArray[np.float32]
    over: NDArray[np.float32]
    under_encoded: Grey
    over_encoded: Grey


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
    if method not in DITHERS:
        raise unknown_choice("The dither", method, DITHERS, "dither")


def reduce_greys(grey: Grey, greys: int, method: str = "none", in_light: bool = True) -> Grey:
    """The picture in `greys` levels from 0 to 255, shape kept. in_light: levels are mixed by their light, else by their
    encoded values.
    """
    check_choice(greys, method)
    if greys == 256:
        return grey
    if method == "none":
        index = np.floor(np.arange(256) / 255 * (greys - 1) + 0.5)
        return np.asarray(np.round(index * 255 / (greys - 1)), np.uint8)[grey]
    levels, values = _levels(greys, in_light), _values(in_light)
    grey = np.require(grey, np.uint8, ("C", "W"))
    if method == "floyd-steinberg":
        return np.asarray(_floyd_steinberg(grey, values, levels), np.uint8)
    if method in KERNELS:
        return np.asarray(_diffuse(grey, values, levels, np.array(KERNELS[method], np.float32)), np.uint8)
    lower = np.clip(np.searchsorted(levels.value, values, side="right") - 1, 0, greys - 2)
    share = (values - levels.value[lower]) / (levels.value[lower + 1] - levels.value[lower])
    mask = (bayer(3) + 0.5) / 64 if method == "ordered" else blue_noise()
    return np.asarray(_threshold(grey, lower, share, mask, levels.encoded), np.uint8)


def _values(in_light: bool) -> NDArray[np.float32]:
    """Of each encoded grey, 0..1 in the space levels are mixed in."""
    encoded = np.arange(256) / 255
    return np.asarray(decode_srgb(encoded) if in_light else encoded, np.float32)


@functools.cache
def _levels(greys: int, in_light: bool) -> Levels:
    encoded = np.asarray(np.round(np.arange(greys) * 255 / (greys - 1)), np.uint8)
    # encoded greys between levels are not whole numbers where levels are mixed as encoded
    value: Floats = decode_srgb(encoded / 255) if in_light else np.arange(greys) / (greys - 1)
    bounds = (value[1:] + value[:-1]) / 2
    finest = float(np.diff(bounds, prepend=-1).min())
    steps = 1 << int(np.ceil(np.log2(2 / finest)))  # no two bounds in one step
    reach = np.arange(int(steps * (1 + 2 * BEYOND)) + 1) / steps - BEYOND
    k = np.minimum(np.searchsorted(bounds, reach, side="right"), greys - 2)

    def each(values: Floats) -> NDArray[np.float32]:
        return np.asarray(values, np.float32)

    return Levels(
        each(value),
        encoded,
        np.float32(steps),
        each(bounds[k]),
        each(value[k]),
        each(value[k + 1]),
        encoded[k],
        encoded[k + 1],
    )


@numba.njit(cache=True, nogil=True)
def _threshold(grey, lower, share, mask, encoded):  # type: ignore[no-untyped-def]
    """The upper of a grey's two levels where its share of it is over the mask, which repeats."""
    height, width = grey.shape
    rows, columns = mask.shape
    out = np.empty((height, width), np.uint8)
    for j in range(height):
        for i in range(width):
            g = grey[j, i]
            out[j, i] = encoded[lower[g] + (share[g] > mask[j % rows, i % columns])]
    return out


@numba.njit(cache=True, nogil=True, fastmath=True)
def _nearest(value, levels):  # type: ignore[no-untyped-def]
    """The level nearest to a value, as value and encoded. What is owed to a pixel is never more than half a step
    between levels, so that it lies within BEYOND of 0..1.
    """
    k = np.uint32(value * levels.steps + levels.steps * np.float32(BEYOND))
    if value >= levels.bound[k]:
        return levels.over[k], levels.over_encoded[k]
    return levels.under[k], levels.under_encoded[k]


@numba.njit(cache=True, nogil=True, fastmath=True)
def _floyd_steinberg(grey, values, levels):  # type: ignore[no-untyped-def]
    """Textbook error diffusion: left to right on every row, errors kept whole, lost at the edges.

    A pixel waits for its left neighbour, so two rows are gone over together, the lower two columns behind: while one
    waits the other goes on.
    """
    height, width = grey.shape
    out = np.empty((height, width), np.uint8)
    none, one = np.float32(0.0), np.uint32(1)
    above, between = np.zeros(width + 2, np.float32), np.zeros(width + 2, np.float32)  # owed to a row, one place on
    for j in range(0, height, 2):
        two = j + 1 < height
        right = near = far = none  # owed to the next pixel, and to those below the last and below the next
        lower_right = lower_near = lower_far = none
        for n in range(width + 2):
            if n < width:
                value = values[grey[j, n]] + above[n + 1] + right
                shown, out[j, n] = _nearest(value, levels)
                error = value - shown
                right = error * np.float32(7 / 16)
                between[n] = near + error * np.float32(3 / 16)
                near = far + error * np.float32(5 / 16)
                far = error * np.float32(1 / 16)
            elif n == width:
                between[n] = near
            if n > 1 and two:
                i = np.uint32(n - 2)
                value = values[grey[j + 1, i]] + between[i + one] + lower_right
                shown, out[j + 1, i] = _nearest(value, levels)
                error = value - shown
                lower_right = error * np.float32(7 / 16)
                above[i] = lower_near + error * np.float32(3 / 16)
                lower_near = lower_far + error * np.float32(5 / 16)
                lower_far = error * np.float32(1 / 16)
        above[width] = lower_near
    return out


@numba.njit(cache=True, nogil=True, fastmath=True)
def _diffuse(grey, values, levels, kernel):  # type: ignore[no-untyped-def]
    """The same with any kernel of three rows and two columns to either side."""
    height, width = grey.shape
    out = np.empty((height, width), np.uint8)
    owed = np.zeros((3, width + 4), np.float32)  # of this row and the two below
    for j in range(height):
        for i in range(width):
            value = values[grey[j, i]] + owed[j % 3, i + 2]
            shown, out[j, i] = _nearest(value, levels)
            error = value - shown
            for n in range(kernel.shape[0]):
                owed[(j + int(kernel[n, 1])) % 3, i + 2 + int(kernel[n, 0])] += error * kernel[n, 2]
        owed[j % 3] = 0
    return out

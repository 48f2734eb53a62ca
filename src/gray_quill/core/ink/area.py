"""Fills: the inside of a closed way as an area of colour, under the stroke that goes around it."""

import dataclasses
import math
from functools import lru_cache

import numba
import numpy as np

from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.quantities import changed, number, tint


@dataclasses.dataclass(frozen=True)
class Fill:
    """What the inside of a stroke is filled with."""

    colour: str = tint("#f2c14e", "Fill", "Colour of the inside")
    opacity: float = number(0.4, 0, 1, 0.01, "", "Opacity", "Of the fill")


@lru_cache(maxsize=64)
def fill_recipe(fill: Fill) -> Recipe:
    """The pen a fill is laid with: even, without a tip."""
    return changed(changed(Recipe(), "body.colour", fill.colour), "body.opacity", fill.opacity)


@numba.njit(cache=True, fastmath=True)
def cover_area(plane, x, y, lo, hi):  # type: ignore[no-untyped-def]
    """Raise the coverage to that of the inside of the closed way of points lo..hi, by the winding rule: exact area of
    each pixel, summed along rows from the signed area right of each side.
    """
    cov, row_lo, row_hi = plane
    height, width = cov.shape
    top = max(0, int(math.floor(y[lo:hi].min())))
    bottom = min(height, int(math.ceil(y[lo:hi].max())))
    left = max(0, int(math.floor(x[lo:hi].min())))
    right = min(width, int(math.ceil(x[lo:hi].max())) + 1)
    if top >= bottom or left >= right:
        return
    sums = np.zeros((bottom - top, right - left + 2), np.float64)
    for k in range(lo, hi):
        m = k + 1 if k + 1 < hi else lo
        _side_within(sums, x[k] - left, y[k] - top, x[m] - left, y[m] - top)
    for j in range(sums.shape[0]):
        total = 0.0
        for i in range(right - left):
            total += sums[j, i]
            value = min(1.0, abs(total))
            if value > 1e-4:
                row, column = top + j, left + i
                if value > cov[row, column]:
                    cov[row, column] = value
                row_lo[row] = min(row_lo[row], column)
                row_hi[row] = max(row_hi[row], column + 1)


@numba.njit(cache=True, fastmath=True)
def _side_within(sums, x0, y0, x1, y1):  # type: ignore[no-untyped-def]
    """`_side`, in parts: what lies left of the box goes along its edge, what lies right of it covers nothing there."""
    last = sums.shape[1] - 2.0
    cuts = np.array((0.0, 0.0, 0.0, 1.0))
    n = 1
    for edge in (0.0, last) if x0 < x1 else (last, 0.0):
        if min(x0, x1) < edge < max(x0, x1):
            cuts[n] = (edge - x0) / (x1 - x0)
            n += 1
    cuts[n] = 1.0
    for k in range(n):
        a, b = cuts[k], cuts[k + 1]
        ax, bx = x0 + (x1 - x0) * a, x0 + (x1 - x0) * b
        if ax + bx < 2 * last:
            _side(sums, max(ax, 0.0), y0 + (y1 - y0) * a, max(bx, 0.0), y0 + (y1 - y0) * b)


@numba.njit(cache=True, fastmath=True)
def _side(sums, x0, y0, x1, y1):  # type: ignore[no-untyped-def]
    """Add the signed area right of one side to the rows it crosses, as steps from column to column."""
    if y0 == y1:
        return
    sign = 1.0
    if y0 > y1:
        x0, y0, x1, y1, sign = x1, y1, x0, y0, -1.0
    rows, columns = sums.shape
    slope = (x1 - x0) / (y1 - y0)
    for j in range(max(0, int(math.floor(y0))), min(rows, int(math.ceil(y1)))):
        begin, end = max(float(j), y0), min(j + 1.0, y1)
        dy = (end - begin) * sign
        a, b = x0 + (begin - y0) * slope, x0 + (end - y0) * slope
        a, b = min(max(min(a, b), 0.0), columns - 2.0), min(max(max(a, b), 0.0), columns - 2.0)
        before, previous = 0.0, 0.0
        for c in range(int(a), int(b) + 1):
            share = (min(b, c + 1.0) - max(a, float(c))) / (b - a) if b > a else 1.0
            # of column c: what the side has passed before it, and what lies right of it inside
            covered = before + share * (1.0 - ((max(a, float(c)) + min(b, c + 1.0)) / 2 - c))
            sums[j, c] += dy * (covered - previous)
            before, previous = before + share, covered
        sums[j, int(b) + 1] += dy * (1.0 - previous)

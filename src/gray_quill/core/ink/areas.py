"""Printed letters: their outlines, and the coverage of closed rings by signed areas."""

import math
from collections.abc import Sequence

import numba
import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError
from gray_quill.core.generated.typeforms import GLYPHS, X_HEIGHT
from gray_quill.core.ink.view import View


def typed_rings(text: str, x_height_mm: float, left_mm: float, baseline_mm: float) -> list[Floats]:
    """Outlines of one printed line in mm, each (n, 2). Raises InputError for characters the face does not have."""
    bad = sorted({c for c in text if c not in GLYPHS})
    if bad or not text.strip():
        raise InputError(
            f"Type ASCII characters only; leave out {' '.join(bad)!r}." if bad else "Type at least one letter.", "text"
        )
    scale, x, rings = x_height_mm / X_HEIGHT, left_mm, []
    for char in text:
        advance, *outlines = GLYPHS[char].split("|")
        rings += [np.array(o.split(), float).reshape(-1, 2) * scale + (x, baseline_mm) for o in outlines]
        x += float(advance) * scale
    return rings


def typed_width_mm(text: str, x_height_mm: float) -> float:
    """How long a printed line is."""
    return sum(float(GLYPHS[c].split("|", 1)[0]) for c in text if c in GLYPHS) * x_height_mm / X_HEIGHT


def area_cover(rings: Sequence[Floats], view: View) -> NDArray[np.float32]:
    """Share of each pixel of a view inside the rings (nonzero rule), shape (height, width), exact for rings that do not
    cross.
    """
    winding = np.zeros((view.height_px, view.width_px + 1), np.float64)
    for ring in rings:
        _add_ring(winding, np.ascontiguousarray((ring - (view.left_mm, view.top_mm)) * view.px_per_mm))
    return np.minimum(np.abs(np.cumsum(winding, axis=1)[:, :-1]), 1).astype(np.float32)


@numba.njit(cache=True)
def _add_ring(winding, ring):  # type: ignore[no-untyped-def]
    """Add the change of signed area from pixel to pixel along each row, edge by edge, so that a running sum along the
    row is the coverage.
    """
    height, width = winding.shape[0], winding.shape[1] - 1
    for k in range(len(ring)):
        x0, y0 = ring[k]
        x1, y1 = ring[(k + 1) % len(ring)]
        if y0 == y1:
            continue
        sign = 1.0
        if y0 > y1:
            x0, y0, x1, y1, sign = x1, y1, x0, y0, -1.0
        slope = (x1 - x0) / (y1 - y0)
        for j in range(max(0, int(math.floor(y0))), min(height, int(math.ceil(y1)))):
            top, bottom = max(y0, float(j)), min(y1, float(j + 1))
            if bottom <= top:
                continue
            xa, xb = x0 + (top - y0) * slope, x0 + (bottom - y0) * slope
            if xa > xb:
                xa, xb = xb, xa
            _add_span(winding[j], width, xa, xb, sign * (bottom - top))


@numba.njit(cache=True)
def _add_span(row, width, xa, xb, rise):  # type: ignore[no-untyped-def]
    """One edge inside one row, from xa to xb >= xa: what lies right of it gains `rise`."""
    xa, xb = min(max(xa, 0.0), float(width)), min(max(xb, 0.0), float(width))
    first, last = int(xa), int(xb)
    if first == last or xb - xa < 1e-12:
        middle = (xa + xb) / 2 - first
        row[first] += rise * (1 - middle)
        if first + 1 <= width:
            row[first + 1] += rise * middle
        return
    per = rise / (xb - xa)
    for i in range(first, last + 1):
        lo, hi = max(xa, float(i)), min(xb, float(i + 1))
        if hi <= lo:
            continue
        part = (hi - lo) * per
        middle = (lo + hi) / 2 - i
        row[i] += part * (1 - middle)
        if i + 1 <= width:
            row[i + 1] += part * middle

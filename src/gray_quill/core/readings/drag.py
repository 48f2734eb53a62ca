"""Trail, corners and faithfulness: what steadying costs on what was written. Drag itself is in probes.py."""

import functools
from collections.abc import Sequence

import numba
import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.readings.tremor import Timed
from gray_quill.core.trace import Trace, along_path_mm

CORNER_ARM_MM = 0.8
CORNER_DEG = 60.0
MOST_POINTS = 1200


def trail_mm(raw: Sequence[Timed], steadied: Sequence[Timed]) -> float:
    """Mean distance of the steadied tip behind the nib at the same time."""
    gaps = [np.hypot(x - sx, y - sy) for (_, x, y), (_, sx, sy) in zip(raw, steadied, strict=True)]
    return float(np.concatenate(gaps).mean()) if gaps else 0.0


@numba.njit(cache=True, nogil=True)
def discrete_frechet_mm(ax, ay, bx, by):  # type: ignore[no-untyped-def]
    """Discrete Frechet distance of two polylines (Eiter and Mannila, TR 1994), by the dynamic programme over all
    pairs.
    """
    row = np.empty(len(bx))  # of squares: they are in the same order
    for i in range(len(ax)):
        diagonal = 0.0
        for j in range(len(bx)):
            d = (ax[i] - bx[j]) ** 2 + (ay[i] - by[j]) ** 2
            above = row[j]
            if i == 0 and j == 0:
                reach = d
            elif i == 0:
                reach = max(row[j - 1], d)
            elif j == 0:
                reach = max(above, d)
            else:
                reach = max(min(above, diagonal, row[j - 1]), d)
            diagonal = above
            row[j] = reach
    return np.sqrt(row[-1])


def faithfulness_mm(raw: Sequence[Timed], steadied: Sequence[Timed]) -> float:
    """Largest discrete Frechet distance between a raw stroke and its steadied one; long strokes are thinned to
    MOST_POINTS.
    """
    worst = 0.0
    for (_, x, y), (_, sx, sy) in zip(raw, steadied, strict=True):
        pick = np.linspace(0, len(x) - 1, min(len(x), MOST_POINTS)).astype(int)
        worst = max(worst, float(discrete_frechet_mm(x[pick], y[pick], sx[pick], sy[pick])))
    return worst


def corners(x: Floats, y: Floats) -> NDArray[np.int64]:
    """Indices where a path turns by more than CORNER_DEG between arms of CORNER_ARM_MM, the sharpest of each place."""
    along = along_path_mm(x, y)
    if along[-1] < 2 * CORNER_ARM_MM:
        return np.zeros(0, np.int64)
    before, after = along - CORNER_ARM_MM, along + CORNER_ARM_MM
    ux, uy = x - np.interp(before, along, x), y - np.interp(before, along, y)
    vx, vy = np.interp(after, along, x) - x, np.interp(after, along, y) - y
    turn = np.abs(np.degrees(np.arctan2(ux * vy - uy * vx, ux * vx + uy * vy)))
    turn[(before < 0) | (after > along[-1])] = 0
    found: list[int] = []
    for i in np.argsort(-turn):
        if turn[i] < CORNER_DEG:
            break
        if all(abs(along[i] - along[k]) > CORNER_ARM_MM for k in found):
            found.append(int(i))
    return np.array(sorted(found), np.int64)


@functools.lru_cache(maxsize=512)  # of the same traces many pens are read in turn
def corners_of(trace: Trace) -> NDArray[np.int64]:
    """Indices of a trace's sharp corners."""
    return corners(trace.x_mm, trace.y_mm)


def corner_losses_mm(trace: Trace, steadied: Timed) -> tuple[NDArray[np.int64], Floats]:
    """Corners of one stroke and how far the steadied path stays from each, mm."""
    _, sx, sy = steadied
    at = corners_of(trace)
    return at, _from_path_mm(trace.x_mm[at], trace.y_mm[at], sx, sy)


@numba.njit(cache=True, nogil=True)
def _from_path_mm(x, y, sx, sy):  # type: ignore[no-untyped-def]
    """How far each place lies from a path."""
    nearest2 = (x - sx[0]) ** 2 + (y - sy[0]) ** 2
    for i in range(len(x)):
        for k in range(len(sx) - 1):
            dx, dy = sx[k + 1] - sx[k], sy[k + 1] - sy[k]
            ex, ey = x[i] - sx[k], y[i] - sy[k]
            u = min(1.0, max(0.0, (ex * dx + ey * dy) / max(dx * dx + dy * dy, 1e-18)))
            nearest2[i] = min(nearest2[i], (ex - u * dx) ** 2 + (ey - u * dy) ** 2)
    return np.sqrt(nearest2)

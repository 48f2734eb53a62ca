"""Drag and faithfulness: what steadying costs."""

from collections.abc import Sequence

import numba
import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.readings.wobble import Timed

LONGEST_DRAG_MS = 400.0
COARSE_MS = 8.0
REST_S = 0.5  # strokes are laid this far apart on one time line
CORNER_ARM_MM = 0.8
CORNER_DEG = 60.0
MOST_POINTS = 1200


def drag_ms(raw: Sequence[Timed], steadied: Sequence[Timed]) -> float:
    """The delay of the raw path that fits the steadied one best (least squares over all samples), ms."""
    knots_t, knots, asked_t, asked = [], [], [], []
    clock = 0.0
    for (t, x, y), (_, sx, sy) in zip(raw, steadied, strict=True):
        if len(t) < 3:
            continue
        knots_t += [np.array([clock - REST_S * 0.9]), clock + t]
        knots += [np.array([[x[0], y[0]]]), np.column_stack((x, y))]
        asked_t.append(clock + t)
        asked.append(np.column_stack((sx, sy)))
        clock += t[-1] + REST_S
    if not asked:
        return 0.0
    line_t, line = np.concatenate(knots_t), np.concatenate(knots)
    now, want = np.concatenate(asked_t), np.concatenate(asked)
    if np.array_equal(np.concatenate([k for k in knots if len(k) > 1]), want):
        return 0.0

    def misfit(ms: float) -> float:
        x = np.interp(now - ms / 1000, line_t, line[:, 0])
        y = np.interp(now - ms / 1000, line_t, line[:, 1])
        return float(((x - want[:, 0]) ** 2 + (y - want[:, 1]) ** 2).sum())

    step, best = COARSE_MS, 0.0
    tried = np.arange(0, LONGEST_DRAG_MS, step)
    errors: list[float] = []
    for ms in tried:  # the misfit falls to one valley: stop well past it
        errors.append(misfit(ms))
        if len(errors) > 6 and min(errors[-5:]) > min(errors):
            break
    best = float(tried[int(np.argmin(errors))])
    while step > 0.05:
        step /= 2
        best = min((best - step, best, best + step), key=lambda ms: misfit(ms) if ms >= 0 else np.inf)
    return best


def trail_mm(raw: Sequence[Timed], steadied: Sequence[Timed]) -> float:
    """Mean distance of the steadied tip behind the nib at the same time."""
    gaps = [np.hypot(x - sx, y - sy) for (_, x, y), (_, sx, sy) in zip(raw, steadied, strict=True)]
    return float(np.concatenate(gaps).mean()) if gaps else 0.0


@numba.njit(cache=True, nogil=True)
def discrete_frechet_mm(ax, ay, bx, by):  # type: ignore[no-untyped-def]
    """Discrete Frechet distance of two polylines (Eiter and Mannila, TR 1994), by the dynamic programme over all
    pairs.
    """
    row = np.empty(len(bx))
    for i in range(len(ax)):
        diagonal = 0.0
        for j in range(len(bx)):
            d = np.hypot(ax[i] - bx[j], ay[i] - by[j])
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
    return row[-1]


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
    along = np.concatenate(([0.0], np.cumsum(np.hypot(np.diff(x), np.diff(y)))))
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


def corner_losses_mm(raw: Timed, steadied: Timed) -> tuple[NDArray[np.int64], Floats]:
    """Corners of one stroke and how far the steadied path stays from each, mm."""
    _, x, y = raw
    _, sx, sy = steadied
    at = corners(x, y)
    if len(sx) < 2:
        return at, np.hypot(x[at] - sx[0], y[at] - sy[0])
    dx, dy = np.diff(sx), np.diff(sy)
    length2 = np.maximum(dx * dx + dy * dy, 1e-18)
    u = np.clip(((x[at, None] - sx[:-1]) * dx + (y[at, None] - sy[:-1]) * dy) / length2, 0, 1)
    gap = np.hypot(x[at, None] - sx[:-1] - u * dx, y[at, None] - sy[:-1] - u * dy)
    return at, gap.min(axis=1) if len(at) else np.zeros(0)

"""Smooth curves through samples."""

import math

import numba
import numpy as np

CORNER_COS = 0.6  # turns sharper than this (53 degrees) stay corners instead of being rounded


@numba.njit(cache=True)
def smooth_path(x, y, tolerance_mm, step_mm, start_mm=0.0, end_mm=0.0):  # type: ignore[no-untyped-def]
    """One path of `smooth_paths`, without its offsets."""
    xs, ys, at, along, _ = smooth_paths(x, y, np.array([0, len(x)]), tolerance_mm, step_mm, start_mm, end_mm)
    return xs, ys, at, along


@numba.njit(cache=True)
def smooth_paths(x, y, offsets, tolerance_mm, step_mm, start_mm, end_mm):  # type: ignore[no-untyped-def]
    """Cubic Hermite through all samples of each path (Catmull-Rom tangents by chord length), corners kept. `offsets`,
    (k + 1,), part the samples into paths.

    Segments are divided so that straight pieces lie within tolerance_mm of the curve, and are no longer than step_mm
    within start_mm and end_mm of the ends. Returns x, y, `at`, the position of each new point among the samples, the
    arc length up to each, and the offsets of the new paths.
    """
    pieces = np.zeros(len(x), np.int64)
    so_far = np.zeros(len(x))
    starts = np.zeros(len(offsets), np.int64)
    for p in range(len(offsets) - 1):
        lo, last = offsets[p], offsets[p + 1] - 1
        for i in range(lo, last):
            so_far[i + 1] = so_far[i] + _apart(x, y, i, i + 1)
        count, bend = 1, 0.0
        for i in range(lo, last):
            d = so_far[i + 1] - so_far[i]
            next_bend = _bend(x, y, i + 1) if i + 1 < last else 0.0
            # sagitta of an arc of length d turning by bend
            pieces[i] = max(1, int(math.ceil(math.sqrt(d * max(bend, next_bend) / 8 / tolerance_mm))))
            if so_far[i] < start_mm or so_far[last] - so_far[i + 1] < end_mm:
                pieces[i] = max(pieces[i], int(math.ceil(d / step_mm)))
            count += pieces[i]
            bend = next_bend
        starts[p + 1] = starts[p] + count
    total = starts[-1]
    xs, ys, at, along = np.empty(total), np.empty(total), np.empty(total), np.zeros(total)
    for p in range(len(offsets) - 1):
        lo, last, k = offsets[p], offsets[p + 1] - 1, starts[p]
        for i in range(lo, last):
            dx, dy = x[i + 1] - x[i], y[i + 1] - y[i]
            m = pieces[i]
            t0x, t0y, t1x, t1y = dx, dy, dx, dy
            if m > 1:
                d = so_far[i + 1] - so_far[i]
                if i > lo:
                    t0x, t0y = _tangent(x, y, i, dx, dy, d)
                if i + 1 < last:
                    t1x, t1y = _tangent(x, y, i + 1, dx, dy, d)
            for j in range(m):
                u = j / m
                h1 = u * u * (3 - 2 * u)
                h2 = u * (1 - u) * (1 - u)
                h3 = -u * u * (1 - u)
                xs[k] = x[i] + h1 * dx + h2 * t0x + h3 * t1x
                ys[k] = y[i] + h1 * dy + h2 * t0y + h3 * t1y
                at[k] = i + u
                k += 1
        xs[k], ys[k], at[k] = x[last], y[last], last
        for k in range(starts[p] + 1, starts[p + 1]):
            along[k] = along[k - 1] + _apart(xs, ys, k - 1, k)
    return xs, ys, at, along, starts


@numba.njit(cache=True)
def between(column, at):  # type: ignore[no-untyped-def]
    """A column's values at positions among its entries (2.5 = halfway between the third and fourth)."""
    out = np.empty(len(at))
    for k in range(len(at)):
        low = int(at[k])
        share = at[k] - low
        out[k] = column[low] if share == 0.0 else column[low] * (1 - share) + column[low + 1] * share
    return out


@numba.njit(cache=True)
def _apart(x, y, i, j):  # type: ignore[no-untyped-def]
    dx, dy = x[j] - x[i], y[j] - y[i]
    return math.sqrt(dx * dx + dy * dy)


@numba.njit(cache=True)
def _bend(x, y, i):  # type: ignore[no-untyped-def]
    """How much the path turns at its inner sample i, radians; 0 at corners, which stay."""
    ax, ay = x[i] - x[i - 1], y[i] - y[i - 1]
    bx, by = x[i + 1] - x[i], y[i + 1] - y[i]
    dot, cross = ax * bx + ay * by, ax * by - ay * bx
    if dot < CORNER_COS * np.sqrt((ax * ax + ay * ay) * (bx * bx + by * by)):
        return 0.0
    return abs(math.atan2(cross, dot))


@numba.njit(cache=True)
def _tangent(x, y, i, dx, dy, d):  # type: ignore[no-untyped-def]
    """Tangent at the inner sample i, as long as the segment (dx, dy) of length d that asks for it."""
    ax, ay = x[i] - x[i - 1], y[i] - y[i - 1]
    bx, by = x[i + 1] - x[i], y[i + 1] - y[i]
    la, lb = math.sqrt(ax * ax + ay * ay), math.sqrt(bx * bx + by * by)
    if la < 1e-9 or lb < 1e-9 or ax * bx + ay * by < CORNER_COS * la * lb:
        return dx, dy
    tx = (ax / la * lb + bx / lb * la) / (la + lb)
    ty = (ay / la * lb + by / lb * la) / (la + lb)
    return tx * d, ty * d

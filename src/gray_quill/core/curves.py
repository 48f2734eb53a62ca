"""Smooth curves through samples."""

import numba
import numpy as np

CORNER_COS = 0.6  # turns sharper than this (53 degrees) stay corners instead of being rounded


@numba.njit(cache=True)
def smooth_path(x, y, tolerance_mm, step_mm, start_mm=0.0, end_mm=0.0):  # type: ignore[no-untyped-def]
    """Cubic Hermite through all samples (Catmull-Rom tangents by chord length), corners kept.

    Segments are divided so that straight pieces lie within tolerance_mm of the curve, and are no longer than step_mm
    within start_mm and end_mm of the ends. Returns x, y, `at`, the position of each new point among the samples, and
    the arc length up to each.
    """
    n = len(x)
    count = 1
    pieces = np.empty(n, np.int64)
    so_far = np.zeros(n)
    for i in range(n - 1):
        so_far[i + 1] = so_far[i] + np.hypot(x[i + 1] - x[i], y[i + 1] - y[i])
    for i in range(n - 1):
        d = so_far[i + 1] - so_far[i]
        bend = max(_bend(x, y, i), _bend(x, y, i + 1))
        pieces[i] = max(
            1, int(np.ceil(np.sqrt(d * bend / 8 / tolerance_mm)))
        )  # sagitta of an arc of length d turning by bend
        if so_far[i] < start_mm or so_far[n - 1] - so_far[i + 1] < end_mm:
            pieces[i] = max(pieces[i], int(np.ceil(d / step_mm)))
        count += pieces[i]
    xs, ys, at = np.empty(count), np.empty(count), np.empty(count)
    k = 0
    for i in range(n - 1):
        dx, dy = x[i + 1] - x[i], y[i + 1] - y[i]
        d = np.hypot(dx, dy)
        m = pieces[i]
        t0x, t0y, t1x, t1y = dx, dy, dx, dy
        if m > 1:
            t0x, t0y = _tangent(x, y, i, dx, dy, d)
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
    xs[k], ys[k], at[k] = x[n - 1], y[n - 1], n - 1
    along = np.zeros(count)
    for k in range(1, count):
        along[k] = along[k - 1] + np.hypot(xs[k] - xs[k - 1], ys[k] - ys[k - 1])
    return xs, ys, at, along


@numba.njit(cache=True)
def _bend(x, y, i):  # type: ignore[no-untyped-def]
    """How much the path turns at sample i, radians; 0 at its ends and at corners, which stay."""
    if i == 0 or i == len(x) - 1:
        return 0.0
    ax, ay = x[i] - x[i - 1], y[i] - y[i - 1]
    bx, by = x[i + 1] - x[i], y[i + 1] - y[i]
    dot, cross = ax * bx + ay * by, ax * by - ay * bx
    if dot < CORNER_COS * np.sqrt((ax * ax + ay * ay) * (bx * bx + by * by)):
        return 0.0
    return abs(np.arctan2(cross, dot))


@numba.njit(cache=True)
def _tangent(x, y, i, dx, dy, d):  # type: ignore[no-untyped-def]
    """Tangent at sample i, as long as the segment (dx, dy) of length d that asks for it."""
    if i == 0 or i == len(x) - 1:
        return dx, dy
    ax, ay = x[i] - x[i - 1], y[i] - y[i - 1]
    bx, by = x[i + 1] - x[i], y[i + 1] - y[i]
    la, lb = np.hypot(ax, ay), np.hypot(bx, by)
    if la < 1e-9 or lb < 1e-9 or ax * bx + ay * by < CORNER_COS * la * lb:
        return dx, dy
    tx = (ax / la * lb + bx / lb * la) / (la + lb)
    ty = (ay / la * lb + by / lb * la) / (la + lb)
    return tx * d, ty * d

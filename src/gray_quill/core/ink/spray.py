"""What a spray lays: a dose that falls off from its middle, by the time it spends near a pixel."""

import math

import numba

PUFF_S = 0.12  # what a spray lays as it lands, so that a dot shows
SHORT_PUFF = 0.2  # of a spray's radius: a piece of its way that may be laid as one


@numba.njit(cache=True, fastmath=True)
def _puff(plane, x0, y0, x1, y1, r, dose):  # type: ignore[no-untyped-def]
    """Add a dose laid evenly in time along a segment, or at a point, by a spray of radius r."""
    cov, row_lo, row_hi = plane
    height, columns = cov.shape
    dx, dy = x1 - x0, y1 - y0
    length = math.sqrt(dx * dx + dy * dy)
    ux, uy = (1.0, 0.0) if length < 1e-3 else (dx / length, dy / length)
    r2 = r * r
    for j in range(max(0, int(min(y0, y1) - r)), min(height, int(max(y0, y1) + r) + 1)):
        for i in range(max(0, int(min(x0, x1) - r)), min(columns, int(max(x0, x1) + r) + 1)):
            px, py = i + 0.5 - x0, j + 0.5 - y0
            along, across = px * ux + py * uy, py * ux - px * uy
            a = 1.0 - across * across / r2
            if a <= 0.0:
                continue
            if length < 1e-3:
                a -= along * along / r2
                value = a * a if a > 0.0 else 0.0
            else:
                reach = math.sqrt(r2 * a)
                s0, s1 = max(-along, -reach), min(length - along, reach)
                if s1 <= s0:
                    continue
                value = (
                    a * a * (s1 - s0) - 2.0 * a * (s1**3 - s0**3) / (3.0 * r2) + (s1**5 - s0**5) / (5.0 * r2 * r2)
                ) / length
            if value > 0.0:
                cov[j, i] += dose * value
                row_lo[j] = min(row_lo[j], i)
                row_hi[j] = max(row_hi[j], i + 1)


@numba.njit(cache=True, fastmath=True)
def spray(plane, path, lo, hi):  # type: ignore[no-untyped-def]
    """Add to a plane the dose footprints lo..hi lay: their flow, alpha (per second), over the time spent near a pixel,
    and PUFF_S of it on landing.

    The dose falls off from the middle as (1 - (d / r)^2)^2. Its integral along a segment walked at even speed is a
    polynomial, so the dose is exact however few reports there are, and a pen at rest only adds up time.
    """
    x, y, width, flow, t_s = path.x, path.y, path.long, path.alpha, path.t_s
    _puff(plane, x[lo], y[lo], x[lo], y[lo], max(0.7, width[lo] * 0.5), flow[lo] * PUFF_S)
    start, dose = lo, 0.0
    for k in range(lo, hi - 1):
        dose += (flow[k] + flow[k + 1]) * 0.5 * (t_s[k + 1] - t_s[k])
        if k + 2 < hi:  # pieces that are short for the spray are laid as one
            reach = SHORT_PUFF * max(0.7, width[start] * 0.5)
            away = math.hypot(x[k + 2] - x[start], y[k + 2] - y[start])
            if away < reach and abs(width[k + 2] - width[start]) < reach:
                continue
        if dose > 0.0:
            r = max(0.7, (width[start] + width[k + 1]) * 0.25)
            _puff(plane, x[start], y[start], x[k + 1], y[k + 1], r, dose)
        start, dose = k + 1, 0.0

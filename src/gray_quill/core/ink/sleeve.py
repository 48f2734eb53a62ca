"""The way on, as long as it is straight: which points of a path need not be drawn one by one.

From a point the way on may be drawn as one piece as long as it stays in the sleeve that the points passed over leave
open: each opens a cone of directions that pass it near enough, and a range of slopes that meet its width and opacity.
What such a piece passes over could not be seen, and each point costs as much as any other. One walk, each point once.
"""

import math

import numba
import numpy as np

OPEN = 1e9  # a slope that bounds nothing


@numba.njit(cache=True, fastmath=True)
def straight_points(path, lo, hi, off_px, off_widths, fuller, longest_widths):  # type: ignore[no-untyped-def]
    """Which of the points lo..hi need drawing, first and last among them. Those that straight, evenly widening pieces
    from one to the next pass over lie within off_px + off_widths of the tip's short side of them, their widths within
    twice that of theirs and their opacity within `fuller`. No piece is longer than longest_widths of the short side.
    """
    x, y, long, short, alpha, angle = path.x, path.y, path.long, path.short, path.alpha, path.angle
    out = np.empty(hi - lo, np.int64)
    out[0] = k = lo
    count = 1
    while k < hi - 1:
        off = off_px + off_widths * short[k]
        k = _straight_to(x, y, long, alpha, angle, k, hi - 1, off, 2.0 * off, fuller, longest_widths * short[k])
        out[count] = k
        count += 1
    return out[:count]


@numba.njit(cache=True, fastmath=True)
def _straight_to(x, y, long, alpha, angle, k, end, off, wider, fuller, longest):  # type: ignore[no-untyped-def]
    """The furthest point up to `end` that a piece from point k may go to."""
    if k + 1 >= end:
        return end
    x0, y0, long0, alpha0, angle0 = x[k], y[k], long[k], alpha[k], angle[k]
    left_x = left_y = right_x = right_y = 0.0  # edges of the cone of directions still open
    slope_lo, slope_hi, fade_lo, fade_hi = -OPEN, OPEN, -OPEN, OPEN
    coned, reached = False, 0.0
    for m in range(k + 1, end + 1):
        dx, dy, rise, gain = x[m] - x0, y[m] - y0, long[m] - long0, alpha[m] - alpha0
        away = math.sqrt(dx * dx + dy * dy)
        if m > k + 1:  # may the piece go on to m?
            if coned and (right_x * dy < right_y * dx or dx * left_y < dy * left_x or away < reached - off):
                return m - 1
            if away > longest:
                return m - 1
            if rise < slope_lo * away or rise > slope_hi * away or gain < fade_lo * away or gain > fade_hi * away:
                return m - 1
            if abs(angle[m] - angle0) * long0 > wider:
                return m - 1
        if away < 1e-9:
            if abs(rise) > wider or abs(gain) > fuller:
                return m
            continue
        per = 1.0 / away
        slope_lo, slope_hi = max(slope_lo, (rise - wider) * per), min(slope_hi, (rise + wider) * per)
        fade_lo, fade_hi = max(fade_lo, (gain - fuller) * per), min(fade_hi, (gain + fuller) * per)
        if away > off:
            aside = off * per
            lx, ly, rx, ry = dx - dy * aside, dy + dx * aside, dx + dy * aside, dy - dx * aside
            if not coned or lx * left_y > ly * left_x:
                left_x, left_y = lx, ly
            if not coned or right_x * ry > right_y * rx:
                right_x, right_y = rx, ry
            coned, reached = True, max(reached, away)
    return end

"""Coverage kernels: how much of each pixel a stroke covers.

A stroke is the union of its segments, each the hull of its two footprints; the union is taken by maximum, so a stroke
never darkens itself. Along an edge the coverage is the exact area a half-plane cuts from the pixel square, which
depends on the distance and direction of the edge; a mark thinner than a pixel is the difference of its two edges.
Positions and sizes here are in pixels; pixel (i, j) is the square from (i, j) to (i + 1, j + 1).
"""

import math
from typing import NamedTuple

import numba
import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats

DISC, ELLIPSE, BOX, SPRAY = 0, 1, 2, 3
SHAPES = {"round": DISC, "ellipse": ELLIPSE, "chisel": BOX, "spray": SPRAY}
PUFF_S = 0.12  # what a spray lays as it lands, so that a dot shows
SHORT_PUFF = 0.2  # of a spray's radius: a piece of its way that may be laid as one
THIN_STEP_PX = 1.1  # closer path points are not drawn one by one
SHARP, LEAST_TURN_PX = 0.85, 0.15  # squared cosine of the turn, and its distance from the last point, that keep a point
THIN_PX = 0.75  # below this radius the ends of a stroke are measured as a strip, not as a disc


class Plane(NamedTuple):
    """Coverage (float32, height x width) and, for each row (int32), the columns touched: from `row_lo`, before
    `row_hi`.
    """

    cov: NDArray[np.float32]
    row_lo: NDArray[np.int32]
    row_hi: NDArray[np.int32]


class Path(NamedTuple):
    """Footprints along strokes, one row each: where (px), how large (full axes, px), which way, how opaque, when."""

    x: Floats
    y: Floats
    long: Floats
    short: Floats
    angle: Floats
    alpha: Floats
    t_s: Floats


class Foot(NamedTuple):
    """One footprint of a path."""

    x: float
    y: float
    long: float
    short: float
    alpha: float


@numba.njit(cache=True, fastmath=True)
def half_plane(d, nx, ny):  # type: ignore[no-untyped-def]
    """Area of the unit square on the inner side of an edge with unit normal (nx, ny), `d` inside its centre.

    The distribution function of the sum of two uniforms of widths |nx| and |ny|.
    """
    p, q = abs(nx), abs(ny)
    if p < q:
        p, q = q, p
    half = (p + q) * 0.5
    if d <= -half:
        return 0.0
    if d >= half:
        return 1.0
    if abs(d) <= (p - q) * 0.5:
        return 0.5 + d / p
    e = half - abs(d)
    tail = e * e / (2.0 * p * q)
    return 1.0 - tail if d > 0 else tail


@numba.njit(cache=True, fastmath=True)
def _strip(d, r, nx, ny):  # type: ignore[no-untyped-def]
    """Area of the pixel within `r` of a line whose distance is `d`."""
    return half_plane(r - d, nx, ny) - half_plane(-r - d, nx, ny)


@numba.njit(cache=True, fastmath=True)
def _overlap(centre, half):  # type: ignore[no-untyped-def]
    """Length of the unit interval around 0 that lies within `half` of `centre`."""
    return max(0.0, min(0.5, centre + half) - max(-0.5, centre - half))


@numba.njit(cache=True, fastmath=True)
def _foot(path, k):  # type: ignore[no-untyped-def]
    return Foot(path.x[k], path.y[k], path.long[k], path.short[k], path.alpha[k])


@numba.njit(cache=True, fastmath=True)
def _mark(plane, i, j, value):  # type: ignore[no-untyped-def]
    if value > plane.cov[j, i]:
        plane.cov[j, i] = value
        if i < plane.row_lo[j]:
            plane.row_lo[j] = i
        if i >= plane.row_hi[j]:
            plane.row_hi[j] = i + 1


@numba.njit(cache=True, fastmath=True)
def _dot(plane, x, y, r, alpha):  # type: ignore[no-untyped-def]
    height, width = plane.cov.shape
    side = r * 0.886226925  # half side of the square with the disc's area
    for j in range(max(0, int(y - r - 1)), min(height, int(y + r + 2))):
        for i in range(max(0, int(x - r - 1)), min(width, int(x + r + 2))):
            dx, dy = i + 0.5 - x, j + 0.5 - y
            if r < THIN_PX:
                value = _overlap(dx, side) * _overlap(dy, side)
            else:
                d = math.sqrt(dx * dx + dy * dy)
                value = half_plane(r - d, dx / d, dy / d) if d > 1e-9 else 1.0
            if value > 0:
                _mark(plane, i, j, value * alpha)


@numba.njit(cache=True, fastmath=True)
def _edge(d, half, flat, inv_p, inv_2pq):  # type: ignore[no-untyped-def]
    """half_plane with what depends on the normal worked out beforehand: half = (p+q)/2, flat = (p-q)/2."""
    if d <= -half:
        return 0.0
    if d >= half:
        return 1.0
    if abs(d) <= flat:
        return 0.5 + d * inv_p
    e = half - abs(d)
    tail = e * e * inv_2pq
    return 1.0 - tail if d > 0 else tail


@numba.njit(cache=True, fastmath=True)
def _cap(px, py, r):  # type: ignore[no-untyped-def]
    """Coverage of the pixel at (px, py) from the centre of a disc of radius r."""
    d = math.sqrt(px * px + py * py)
    if d < 1e-9:
        return min(1.0, 2 * r)
    if d < r - 0.75:
        return 1.0
    if d > r + 0.75:
        return 0.0
    return _strip(d, r, px / d, py / d)


@numba.njit(cache=True, fastmath=True)
def _capsule(plane, start, stop, first, last):  # type: ignore[no-untyped-def]
    """Hull of two discs. `first`, `last`: whether the stroke ends here; an inner joint's disc is drawn by the segment
    before it.
    """
    cov, row_lo, row_hi = plane
    height, width = cov.shape
    x0, y0, r0, a0 = start.x, start.y, start.long / 2, start.alpha
    x1, y1, r1, a1 = stop.x, stop.y, stop.long / 2, stop.alpha
    dx, dy = x1 - x0, y1 - y0
    length = math.sqrt(dx * dx + dy * dy)
    if length <= abs(r1 - r0) + 1e-9:
        if r0 >= r1:
            _dot(plane, x0, y0, r0, a0)
        else:
            _dot(plane, x1, y1, r1, a1)
        return
    ux, uy = dx / length, dy / length
    b = (r0 - r1) / length
    a = math.sqrt(1.0 - b * b)
    p, q = max(abs(ux), abs(uy)), min(abs(ux), abs(uy))
    half, flat, inv_p, inv_2pq = (p + q) / 2, (p - q) / 2, 1 / p, 1 / max(2 * p * q, 1e-12)
    per_length = 1.0 / length
    most = max(a0, a1)
    reach = max(r0, r1) + 0.75
    end = a * length
    j_lo, j_hi = max(0, int(min(y0 - r0, y1 - r1) - 0.75)), min(height, int(max(y0 + r0, y1 + r1) + 1.75))
    i_lo, i_hi = max(0, int(min(x0 - r0, x1 - r1) - 0.75)), min(width, int(max(x0 + r0, x1 + r1) + 1.75))
    steep = abs(uy) > 0.05
    slope = ux / uy if steep else 0.0
    spread = reach / abs(uy) if steep else 0.0
    for j in range(j_lo, j_hi):
        py = j + 0.5 - y0
        lo, hi = i_lo, i_hi
        if steep:  # only the pixels of this row within reach of the axis line
            mid = x0 + py * slope
            lo, hi = max(lo, int(mid - spread)), min(hi, int(mid + spread + 1))
        for i in range(lo, hi):
            if cov[j, i] >= most:
                continue
            px = i + 0.5 - x0
            along = px * ux + py * uy
            across = abs(py * ux - px * uy)
            k = a * along - b * across
            if k < 0.0:
                if not first:
                    continue
                if r0 < THIN_PX:
                    value = _strip(across, r0, uy, ux) * max(0.0, min(1.0, along + 0.7854 * r0 + 0.5))
                else:
                    value = _cap(px, py, r0)
                alpha = a0
            elif k > end:
                if last and r1 < THIN_PX:
                    value = _strip(across, r1, uy, ux) * max(0.0, min(1.0, length - along + 0.7854 * r1 + 0.5))
                else:
                    value = _cap(px - dx, py - dy, r1)
                alpha = a1
            else:
                inside = r0 - across * a - along * b
                if inside <= -half:
                    continue
                here = r0 - along * b
                value = _edge(inside, half, flat, inv_p, inv_2pq)
                if here < 1.5:
                    value -= _edge(inside - 2 * here, half, flat, inv_p, inv_2pq)
                alpha = a0 + (a1 - a0) * min(1.0, max(0.0, along * per_length))
            value *= alpha
            if value > cov[j, i]:
                cov[j, i] = value
                row_lo[j] = min(row_lo[j], i)
                row_hi[j] = max(row_hi[j], i + 1)


@numba.njit(cache=True, fastmath=True)
def _ellipses(plane, start, stop, phi):  # type: ignore[no-untyped-def]
    """Hull of two ellipses of one mean aspect and direction: the plane is squeezed until they are discs."""
    cov = plane.cov
    height, width = cov.shape
    x0, y0, l0, s0, a0 = start
    x1, y1, l1, s1, a1 = stop
    if s0 + s1 <= 0.0 or l0 + l1 <= 0.0:  # where the walls of a hollow tip meet nothing is inside
        return
    c, s = math.cos(phi), math.sin(phi)
    q = (l0 + l1) / (s0 + s1)
    r0, r1 = l0 / (2 * q), l1 / (2 * q)
    dx, dy = x1 - x0, y1 - y0
    ex, ey = (dx * c + dy * s) / q, -dx * s + dy * c  # the motion in the squeezed plane
    length = math.sqrt(ex * ex + ey * ey)
    half_long, half_short = max(l0, l1) * 0.5, max(s0, s1) * 0.5
    reach_x, reach_y = math.hypot(half_long * c, half_short * s), math.hypot(half_long * s, half_short * c)
    most = max(a0, a1)
    nested = length <= abs(r1 - r0) + 1e-9
    ux, uy = (1.0, 0.0) if length < 1e-9 else (ex / length, ey / length)
    b = 0.0 if nested else (r0 - r1) / length
    a = math.sqrt(1.0 - b * b)
    for j in range(max(0, int(min(y0, y1) - reach_y - 1)), min(height, int(max(y0, y1) + reach_y + 2))):
        for i in range(max(0, int(min(x0, x1) - reach_x - 1)), min(width, int(max(x0, x1) + reach_x + 2))):
            if cov[j, i] >= most:
                continue
            px, py = i + 0.5 - x0, j + 0.5 - y0
            vx, vy = (px * c + py * s) / q, -px * s + py * c
            along, side = vx * ux + vy * uy, vy * ux - vx * uy
            k = a * along - b * abs(side)
            share = 0.0 if length < 1e-9 else min(1.0, max(0.0, along / length))
            if nested:
                big = r1 > r0
                gx, gy = (vx - ex, vy - ey) if big else (vx, vy)
                d, here = math.sqrt(gx * gx + gy * gy), max(r0, r1)
            elif k < 0.0:
                gx, gy = vx, vy
                d, here = math.sqrt(vx * vx + vy * vy), r0
            elif k > a * length:
                gx, gy = vx - ex, vy - ey
                d, here = math.sqrt(gx * gx + gy * gy), r1
            else:
                sign = 1.0 if side >= 0 else -1.0
                gx, gy = -uy * sign, ux * sign
                here = r0 - along * b
                d = abs(side) * a + along * b - r0 + here
            norm = math.sqrt(gx * gx + gy * gy)
            if norm < 1e-9:
                gx, gy, norm = 0.0, 1.0, 1.0
            gx, gy = gx / norm, gy / norm
            nx, ny = gx * c / q - gy * s, gx * s / q + gy * c  # back to the page: M^T n
            g = math.sqrt(nx * nx + ny * ny)
            if (d - here) / g > 0.75:
                continue
            value = _strip(d / g, here / g, nx / g, ny / g)
            if value > 0.0:
                _mark(plane, i, j, value * (a0 + (a1 - a0) * share))


@numba.njit(cache=True, fastmath=True)
def _box_hull(dx, dy, l0, s0, l1, s1, c, s, hull):  # type: ignore[no-untyped-def]
    """Corners of the hull of two rectangles of one direction (c, s), relative to the first's middle, in page axes and
    in order; the number of them. Between its four extreme corners a rectangle that sticks out shows its own.
    """
    ex, ey = dx * c + dy * s, -dx * s + dy * c
    count = 0
    # round the four quarters: in each, the hull's corners are those of either rectangle that lie furthest out
    for q in range(4):
        sx = 1.0 if q == 0 or q == 3 else -1.0
        sy = 1.0 if q < 2 else -1.0
        ax, ay, bx, by = sx * l0 / 2, sy * s0 / 2, ex + sx * l1 / 2, ey + sy * s1 / 2
        # which of the two is further along each of the quarter's two axes
        a_out = sx * ax >= sx * bx - 1e-12 and sy * ay >= sy * by - 1e-12
        b_out = sx * bx >= sx * ax - 1e-12 and sy * by >= sy * ay - 1e-12
        if a_out or b_out:
            px, py = (ax, ay) if a_out else (bx, by)
            hull[count, 0], hull[count, 1] = px * c - py * s, px * s + py * c
            count += 1
            continue
        # both show: first the one met first, going round from quarter to quarter
        x_first = q == 0 or q == 2  # the quarter begins at its x axis
        a_first = sx * ax > sx * bx if x_first else sy * ay > sy * by
        for k in range(2):
            px, py = (ax, ay) if (k == 0) == a_first else (bx, by)
            hull[count, 0], hull[count, 1] = px * c - py * s, px * s + py * c
            count += 1
    return count


@numba.njit(cache=True, fastmath=True)
def _edges_of(dx, dy, l0, s0, l1, s1, phi, hull, edges):  # type: ignore[no-untyped-def]
    """The hull's corners and edges (nx, ny, d): inside is where nx x + ny y + d is positive for all. Returns how many
    there are, and the box around them.
    """
    count = _box_hull(dx, dy, l0, s0, l1, s1, math.cos(phi), math.sin(phi), hull)
    x_lo, y_lo, x_hi, y_hi = hull[0, 0], hull[0, 1], hull[0, 0], hull[0, 1]
    for e in range(count):
        x_lo, x_hi = min(x_lo, hull[e, 0]), max(x_hi, hull[e, 0])
        y_lo, y_hi = min(y_lo, hull[e, 1]), max(y_hi, hull[e, 1])
        ux, uy = hull[(e + 1) % count, 0] - hull[e, 0], hull[(e + 1) % count, 1] - hull[e, 1]
        size = math.sqrt(ux * ux + uy * uy)
        nx, ny = (0.0, 0.0) if size < 1e-9 else (-uy / size, ux / size)
        edges[e, 0], edges[e, 1], edges[e, 2] = nx, ny, 9.0 if size < 1e-9 else -hull[e, 0] * nx - hull[e, 1] * ny
    return count, x_lo, y_lo, x_hi, y_hi


@numba.njit(cache=True, fastmath=True)
def box_edges(dx, dy, l0, s0, l1, s1, phi, edges):  # type: ignore[no-untyped-def]
    """The edges alone; see above."""
    return _edges_of(dx, dy, l0, s0, l1, s1, phi, np.empty((8, 2)), edges)


@numba.njit(cache=True, fastmath=True)
def _square_cut(px, py, hull, count, ring, spare):  # type: ignore[no-untyped-def]
    """Area of the unit square around (px, py) inside a convex polygon (Sutherland and Hodgman, CACM 17(1), 1974)."""
    ring[0, 0], ring[0, 1] = px - 0.5, py - 0.5
    ring[1, 0], ring[1, 1] = px + 0.5, py - 0.5
    ring[2, 0], ring[2, 1] = px + 0.5, py + 0.5
    ring[3, 0], ring[3, 1] = px - 0.5, py + 0.5
    size = 4
    for e in range(count):
        x0, y0 = hull[e, 0], hull[e, 1]
        ux, uy = hull[(e + 1) % count, 0] - x0, hull[(e + 1) % count, 1] - y0
        fresh = 0
        for k in range(size):
            bx, by = ring[k, 0], ring[k, 1]
            ax, ay = ring[k - 1 if k else size - 1, 0], ring[k - 1 if k else size - 1, 1]
            da, db = ux * (ay - y0) - uy * (ax - x0), ux * (by - y0) - uy * (bx - x0)
            if (da < 0.0) != (db < 0.0):
                t = da / (da - db)
                spare[fresh, 0], spare[fresh, 1] = ax + (bx - ax) * t, ay + (by - ay) * t
                fresh += 1
            if db >= 0.0:
                spare[fresh, 0], spare[fresh, 1] = bx, by
                fresh += 1
        size = fresh
        if size == 0:
            return 0.0
        for k in range(size):
            ring[k, 0], ring[k, 1] = spare[k, 0], spare[k, 1]
    area = 0.0
    for k in range(size):
        n = k + 1 if k + 1 < size else 0
        area += ring[k, 0] * ring[n, 1] - ring[n, 0] * ring[k, 1]
    return area / 2


@numba.njit(cache=True, fastmath=True)
def _boxes(plane, start, stop, phi):  # type: ignore[no-untyped-def]
    """Hull of two rectangles of one direction, exactly."""
    cov = plane.cov
    height, width = cov.shape
    x0, y0, l0, s0, a0 = start
    x1, y1, l1, s1, a1 = stop
    dx, dy = x1 - x0, y1 - y0
    hull, edges, ring, spare = np.empty((8, 2)), np.empty((8, 3)), np.empty((16, 2)), np.empty((16, 2))
    count, x_lo, y_lo, x_hi, y_hi = _edges_of(dx, dy, l0, s0, l1, s1, phi, hull, edges)
    along2 = dx * dx + dy * dy
    most = max(a0, a1)
    for j in range(max(0, int(y0 + y_lo)), min(height, int(y0 + y_hi) + 1)):
        for i in range(max(0, int(x0 + x_lo)), min(width, int(x0 + x_hi) + 1)):
            if cov[j, i] >= most:
                continue
            px, py = i + 0.5 - x0, j + 0.5 - y0
            near, least = 0, 1.0
            for e in range(count):
                d = edges[e, 0] * px + edges[e, 1] * py + edges[e, 2]
                if d < -0.7072:
                    near = -1
                    break
                if d < 0.7072:
                    near += 1
                    least = half_plane(d, edges[e, 0], edges[e, 1])
            if near < 0:
                continue
            value = 1.0 if near == 0 else least if near == 1 else _square_cut(px, py, hull, count, ring, spare)
            if value > 0.0:
                share = 0.0 if along2 < 1e-18 else min(1.0, max(0.0, (px * dx + py * dy) / along2))
                _mark(plane, i, j, value * (a0 + (a1 - a0) * share))


@numba.njit(cache=True, fastmath=True)
def cover(plane, shape, path, lo, hi):  # type: ignore[no-untyped-def]
    """Raise a plane to the coverage of footprints lo..hi, times alpha. shape: DISC, ELLIPSE or BOX."""
    start = _foot(path, lo)
    if hi - lo == 1:
        if shape == DISC:
            _dot(plane, start.x, start.y, start.long / 2, start.alpha)
        elif shape == ELLIPSE:
            _ellipses(plane, start, start, path.angle[lo])
        else:
            _boxes(plane, start, start, path.angle[lo])
        return
    for k in range(lo, hi - 1):
        stop = _foot(path, k + 1)
        if shape == DISC:
            _capsule(plane, start, stop, k == lo, k == hi - 2)
        elif shape == ELLIPSE:
            _ellipses(plane, start, stop, (path.angle[k] + path.angle[k + 1]) / 2)
        else:
            _boxes(plane, start, stop, (path.angle[k] + path.angle[k + 1]) / 2)
        start = stop


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


@numba.njit(cache=True)
def thinned(x, y, width, pieces):  # type: ignore[no-untyped-def]
    """Indices of the path points worth drawing, and the pieces' offsets among them.

    A point is passed over while it lies within THIN_STEP_PX of the last one kept, the width has hardly changed and the
    path does not turn back there: at that distance neither could be seen, and each point costs as much as any other.
    First and last points of pieces stay.
    """
    keep = np.empty(len(x), np.int64)
    offsets = np.empty_like(pieces)
    count = 0
    for p in range(len(pieces) - 1):
        offsets[p] = count
        lo, hi = pieces[p], pieces[p + 1]
        last = lo
        keep[count] = lo
        count += 1
        for i in range(lo + 1, hi):
            dx, dy = x[i] - x[last], y[i] - y[last]
            away = dx * dx + dy * dy
            if i < hi - 1 and away <= THIN_STEP_PX * THIN_STEP_PX and abs(width[i] - width[last]) <= 0.3:
                ex, ey = x[i + 1] - x[i], y[i + 1] - y[i]
                ahead = dx * ex + dy * ey
                sharp = ahead < 0.0 or ahead * ahead < SHARP * away * (ex * ex + ey * ey)
                if not sharp or away < LEAST_TURN_PX * LEAST_TURN_PX:
                    continue
            keep[count] = i
            count += 1
            last = i
    offsets[len(pieces) - 1] = count
    return keep[:count], offsets


def blank_plane(height: int, width: int) -> Plane:
    """An empty coverage plane."""
    rows = np.full(height, width, np.int32), np.zeros(height, np.int32)
    return Plane(np.zeros((height, width), np.float32), *rows)

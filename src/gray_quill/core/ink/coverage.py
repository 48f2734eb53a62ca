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
from gray_quill.core.ink.chisel import edges_of, square_cut
from gray_quill.core.ink.sleeve import OPEN, straight_points

DISC, ELLIPSE, BOX, SPRAY, AREA = 0, 1, 2, 3, 4
SHAPES = {"round": DISC, "ellipse": ELLIPSE, "chisel": BOX, "spray": SPRAY, "area": AREA}
# How far path points that are not drawn one by one may lie from the straight piece drawn instead, and how far off their
# opacity may be.
OFF_PX, FULLER = 0.02, 0.02
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
    along_mm: Floats = np.zeros(1)  # only bristles ask for it


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


@numba.njit(cache=True, fastmath=True, inline="always")
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
def _capsule(plane, start, stop, first, onward):  # type: ignore[no-untyped-def]
    """Hull of two discs. first: the stroke begins here; at an inner joint the segment before draws what neither would.
    onward: the joint's third footprint, or `stop` again where the stroke ends or its way on is not drawn with it.
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
    slant = abs(b) / a * reach
    # where the way goes on: only the wedge between both segments is drawn here
    nx, ny = onward.x - x1, onward.y - y1
    next_length = math.sqrt(nx * nx + ny * ny)
    joined = next_length > abs(onward.long / 2 - r1) + 1e-9
    ahead, na, nb = reach, 1.0, 0.0
    if joined:
        nx, ny = nx / next_length, ny / next_length
        nb = (r1 - onward.long / 2) / next_length
        na = math.sqrt(1.0 - nb * nb)
        if nx * ux + ny * uy > 0.0:
            ahead = max(slant, min(reach, reach * (abs(nx * uy - ny * ux) + abs(nb) / na))) + 1e-3
    behind = -reach if first else -slant - 1e-3
    beyond = length + ahead
    # the rectangle along the segment that holds all of it, then its part in each row
    side_x, side_y = reach * abs(uy), reach * abs(ux)
    y_lo, y_hi = y0 + min(behind * uy, beyond * uy) - side_y, y0 + max(behind * uy, beyond * uy) + side_y
    x_lo, x_hi = x0 + min(behind * ux, beyond * ux) - side_x, x0 + max(behind * ux, beyond * ux) + side_x
    j_lo, j_hi = max(0, int(y_lo - 0.5)), min(height, int(y_hi + 1.5))
    i_lo, i_hi = max(0, int(x_lo - 0.5)), min(width, int(x_hi + 1.5))
    steep, level = abs(uy) > 0.05, abs(ux) > 0.05
    slope, spread = (ux / uy, reach / abs(uy)) if steep else (0.0, 0.0)
    back = uy / ux if level else 0.0
    near, far = (behind / ux, beyond / ux) if level else (0.0, 0.0)
    if near > far:
        near, far = far, near
    for j in range(j_lo, j_hi):
        py = j + 0.5 - y0
        lo, hi = i_lo, i_hi
        if steep:  # only the pixels of this row within reach of the axis line
            mid = x0 + py * slope
            lo, hi = max(lo, int(mid - spread)), min(hi, int(mid + spread + 1))
        if level:  # and between its ends
            foot = x0 - py * back
            lo, hi = max(lo, int(foot + near - 0.5)), min(hi, int(foot + far + 1.5))
        if lo < hi:
            row_lo[j], row_hi[j] = min(row_lo[j], lo), max(row_hi[j], hi)
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
                if joined:
                    qx, qy = px - dx, py - dy
                    if na * (qx * nx + qy * ny) - nb * abs(qy * nx - qx * ny) > 1e-6:
                        continue  # the next segment draws it
                if not joined and r1 < THIN_PX:
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
            cov[j, i] = max(cov[j, i], value * alpha)


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
def _boxes(plane, start, stop, phi):  # type: ignore[no-untyped-def]
    """Hull of two rectangles of one direction, exactly."""
    cov = plane.cov
    height, width = cov.shape
    x0, y0, l0, s0, a0 = start
    x1, y1, l1, s1, a1 = stop
    dx, dy = x1 - x0, y1 - y0
    hull, edges, ring, spare = np.empty((8, 2)), np.empty((8, 3)), np.empty((16, 2)), np.empty((16, 2))
    count, x_lo, y_lo, x_hi, y_hi = edges_of(dx, dy, l0, s0, l1, s1, phi, hull, edges)
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
            value = 1.0 if near == 0 else least if near == 1 else square_cut(px, py, hull, count, ring, spare)
            if value > 0.0:
                share = 0.0 if along2 < 1e-18 else min(1.0, max(0.0, (px * dx + py * dy) / along2))
                _mark(plane, i, j, value * (a0 + (a1 - a0) * share))


@numba.njit(cache=True, fastmath=True)
def cover(plane, shape, path, lo, hi):  # type: ignore[no-untyped-def]
    """Raise a plane to the coverage of footprints lo..hi, times alpha. shape: DISC, ELLIPSE or BOX."""
    points = seen_points(path, lo, hi)
    if len(points) == 1:
        cover_piece(plane, shape, path, lo, lo, lo, True)
    last = len(points) - 1
    for n in range(last):
        cover_piece(plane, shape, path, points[n], points[n + 1], points[min(n + 2, last)], n == 0)


@numba.njit(cache=True, fastmath=True)
def seen_points(path, lo, hi):  # type: ignore[no-untyped-def]
    """The points of lo..hi between which straight pieces of even widening look as the path."""
    return straight_points(path, lo, hi, OFF_PX, 0.0, FULLER, OPEN)


@numba.njit(cache=True, fastmath=True, inline="always")
def cover_piece(plane, shape, path, k, m, after, first):  # type: ignore[no-untyped-def]
    """Raise a plane to the hull of footprints k and m, which may be one. first: the stroke begins here. after: where
    the piece laid next goes to, m where none is.
    """
    start, stop, phi = _foot(path, k), _foot(path, m), (path.angle[k] + path.angle[m]) / 2
    if shape == ELLIPSE:
        _ellipses(plane, start, stop, phi)
    elif shape == BOX:
        _boxes(plane, start, stop, phi)
    elif k == m:
        _dot(plane, start.x, start.y, start.long / 2, start.alpha)
    else:
        _capsule(plane, start, stop, first, _foot(path, after))


def blank_plane(height: int, width: int) -> Plane:
    """An empty coverage plane."""
    return untouched(np.zeros((height, width), np.float32))


def untouched(cov: NDArray[np.float32]) -> Plane:
    """A coverage plane of these zeros."""
    height, width = cov.shape
    return Plane(cov, np.full(height, width, np.int32), np.zeros(height, np.int32))

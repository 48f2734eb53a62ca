"""What a chisel sweeps between two footprints: the hull of two rectangles of one direction, as corners and edges, and
how much of a pixel lies in it.
"""

import math

import numba
import numpy as np


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
def edges_of(dx, dy, l0, s0, l1, s1, phi, hull, edges):  # type: ignore[no-untyped-def]
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
    return edges_of(dx, dy, l0, s0, l1, s1, phi, np.empty((8, 2)), edges)


@numba.njit(cache=True, fastmath=True)
def square_cut(px, py, hull, count, ring, spare):  # type: ignore[no-untyped-def]
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

"""What a toothed tip rubs onto the surface: the load each place gets, and the mark it leaves there.

A lead presses most in its middle: the load falls to its rim as sqrt(1 - r^2), r the distance from the middle over half
the width (contact of a round body, Hertz; from memory). A place takes the most any part of the stroke presses there.
Loads are laid in cells finer than both grain and pixel, marks are made in each, and a pixel holds their mean, so that
tone is the same at any density.
"""

import math
from typing import NamedTuple

import numba
import numpy as np
from numpy.typing import NDArray

from gray_quill.core.ink.chisel import box_edges
from gray_quill.core.ink.coverage import BOX
from gray_quill.core.ink.grain import WAVELENGTH, crumb_mark, deposit, height_at
from gray_quill.core.ink.sleeve import OPEN, straight_points
from gray_quill.core.pen.tooth import SKIRT

BLOCK_PX = 64
LEAST_CELLS, MOST_CELLS = 2, 6  # along a pixel's side
CELL_SAMPLES = 1.4  # of the surface along a cell's side, at most where MOST_CELLS allows
ACROSS = 4.0  # cells there are across a stroke's mean width at least, where MOST_CELLS allows
# Of bristles; common practice, no source: how full the driest starts, how unevenly it gives, after which way half of it
# is gone, how suddenly it runs dry, and how much less it marks between two.
FULL, WAVES, DRY_MM, STEEP, BETWEEN = 0.15, 0.2, 60.0, 4.0, 0.5
# A pass presses lead into the valleys: how much of what is open a full load fills, and how much of the surface is level
# once it is full. Common practice, no source.
FILLS, LEVELLED = 0.35, 0.95
SMEAR_SAMPLES, SMEAR_LOOKS = 2.0 * WAVELENGTH, 3  # how far soft lead is dragged, and how often that way is looked at
CRUMB_LOAD, CRUMB_FINER = 0.35, 2.0  # share of the surface the crumbliest lead's bits cover; finer than a spray's drops
STRAIGHT, SAME_LOAD = 0.03, 0.05  # how straight pieces are, of the tip's short side, and how even in load
STRIDE = 0.42  # longest piece of a bristled tip, of its short side


class Lead(NamedTuple):
    """How a tip marks a surface: depth, soft as in grain.py; step: samples of the surface a px; bristles, hairs as in
    `hair`; smear, crumbs: 0..1.
    """

    depth: float
    soft: float
    step: float
    bristles: float
    hairs: int
    smear: float
    crumbs: float


class Load(NamedTuple):
    """Loads in the cells of a block, n along a pixel's side, and for each row the cells touched: from lo, before hi.

    heading: the motion's direction where the load is, of no rows for a tip that smears nothing. shed: what falls there
    as crumbs, of no rows for a lead that does not crumble.
    """

    cells: NDArray[np.float32]
    lo: NDArray[np.int64]
    hi: NDArray[np.int64]
    n: int
    heading: NDArray[np.float32]
    shed: NDArray[np.float32]


@numba.njit(cache=True, fastmath=True)
def cells_a_pixel(step, width_px):  # type: ignore[no-untyped-def]
    """How many cells lie along a pixel's side of `step` samples of the surface."""
    wanted = max(step / CELL_SAMPLES, ACROSS / max(width_px, 0.1))
    return int(min(MOST_CELLS, max(LEAST_CELLS, math.ceil(wanted))))


@numba.njit(cache=True, fastmath=True)
def hair(across, path_mm, hairs):  # type: ignore[no-untyped-def]
    """What is left on a brush's bristle, 0..1: across -1..1 of the brush, path_mm from where the stroke began. Each
    bristle took up its own share and gives it off as it goes, in waves of its own; it marks most in its middle.
    """
    at = min(max((across + 1.0) / 2.0 * hairs, 0.0), hairs - 1e-6)
    number = math.floor(at) + 1.0
    took = (number * 0.6180339887) % 1.0
    cycles = path_mm * (0.08 + 0.1 * ((number * 0.7548776662) % 1.0)) + number * 0.381966
    waves = 4.0 * abs(cycles - math.floor(cycles) - 0.5) - 1.0
    left = 1.2 * took + FULL + WAVES * waves - path_mm / (path_mm + DRY_MM)
    middle = 2.0 * (at - number + 1.0) - 1.0
    return min(1.0, max(0.0, STEEP * left)) * (1.0 - BETWEEN * middle * middle * middle * middle)


@numba.njit(cache=True, fastmath=True)
def rub(plane, fill, shape, path, pieces, first, last, tile, drops, corner, lead):  # type: ignore[no-untyped-def]
    """Raise an empty plane to the marks of pieces first..last. The plane's corner lies at `corner` on the paper, px;
    tile, drops: the surface, and the places where crumbs fall. fill: how far the strokes below have filled the surface
    at each pixel, 0..1, of the plane's shape; this one adds to it.
    """
    cov, row_lo, row_hi = plane
    depth, soft, step, bristles, hairs, smear, crumbs = lead
    left, above = corner
    height, width = cov.shape
    lo, hi = pieces[first], pieces[last]
    x, y, long, short, angle = path.x, path.y, path.long, path.short, path.angle
    reach = long[lo:hi].max() * 0.7072 + 1  # half the diagonal of a square tip, and farther than crumbs fall
    i_lo, i_hi = max(0, int(x[lo:hi].min() - reach)), min(width, int(x[lo:hi].max() + reach) + 1)
    j_lo, j_hi = max(0, int(y[lo:hi].min() - reach)), min(height, int(y[lo:hi].max() + reach) + 1)
    n = cells_a_pixel(step, short[lo:hi].mean())
    per_cell, pixel = 1.0 / n, 1.0 / (n * n)
    size = BLOCK_PX * n
    cells, cell_lo, cell_hi = np.zeros((size, size), np.float32), np.full(size, size), np.zeros(size, np.int64)
    none = np.zeros((0, 0), np.float32)
    heading = np.zeros((size, size), np.float32) if smear > 0.0 else none
    shed = np.zeros((size, size), np.float32) if crumbs > 0.0 else none
    load = Load(cells, cell_lo, cell_hi, n, heading, shed)
    spread = SKIRT if crumbs > 0.0 else 1.0
    edges = np.empty((8, 3))
    # what is left on a bristle changes all along the way, and both ends of a piece show it
    stride = STRIDE if bristles > 0.0 else OPEN
    points = [
        straight_points(path, pieces[p], pieces[p + 1], 0.0, STRAIGHT, SAME_LOAD, stride) for p in range(first, last)
    ]
    for top in range(j_lo, j_hi, BLOCK_PX):
        for side in range(i_lo, i_hi, BLOCK_PX):
            bottom, end = min(top + BLOCK_PX, j_hi), min(side + BLOCK_PX, i_hi)
            touched = False
            for drawn in points:
                for at in range(max(1, len(drawn) - 1)):
                    k, m = drawn[at], drawn[min(at + 1, len(drawn) - 1)]
                    r = max(long[k], long[m]) * 0.7072
                    if max(x[k], x[m]) + r < side or min(x[k], x[m]) - r > end:
                        continue
                    if max(y[k], y[m]) + r < top or min(y[k], y[m]) - r > bottom:
                        continue
                    touched = True
                    phi = (angle[k] + angle[m]) / 2
                    if shape == BOX:
                        _press_box(load, side, top, path, k, m, phi, edges)
                    else:
                        begins = at == 0 or bristles > 0.0
                        _press(load, side, top, path, k, m, phi, begins, bristles, hairs, spread)
            if not touched:
                continue
            for j in range(top, bottom):
                row = (j - top) * n
                begin, stop = cell_lo[row : row + n].min() // n, -(-cell_hi[row : row + n].max() // n)
                for i in range(side + begin, min(end, side + stop)):
                    total, pressed = 0.0, 0.0
                    ruled = depth * (1.0 - LEVELLED * fill[j, i])
                    for b in range(n):
                        for a in range(n):
                            at_row, at_column = row + b, (i - side) * n + a
                            here = cells[at_row, at_column]
                            bits = shed[at_row, at_column] * crumbs * CRUMB_LOAD if crumbs > 0.0 else 0.0
                            if here <= 0.0 and bits <= 0.0:
                                continue
                            u = (left + i + (a + 0.5) * per_cell) * step
                            v = (above + j + (b + 0.5) * per_cell) * step
                            mark = 0.0
                            if here > 0.0:
                                mark = deposit(height_at(tile, u, v), here, ruled, soft)
                                pressed += here
                                if smear > 0.0:
                                    mark += smear * (
                                        _dragged(tile, u, v, heading[at_row, at_column], here, ruled, soft) - mark
                                    )
                            if bits > 0.0:
                                mark = max(mark, crumb_mark(height_at(drops, u * CRUMB_FINER, v * CRUMB_FINER), bits))
                            total += mark
                    if pressed > 0.0:
                        fill[j, i] = 1.0 - (1.0 - fill[j, i]) * (1.0 - FILLS * pressed * pixel)
                    if total > 0.0:
                        cov[j, i] = total * pixel
                        row_lo[j] = min(row_lo[j], i)
                        row_hi[j] = max(row_hi[j], i + 1)
            for row in range(size):
                if cell_lo[row] < cell_hi[row]:
                    cells[row, cell_lo[row] : cell_hi[row]] = 0.0
                    if crumbs > 0.0:
                        shed[row, cell_lo[row] : cell_hi[row]] = 0.0
                cell_lo[row], cell_hi[row] = size, 0


@numba.njit(cache=True, fastmath=True)
def _dragged(tile, u, v, heading, load, depth, soft):  # type: ignore[no-untyped-def]
    """Mean mark of a load along the way the lead came: over a whole surface it is as dark as the mark itself."""
    du, dv = -math.cos(heading) * SMEAR_SAMPLES / SMEAR_LOOKS, -math.sin(heading) * SMEAR_SAMPLES / SMEAR_LOOKS
    total = 0.0
    for k in range(SMEAR_LOOKS):
        # between samples, as the mark itself is made: the nearest one alone would be darker
        total += deposit(height_at(tile, u + (k + 0.5) * du, v + (k + 0.5) * dv), load, depth, soft)
    return total / SMEAR_LOOKS


@numba.njit(cache=True, fastmath=True)
def _press(load, side, top, path, k, m, phi, begins, bristles, hairs, spread):  # type: ignore[no-untyped-def]
    """Load of the hull of two ellipses (or discs) of one mean aspect and direction, in the plane squeezed until they
    are discs. begins: the stroke begins here; what else lies behind the start the piece before has drawn. spread: how
    far crumbs fall, of the half width; 1 where there are none.
    """
    cells, cell_lo, cell_hi, n, headings, shed = load
    x0, y0, l0, s0, a0 = path.x[k], path.y[k], path.long[k], path.short[k], path.alpha[k]
    x1, y1, l1, s1, a1 = path.x[m], path.y[m], path.long[m], path.short[m], path.alpha[m]
    if s0 + s1 <= 0.0 or l0 + l1 <= 0.0:
        return
    c, s = math.cos(phi), math.sin(phi)
    q = (l0 + l1) / (s0 + s1)
    r0, r1 = l0 / (2 * q), l1 / (2 * q)
    dx, dy = x1 - x0, y1 - y0
    heading = math.atan2(dy, dx) if headings.shape[0] > 0 else 0.0
    ex, ey = (dx * c + dy * s) / q, -dx * s + dy * c
    length = math.sqrt(ex * ex + ey * ey)
    half_long, half_short = max(l0, l1) * 0.5, max(s0, s1) * 0.5
    reach_x, reach_y = math.hypot(half_long * c, half_short * s), math.hypot(half_long * s, half_short * c)
    nested = length <= abs(r1 - r0) + 1e-9
    ux, uy = (1.0, 0.0) if length < 1e-9 else (ex / length, ey / length)
    b = 0.0 if nested else (r0 - r1) / length
    a = math.sqrt(1.0 - b * b)
    rows, columns = cells.shape
    most, per_cell = max(a0, a1), 1.0 / n
    inner, reach = max(r0, r1), max(r0, r1) * spread
    behind = -reach if begins or nested or spread > 1.0 else -abs(b) / max(a, 1e-9) * reach
    reach_x, reach_y = reach_x * spread, reach_y * spread
    # along and across are even in px and py: what of a row lies beside the piece, and what beyond its ends, is cut off
    along_x, along_y = c * ux / q - s * uy, s * ux / q + c * uy
    across_x, across_y = -s * ux - c * uy / q, c * ux - s * uy / q
    flat, upright = abs(across_x) > 0.02 and not nested, abs(along_x) > 0.02 and not nested
    inv_across, inv_along = (1.0 / across_x if flat else 0.0), (1.0 / along_x if upright else 0.0)
    left, right = min(x0, x1) - reach_x, max(x0, x1) + reach_x
    for j in range(
        max(0, int((min(y0, y1) - reach_y - top) * n)), min(rows, int((max(y0, y1) + reach_y - top) * n) + 1)
    ):
        py = top + (j + 0.5) * per_cell - y0
        lo, hi = left, right
        if flat:
            mid, half = x0 - py * across_y * inv_across, abs(reach * inv_across)
            lo, hi = max(lo, mid - half), min(hi, mid + half)
        if upright:
            mid, near, far = x0 - py * along_y * inv_along, behind * inv_along, (length + reach) * inv_along
            lo, hi = max(lo, mid + min(near, far)), min(hi, mid + max(near, far))
        i_lo, i_hi = max(0, int((lo - side) * n)), min(columns, int((hi - side) * n) + 1)
        if i_lo < i_hi:
            cell_lo[j], cell_hi[j] = min(cell_lo[j], i_lo), max(cell_hi[j], i_hi)
        for i in range(i_lo, i_hi):
            if cells[j, i] >= most and spread == 1.0:
                continue
            px = side + (i + 0.5) * per_cell - x0
            along, across = along_x * px + along_y * py, across_x * px + across_y * py
            way = a * along - b * abs(across)
            share = 0.0 if length < 1e-9 else min(1.0, max(0.0, along / length))
            beyond = along - length
            if nested:
                past = beyond if r1 > r0 else along
                d, here = math.sqrt(past * past + across * across), inner
            elif way < 0.0:
                d, here = math.sqrt(along * along + across * across), r0
            elif way > a * length:
                d, here = math.sqrt(beyond * beyond + across * across), r1
            else:
                here = r0 - along * b
                d = abs(across) * a + along * b - r0 + here
            if spread > 1.0 and d < here * spread:
                out = d / (here * spread)
                fallen = (a0 + (a1 - a0) * share) * (1.0 - out * out)
                if fallen > shed[j, i]:
                    shed[j, i] = fallen
            if d >= here:
                continue
            pressed = (a0 + (a1 - a0) * share) * math.sqrt(1.0 - d * d / (here * here))
            if bristles > 0.0 and pressed > cells[j, i]:
                path_mm = path.along_mm[k] + (path.along_mm[m] - path.along_mm[k]) * share
                pressed *= 1.0 - bristles * (1.0 - hair(across / here, path_mm, hairs))
            if pressed > cells[j, i]:
                cells[j, i] = pressed
                if headings.shape[0] > 0:
                    headings[j, i] = heading


@numba.njit(cache=True, fastmath=True)
def _press_box(load, side, top, path, k, m, phi, edges):  # type: ignore[no-untyped-def]
    """Load of the hull of two rectangles: an edge presses evenly."""
    cells, cell_lo, cell_hi, n, headings, shed = load
    x0, y0, a0, a1 = path.x[k], path.y[k], path.alpha[k], path.alpha[m]
    dx, dy = path.x[m] - x0, path.y[m] - y0
    count, x_lo, y_lo, x_hi, y_hi = box_edges(
        dx, dy, path.long[k], path.short[k], path.long[m], path.short[m], phi, edges
    )
    along2, heading = dx * dx + dy * dy, math.atan2(dy, dx)
    rows, columns = cells.shape
    for j in range(max(0, int((y0 + y_lo - top) * n)), min(rows, int((y0 + y_hi - top) * n) + 1)):
        i_lo, i_hi = max(0, int((x0 + x_lo - side) * n)), min(columns, int((x0 + x_hi - side) * n) + 1)
        if i_lo < i_hi:
            cell_lo[j], cell_hi[j] = min(cell_lo[j], i_lo), max(cell_hi[j], i_hi)
        for i in range(i_lo, i_hi):
            px, py = side + (i + 0.5) / n - x0, top + (j + 0.5) / n - y0
            inside = True
            for e in range(count):
                if edges[e, 0] * px + edges[e, 1] * py + edges[e, 2] < 0.0:
                    inside = False
                    break
            if inside:
                share = 0.0 if along2 < 1e-18 else min(1.0, max(0.0, (px * dx + py * dy) / along2))
                pressed = a0 + (a1 - a0) * share
                if shed.shape[0] > 0 and pressed > shed[j, i]:  # an edge keeps its crumbs under it
                    shed[j, i] = pressed
                if pressed > cells[j, i]:
                    cells[j, i] = pressed
                    if headings.shape[0] > 0:
                        headings[j, i] = heading

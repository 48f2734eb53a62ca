"""Laying strokes over a page: W3C Compositing and Blending Level 1, in the sRGB space browsers blend in.

    alpha_o = alpha_s + alpha_b (1 - alpha_s)
    c_o = ((1 - alpha_s) alpha_b C_b + alpha_s ((1 - alpha_b) C_s + alpha_b B(C_b, C_s))) / alpha_o

with B = C_s (normal), C_b C_s (multiply), C_b + C_s - C_b C_s (screen).
"""

import math
from typing import NamedTuple

import numba
import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.ink.area import cover_area
from gray_quill.core.ink.coverage import AREA, DISC, SPRAY, Path, Plane, cover, cover_piece, seen_points
from gray_quill.core.ink.dry_media import Lead, rub
from gray_quill.core.ink.grain import toothed as toothed_mark
from gray_quill.core.ink.spray import spray

NORMAL, MULTIPLY, SCREEN = 0, 1, 2
REMEMBERED = 2  # even pens at a pixel: two that cross by turns still lie as one layer each
PASS_WIDTHS = 2.5  # path between two touches of a pixel that makes the second a new pass, in widths
BLENDS = {"normal": NORMAL, "multiply": MULTIPLY, "screen": SCREEN}


class Looks(NamedTuple):
    """How strokes lie on the page, one row each.

    colour, fill: (n, 3), 0..255. wall: px from the edge at which the inside of a hollow or wet stroke begins, 0 for any
    other. wet: the share of its tone a wet stroke's inside loses to its rim. builds: it darkens where it crosses
    itself. surface: which tile it catches on, -1 for none; depth, soft: see grain.py; step: samples of a tile a px;
    bristles, hairs, smear, crumbs: see rub.py. even: the share of its tone that it does not lay twice; pen: its
    number, by which it knows what it laid before.
    """

    shape: NDArray[np.int64]
    colour: Floats
    opacity: Floats
    mode: NDArray[np.int64]
    wall: Floats
    fill: Floats
    fill_opacity: Floats
    wet: Floats
    builds: NDArray[np.bool_]
    surface: NDArray[np.int64]
    depth: Floats
    soft: Floats
    step: Floats
    bristles: Floats
    hairs: NDArray[np.int64]
    smear: Floats
    crumbs: Floats
    even: Floats
    pen: NDArray[np.int64]


class Deposit(NamedTuple):
    """What the strokes below left for those above, at each pixel: how far the surface is filled, 0..1 (of no rows where
    nothing is rubbed), and how much of its tone the even pen of that number has laid, 0..1, of the REMEMBERED pens
    that came last (of no rows where no pen is even). A matter of the strokes below alone, so that undo, a part of a
    page and the whole of it agree.
    """

    fill: NDArray[np.float32]
    much: NDArray[np.float32]
    pen: NDArray[np.int32]


class Rubs(NamedTuple):
    """Where erasers went: discs along ways (px), offsets of the ways, and of each stroke's among those."""

    path: Path
    ways: NDArray[np.int64]
    strokes: NDArray[np.int64]


class Batch(NamedTuple):
    """Strokes in pixels of a page; `pieces` offset footprints, `strokes` offset pieces. The page's first pixel lies at
    (left, above) on the paper, in px. tiles: the surfaces; where a lead crumbles the last is the drops'.
    """

    path: Path
    pieces: NDArray[np.int64]
    strokes: NDArray[np.int64]
    looks: Looks
    tiles: NDArray[np.float32]
    left: float
    above: float
    rubs: Rubs


@numba.njit(cache=True, fastmath=True)
def blended(mode, below, above):  # type: ignore[no-untyped-def]
    """B(C_b, C_s) for channels in 0..1."""
    if mode == MULTIPLY:
        return below * above
    if mode == SCREEN:
        return below + above - below * above
    return above


def composed(below: NDArray[np.float32], above: NDArray[np.float32], mode: int) -> NDArray[np.float32]:
    """RGBA in 0..1 laid on RGB (opaque) or RGBA, as the formula above has it; of the shape of what is below."""
    alpha_s, colour = above[..., 3:], above[..., :3]
    if below.shape[2] == 3:
        backdrop = below
        mixed = backdrop * colour if mode == MULTIPLY else backdrop + colour - backdrop * colour
        return backdrop + ((colour if mode == NORMAL else mixed) - backdrop) * alpha_s
    backdrop, alpha_b = below[..., :3], below[..., 3:]
    mixed = backdrop * colour if mode == MULTIPLY else backdrop + colour - backdrop * colour
    out = alpha_s + alpha_b * (1 - alpha_s)
    laid = (1 - alpha_s) * alpha_b * backdrop
    laid = laid + alpha_s * ((1 - alpha_b) * colour + alpha_b * (colour if mode == NORMAL else mixed))
    return np.concatenate((laid / np.maximum(out, 1e-9), out), axis=-1)


@numba.njit(cache=True, fastmath=True)
def _opaque(page, j, i, colour, alpha, mode):  # type: ignore[no-untyped-def]
    """One pixel of an 8-bit page whose backdrop is opaque; alpha of each channel."""
    for c in range(3):
        below = page[j, i, c]
        above = colour[c] if mode == NORMAL else blended(mode, below / 255.0, colour[c] / 255.0) * 255.0
        page[j, i, c] = int(below + (above - below) * alpha[c] + 0.5)


@numba.njit(cache=True, fastmath=True)
def _clear(page, j, i, colour, alpha, mode):  # type: ignore[no-untyped-def]
    """One pixel of a float page (channels and alpha in 0..1, not premultiplied) that may be see-through."""
    below_alpha = page[j, i, 3]
    out = alpha + below_alpha * (1.0 - alpha)
    if out <= 0.0:
        return
    for c in range(3):
        below, above = page[j, i, c], colour[c] / 255.0
        page[j, i, c] = (
            (1.0 - alpha) * below_alpha * below
            + alpha * ((1.0 - below_alpha) * above + below_alpha * blended(mode, below, above))
        ) / out
    page[j, i, 3] = out


@numba.njit(cache=True, fastmath=True)
def _lay_plain(page, plane, top, bottom, colour, opacity):  # type: ignore[no-untyped-def]
    """`_lay` of an even colour on an opaque page, or of opacity alone: nearly all ink there is, so worth a walk of its
    own.
    """
    cov, row_lo, row_hi = plane
    red, green, blue = colour[0], colour[1], colour[2]
    coloured = page.shape[2] == 3
    for j in range(top, bottom):
        for i in range(row_lo[j], row_hi[j]):
            alpha = cov[j, i] * opacity
            if alpha <= 0.0:
                continue
            cov[j, i] = 0.0
            if not coloured:
                there = page[j, i, 0]
                page[j, i, 0] = int(there + (255.0 - there) * alpha + 0.5)
            elif alpha >= 1.0:
                page[j, i, 0], page[j, i, 1], page[j, i, 2] = int(red), int(green), int(blue)
            else:
                r, g, b = page[j, i, 0], page[j, i, 1], page[j, i, 2]
                page[j, i, 0] = int(r + (red - r) * alpha + 0.5)
                page[j, i, 1] = int(g + (green - g) * alpha + 0.5)
                page[j, i, 2] = int(b + (blue - b) * alpha + 0.5)
        row_lo[j], row_hi[j] = page.shape[1], 0


@numba.njit(cache=True, fastmath=True)
def _lead(looks, k):  # type: ignore[no-untyped-def]
    return Lead(
        looks.depth[k],
        looks.soft[k],
        looks.step[k],
        looks.bristles[k],
        looks.hairs[k],
        looks.smear[k],
        looks.crumbs[k],
    )


@numba.njit(cache=True, fastmath=True)
def _still_to_lay(below, j, i, pen, even, alpha, mode, colour):  # type: ignore[no-untyped-def]
    """Alpha an even pen lays now, a value for each channel: with what it laid there before the pixel is as if it had
    been gone over once, or, of the share that is not even, twice. Keeps count of it.
    """
    slot = REMEMBERED - 1  # where it is not remembered, the pen that came first is forgotten
    before = np.float32(0.0)
    for s in range(REMEMBERED):
        if below.pen[j, i, s] == pen:
            slot, before = s, below.much[j, i, s]
            break
    for s in range(slot, 0, -1):
        below.much[j, i, s], below.pen[j, i, s] = below.much[j, i, s - 1], below.pen[j, i, s - 1]
    twice = 1.0 - (1.0 - before) * (1.0 - alpha)
    wanted = even * max(before, alpha) + (1.0 - even) * twice
    below.much[j, i, 0], below.pen[j, i, 0] = wanted, pen
    return (
        _step(before, wanted, mode, colour[0] / 255.0),
        _step(before, wanted, mode, colour[1] / 255.0),
        _step(before, wanted, mode, colour[2] / 255.0),
    )


@numba.njit(cache=True, fastmath=True)
def _step(before, wanted, mode, colour):  # type: ignore[no-untyped-def]
    """Alpha that leads from one laying to the other in a channel: what is left of the backdrop is 1 - a s, with s = 1,
    1 - colour (multiply) or colour (screen).
    """
    strength = 1.0 - colour if mode == MULTIPLY else (colour if mode == SCREEN else 1.0)
    left = 1.0 - before * strength
    if left <= 1e-6 or strength <= 1e-6:
        return 0.0
    return (1.0 - (1.0 - wanted * strength) / left) / strength


@numba.njit(cache=True, fastmath=True)
def _lay(page, plane, inner, top, bottom, batch, k, opacity, rubbed, below):  # type: ignore[no-untyped-def]
    """Lay the covered stroke k on rows top..bottom of the page and wipe its coverage. `inner` is the inside of a hollow
    or wet stroke, or has no rows. rubbed: the coverage is what it marked of its surface already.
    """
    cov, row_lo, row_hi = plane
    looks = batch.looks
    mode, fill_opacity, wet, dosed = looks.mode[k], looks.fill_opacity[k], looks.wet[k], looks.shape[k] == SPRAY
    depth, soft, step = looks.depth[k], looks.soft[k], looks.step[k]
    colour, fill = looks.colour[k], looks.fill[k]
    tile = batch.tiles[max(looks.surface[k], 0)]
    hollow = inner.shape[0] > 0
    toothed = looks.surface[k] >= 0 and not rubbed
    even, pen = looks.even[k], looks.pen[k]
    channels = page.shape[2]
    for j in range(top, bottom):
        for i in range(row_lo[j], row_hi[j]):
            value = cov[j, i]
            if value <= 0.0:
                continue
            cov[j, i] = 0.0
            share = min(inner[j, i] / value, 1.0) if hollow else 0.0  # of what is covered, the part inside the walls
            if dosed:
                value = 1.0 - math.exp(-value)
            if toothed:
                at_x, at_y = (batch.left + i) * step, (batch.above + j) * step
                value = toothed_mark(tile, at_x, at_y, step, value, depth, soft)
            inside = value * share
            if hollow:
                inner[j, i] = 0.0
            wall = (value - inside * wet if wet > 0.0 else value - inside) * opacity
            if wet > 0.0:
                inside = 0.0
            each = (wall, wall, wall)
            if even > 0.0:
                each = _still_to_lay(below, j, i, pen, even, wall, mode if channels == 3 else NORMAL, colour)
                wall = each[0]
            if channels == 3:
                _opaque(page, j, i, colour, each, mode)
                if inside > 0.0:
                    through = inside * fill_opacity
                    _opaque(page, j, i, fill, (through, through, through), NORMAL)
            elif channels == 4:
                _clear(page, j, i, colour, wall, mode)
                if inside > 0.0:
                    _clear(page, j, i, fill, inside * fill_opacity, NORMAL)
            else:
                page[j, i, 0] = int(page[j, i, 0] + (255.0 - page[j, i, 0]) * wall + 0.5)
        row_lo[j], row_hi[j] = page.shape[1], 0


@numba.njit(cache=True, fastmath=True)
def _pass_over(plane, passes, shape, path, lo, hi, opacity):  # type: ignore[no-untyped-def]
    """Coverage of one piece that darkens where it crosses itself; the plane ends as the whole stroke's opacity.

    passes: opacity of finished passes over a pixel; coverage of the pass under way; arc length at which it was last
    touched. A pixel touched again after more than PASS_WIDTHS widths of path has been crossed a second time.
    """
    cov, row_lo, row_hi = plane
    done, now, met = passes[0], passes[1], passes[2]
    x, y, long = path.x, path.y, path.long
    height, width = cov.shape
    along = 0.0
    points = seen_points(path, lo, hi)
    for n in range(max(1, len(points) - 1)):
        k, m = points[n], points[min(n + 1, len(points) - 1)]
        cover_piece(plane, shape, path, k, m, m, n == 0)
        dx, dy = x[m] - x[k], y[m] - y[k]
        square = dx * dx + dy * dy
        length = math.sqrt(square)
        reach = max(long[k], long[m]) * 0.75 + 2
        left, right = int(min(x[k], x[m]) - reach), int(max(x[k], x[m]) + reach) + 1
        for j in range(max(0, int(min(y[k], y[m]) - reach)), min(height, int(max(y[k], y[m]) + reach) + 1)):
            for i in range(max(0, left), min(width, right)):
                value = cov[j, i]
                if value <= 0.0:
                    continue
                cov[j, i] = 0.0
                beside = ((i + 0.5 - x[k]) * dx + (j + 0.5 - y[k]) * dy) / max(square, 1e-12)
                at = along + min(1.0, max(0.0, beside)) * length
                if now[j, i] > 0.0 and at - met[j, i] > PASS_WIDTHS * long[k]:
                    done[j, i] = 1.0 - (1.0 - done[j, i]) * (1.0 - now[j, i] * opacity)
                    now[j, i] = 0.0
                now[j, i] = max(now[j, i], value)
                met[j, i] = at
        along += length
    for j in range(height):
        for i in range(row_lo[j], row_hi[j]):
            if now[j, i] > 0.0:
                cov[j, i] = 1.0 - (1.0 - done[j, i]) * (1.0 - now[j, i] * opacity)
                done[j, i] = now[j, i] = 0.0


@numba.njit(cache=True, fastmath=True)
def _rub_out(plane, inner, gone, rubs, k, dosed):  # type: ignore[no-untyped-def]
    """Take from stroke k's coverage what erasers went over. `gone` ends as the zeros it was. dosed: it is a spray's."""
    cov, row_lo, row_hi = plane
    path, ways = rubs.path, rubs.ways
    height = cov.shape[0]
    top, bottom = height, 0
    for w in range(rubs.strokes[k], rubs.strokes[k + 1]):
        lo, hi = ways[w], ways[w + 1]
        reach = path.long[lo] / 2 + 2
        top = min(top, max(0, int(path.y[lo:hi].min() - reach)))
        bottom = max(bottom, min(height, int(path.y[lo:hi].max() + reach) + 1))
        cover(gone, DISC, path, lo, hi)
    for j in range(top, bottom):
        for i in range(max(row_lo[j], gone.row_lo[j]), min(row_hi[j], gone.row_hi[j])):
            left = 1.0 - gone.cov[j, i]
            if dosed:  # an even share of its opacity, not of what was laid
                cov[j, i] = -math.log(1.0 - (1.0 - math.exp(-cov[j, i])) * left)
            else:
                cov[j, i] *= left
            if inner.shape[0] > 0:
                inner[j, i] *= left
        gone.cov[j, gone.row_lo[j] : gone.row_hi[j]] = 0.0
        gone.row_lo[j], gone.row_hi[j] = cov.shape[1], 0


@numba.njit(cache=True, fastmath=True)
def _inside(path, wall):  # type: ignore[no-untyped-def]
    """The path of what lies further than `wall` px from a stroke's edge."""
    long, short = (path.long - 2 * wall).clip(0), (path.short - 2 * wall).clip(0)
    return Path(path.x, path.y, long, short, path.angle, path.alpha, path.t_s, path.along_mm)


@numba.njit(cache=True, fastmath=True, nogil=True)
def lay_strokes(page, plane, inner, batch, below):  # type: ignore[no-untyped-def]
    """Lay a batch of strokes on a page, one after another.

    page: (h, w, 3) uint8 opaque RGB; (h, w, 4) float32 RGBA in 0..1; or (h, w, 1) uint8, opacity alone, for pictures of
    one colour. plane, inner: coverage of zeros, left as zeros; inner of no rows where no stroke has a wall. Lets go of
    the interpreter while it works. `below`: what earlier strokes left; these add to it.
    """
    path, looks, pieces = batch.path, batch.looks, batch.pieces
    y, long = path.y, path.long
    none = inner[:0]
    passes = np.zeros((3,) + plane.cov.shape, np.float32) if looks.builds.any() else np.zeros((3, 0, 0), np.float32)
    rows = plane.cov if batch.rubs.strokes[-1] > 0 else plane.cov[:0]
    gone = Plane(np.zeros_like(rows), np.full(len(rows), page.shape[1], np.int32), np.zeros(len(rows), np.int32))
    for k in range(len(batch.strokes) - 1):
        shape = looks.shape[k]
        hollow = looks.wall[k] > 0 and shape != SPRAY
        builds = looks.builds[k] and shape != SPRAY
        # a wash's walls and passes are planes of their own; all else that catches on a surface is rubbed onto it
        rubbed = looks.surface[k] >= 0 and shape != SPRAY and not builds and not hollow
        top, bottom = page.shape[0], 0
        for p in range(batch.strokes[k], batch.strokes[k + 1]):
            lo, hi = pieces[p], pieces[p + 1]
            reach = long[lo:hi].max() * 0.75 + 2  # half the diagonal of a square tip and a pixel's margin
            first, last = max(0, int(y[lo:hi].min() - reach)), min(page.shape[0], int(y[lo:hi].max() + reach) + 1)
            if first >= last:
                continue
            top, bottom = min(top, first), max(bottom, last)
            if rubbed:
                continue
            if shape == SPRAY:
                spray(plane, path, lo, hi)
            elif shape == AREA:
                cover_area(plane, path.x, path.y, lo, hi)
            elif builds:
                _pass_over(plane, passes, shape, path, lo, hi, looks.opacity[k])
            else:
                cover(plane, shape, path, lo, hi)
            if hollow:
                cover(Plane(inner, plane.row_lo, plane.row_hi), shape, _inside(path, looks.wall[k]), lo, hi)
        if rubbed and top < bottom:
            tile, begin, end = batch.tiles[looks.surface[k]], batch.strokes[k], batch.strokes[k + 1]
            drops, corner = batch.tiles[-1], (batch.left, batch.above)
            rub(plane, below.fill, shape, path, pieces, begin, end, tile, drops, corner, _lead(looks, k))
        if batch.rubs.strokes[k] < batch.rubs.strokes[k + 1] and top < bottom:
            _rub_out(plane, inner if hollow else none, gone, batch.rubs, k, shape == SPRAY)
        opacity = 1.0 if builds else looks.opacity[k]
        plain = page.shape[2] != 4 and (looks.mode[k] == NORMAL or page.shape[2] == 1) and not hollow and shape != SPRAY
        if plain and opacity > 0.0 and looks.even[k] == 0.0 and (rubbed or looks.surface[k] < 0):
            _lay_plain(page, plane, top, bottom, looks.colour[k], opacity)
            continue
        _lay(page, plane, inner if hollow else none, top, bottom, batch, k, opacity, rubbed, below)

"""Laying strokes over a page: W3C Compositing and Blending Level 1, in the sRGB space browsers blend in.

    alpha_o = alpha_s + alpha_b (1 - alpha_s)
    c_o = ((1 - alpha_s) alpha_b C_b + alpha_s ((1 - alpha_b) C_s + alpha_b B(C_b, C_s))) / alpha_o

with B = C_s (normal), C_b C_s (multiply), C_b + C_s - C_b C_s (screen).
"""

import math

import numba
import numpy as np

from gray_quill.core.ink.coverage import SPRAY, cover, spray
from gray_quill.core.ink.grain import toothed as toothed_mark

NORMAL, MULTIPLY, SCREEN = 0, 1, 2
PASS_WIDTHS = 2.5  # path between two touches of a pixel that makes the second a new pass, in widths
BLENDS = {"normal": NORMAL, "multiply": MULTIPLY, "screen": SCREEN}


@numba.njit(cache=True, fastmath=True)
def blended(mode, below, above):  # type: ignore[no-untyped-def]
    """B(C_b, C_s) for channels in 0..1."""
    if mode == MULTIPLY:
        return below * above
    if mode == SCREEN:
        return below + above - below * above
    return above


@numba.njit(cache=True, fastmath=True)
def _opaque(page, j, i, colour, alpha, mode):  # type: ignore[no-untyped-def]
    """One pixel of an 8-bit page whose backdrop is opaque."""
    if mode == NORMAL:
        for c in range(3):
            below = page[j, i, c]
            page[j, i, c] = int(below + (colour[c] - below) * alpha + 0.5)
        return
    for c in range(3):
        below = page[j, i, c]
        above = blended(mode, below / 255.0, colour[c] / 255.0) * 255.0
        page[j, i, c] = int(below + (above - below) * alpha + 0.5)


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
def _lay(
    page,
    cov,
    inner,
    row_lo,
    row_hi,
    top,
    bottom,
    colour,
    opacity,
    mode,
    fill,
    fill_opacity,
    wet,
    dosed,
    tile,
    depth,
    soft,
    left,
    above,
    step,
):  # type: ignore[no-untyped-def]
    """Lay one covered stroke on the page and wipe its coverage. `inner` is a hollow or wet stroke's inside, or has no
    rows.

    wet: the share of its tone a wet stroke's inside has lost to its rim; 0 for a hollow one, which is filled instead.
    dosed: the coverage is a spray's dose. tile: the surface of a toothed stroke, or no rows; depth, soft: see grain.py.
    Pixel (i, j) lies at (left + i, above + j) * step samples.
    """
    hollow = inner.shape[0] > 0
    toothed = tile.shape[0] > 0
    channels = page.shape[2]
    for j in range(top, bottom):
        for i in range(row_lo[j], row_hi[j]):
            value = cov[j, i]
            if value <= 0.0:
                continue
            cov[j, i] = 0.0
            if dosed:
                value = 1.0 - math.exp(-value)
            if toothed:
                value = toothed_mark(tile, (left + i) * step, (above + j) * step, step, value, depth, soft)
            inside = min(inner[j, i], value) if hollow else 0.0
            if hollow:
                inner[j, i] = 0.0
            wall = (value - inside * wet if wet > 0.0 else value - inside) * opacity
            if wet > 0.0:
                inside = 0.0
            if channels == 3:
                _opaque(page, j, i, colour, wall, mode)
                if inside > 0.0:
                    _opaque(page, j, i, fill, inside * fill_opacity, NORMAL)
            elif channels == 4:
                _clear(page, j, i, colour, wall, mode)
                if inside > 0.0:
                    _clear(page, j, i, fill, inside * fill_opacity, NORMAL)
            else:
                page[j, i, 0] = int(page[j, i, 0] + (255.0 - page[j, i, 0]) * wall + 0.5)
        row_lo[j], row_hi[j] = page.shape[1], 0


@numba.njit(cache=True, fastmath=True)
def _pass_over(cov, row_lo, row_hi, done, now, met, shape, x, y, long, short, angle, alpha, lo, hi, opacity):  # type: ignore[no-untyped-def]
    """Coverage of one piece that darkens where it crosses itself; `cov` ends as the whole stroke's opacity.

    done: opacity of finished passes over a pixel; now: coverage of the pass under way; met: arc length at which it was
    last touched. A pixel touched again after more than PASS_WIDTHS widths of path has been crossed a second time.
    """
    height, width = cov.shape
    along = 0.0
    for k in range(lo, max(lo + 1, hi - 1)):
        last = min(k + 2, hi)
        cover(cov, row_lo, row_hi, shape, x, y, long, short, angle, alpha, k, last)
        along += math.hypot(x[last - 1] - x[k], y[last - 1] - y[k])
        reach = max(long[k], long[last - 1]) * 0.75 + 2
        for j in range(
            max(0, int(min(y[k], y[last - 1]) - reach)), min(height, int(max(y[k], y[last - 1]) + reach) + 1)
        ):
            for i in range(
                max(0, int(min(x[k], x[last - 1]) - reach)), min(width, int(max(x[k], x[last - 1]) + reach) + 1)
            ):
                value = cov[j, i]
                if value <= 0.0:
                    continue
                cov[j, i] = 0.0
                if now[j, i] > 0.0 and along - met[j, i] > PASS_WIDTHS * long[k]:
                    done[j, i] = 1.0 - (1.0 - done[j, i]) * (1.0 - now[j, i] * opacity)
                    now[j, i] = 0.0
                now[j, i] = max(now[j, i], value)
                met[j, i] = along
    for j in range(height):
        for i in range(row_lo[j], row_hi[j]):
            if now[j, i] > 0.0:
                cov[j, i] = 1.0 - (1.0 - done[j, i]) * (1.0 - now[j, i] * opacity)
                done[j, i] = now[j, i] = 0.0


@numba.njit(cache=True, fastmath=True, nogil=True)
def lay_strokes(
    page,
    cov,
    inner,
    row_lo,
    row_hi,
    x,
    y,
    long,
    short,
    angle,
    alpha,
    t,
    pieces,
    strokes,  # type: ignore[no-untyped-def]
    shape,
    colour,
    opacity,
    mode,
    wall,
    fill,
    fill_opacity,
    wet,
    builds,
    surface,
    depth,
    soft,
    step,
    tiles,
    left,
    above,
):
    """Lay strokes on a page, one after another.

    page: (h, w, 3) uint8 opaque RGB; (h, w, 4) float32 RGBA in 0..1; or (h, w, 1) uint8, opacity alone, for pictures of
    one colour. cov, inner: float32 planes of zeros, left as zeros. The rest is page.py's batch. Lets go of the
    interpreter while it works.
    """
    none = inner[:0]
    passes = np.zeros((3,) + cov.shape, np.float32) if builds.any() else np.zeros((3, 0, 0), np.float32)
    for k in range(len(strokes) - 1):
        hollow = wall[k] > 0 and shape[k] != SPRAY
        top, bottom = page.shape[0], 0
        for p in range(strokes[k], strokes[k + 1]):
            lo, hi = pieces[p], pieces[p + 1]
            reach = long[lo:hi].max() * 0.75 + 2  # half the diagonal of a square tip and a pixel's margin
            first, last = max(0, int(y[lo:hi].min() - reach)), min(page.shape[0], int(y[lo:hi].max() + reach) + 1)
            if first >= last:
                continue
            top, bottom = min(top, first), max(bottom, last)
            if shape[k] == SPRAY:
                spray(cov, row_lo, row_hi, x, y, long, alpha, t, lo, hi)
            elif builds[k]:
                _pass_over(
                    cov,
                    row_lo,
                    row_hi,
                    passes[0],
                    passes[1],
                    passes[2],
                    shape[k],
                    x,
                    y,
                    long,
                    short,
                    angle,
                    alpha,
                    lo,
                    hi,
                    opacity[k],
                )
            else:
                cover(cov, row_lo, row_hi, shape[k], x, y, long, short, angle, alpha, lo, hi)
            if hollow:
                cover(
                    inner,
                    row_lo,
                    row_hi,
                    shape[k],
                    x,
                    y,
                    (long - 2 * wall[k]).clip(0),
                    (short - 2 * wall[k]).clip(0),
                    angle,
                    alpha,
                    lo,
                    hi,
                )
        _lay(
            page,
            cov,
            inner if hollow else none,
            row_lo,
            row_hi,
            top,
            bottom,
            colour[k],
            1.0 if builds[k] and shape[k] != SPRAY else opacity[k],
            mode[k],
            fill[k],
            fill_opacity[k],
            wet[k],
            shape[k] == SPRAY,
            tiles[surface[k]] if surface[k] >= 0 else tiles[0][:0],
            depth[k],
            soft[k],
            left,
            above,
            step[k],
        )

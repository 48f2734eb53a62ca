"""Frames of a film put right before they are read: what stands still on the sheet is taken out, and a camera that was
rolled is straightened along the ink.
"""

import itertools
from collections.abc import Callable

import numpy as np
from numpy.polynomial import Polynomial
from numpy.typing import NDArray
from scipy.ndimage import shift

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError

Stack = NDArray[np.uint8]
BACK_PX, MOST_BACK = 2.0, 0.08  # steps back of the pen's middle beyond noise, and the share of them a film may have
STILL_DROP = 15.0  # grey levels by which the sheet's own marks are darker than it
HIDING_DROP, UPRIGHT = 60.0, 0.5  # so dark that ink is lost on it, over this share of a column's height
MOST_BETWEEN = 0.6  # of a film's frames, at least, are strokes where there are several
BLOCK = 4  # frames averaged against noise before the brightest is taken
LEAST_SLOPE = 0.002  # of the ink's line; less moves it by less than a pixel across a film
MOST_SLOPE = 0.36  # about 20 degrees
LEAST_COLUMNS, BOWED_COLUMNS = 20, 120  # of ink, for a straight line and for a bowed one
BOW_DEGREE = 3
DARK_SHEET = 110.0  # grey level
BEGINNING_MM = 2.5  # of the stroke, by which shaken frames are laid on each other
LEAST_SHAKE_PX = 0.25
CLEAR_OF_PEN_MM = 8.0  # columns so far behind the pen hold nothing but ink


def check_order(where_px: Floats) -> None:
    """Raises InputError where the pen, by its middle in each frame, goes to and fro: frames out of order, or more than
    one stroke.
    """
    steps = np.diff(where_px)
    onward = np.sign(where_px[-1] - where_px[0]) or 1.0
    if (steps * onward < -BACK_PX).mean() > MOST_BACK:
        raise InputError(
            "The pen goes to and fro in these frames. Number them in the order they were taken, one stroke a film.",
            "frames",
        )


def strokes_of(where_px: Floats, least_px: float, least_frames: int) -> list[slice]:
    """The frames of each stroke, where the pen goes back in between and begins anew: runs in which it goes onward, each
    at least so far and so long. One stroke is the whole film.
    """
    steps = np.diff(where_px)
    onward = np.sign(np.median(steps)) or 1.0
    back = np.flatnonzero(steps * onward < -BACK_PX)
    cuts = [0, *(int(k) + 1 for k in back), len(where_px)]
    runs = [slice(a, b) for a, b in itertools.pairwise(cuts) if b - a >= least_frames]
    long = [r for r in runs if (where_px[r][-1] - where_px[r][0]) * onward >= least_px]
    held = sum(r.stop - r.start for r in long)
    return long if len(long) > 1 and held > MOST_BETWEEN * len(where_px) else [slice(0, len(where_px))]


def without_still_marks(stack: Stack, sheet: float) -> Stack:
    """The frames without the sheet's own marks: rules, print, shadows that stand still. A pixel that is dark in every
    frame is neither pen nor ink.
    """
    count = len(stack) // BLOCK * BLOCK
    blocks = stack[:count].reshape(-1, BLOCK, *stack.shape[1:])
    bare = np.zeros(stack.shape[1:], np.float32)
    for block in blocks:
        np.maximum(bare, block.mean(axis=0, dtype=np.float32), out=bare)
    missing = np.where(bare < sheet - STILL_DROP, sheet - bare, 0)
    if not missing.any():
        return stack
    lift = np.round(missing).astype(np.uint8)
    lifted = np.where(stack > 255 - lift, np.uint8(255), stack + lift)
    return _bridged(lifted, (missing > HIDING_DROP).mean(axis=0) > UPRIGHT)


def _bridged(stack: Stack, hidden: NDArray[np.bool_]) -> Stack:
    """Columns under upright rules, on which ink cannot be told from the rule, as what stands to both sides of them."""
    seen = np.flatnonzero(~hidden)
    if not hidden.any() or len(seen) < 2:
        return stack
    columns = np.flatnonzero(hidden)
    right = np.clip(np.searchsorted(seen, columns), 1, len(seen) - 1)
    before, after = seen[right - 1], seen[right]
    share = np.clip((columns - before) / (after - before), 0, 1)
    out = stack.copy()
    out[:, :, columns] = np.round(stack[:, :, before] * (1 - share) + stack[:, :, after] * share)
    return out


def as_dark_on_light(stack: Stack) -> Stack:
    """The frames with a light sheet: those of a dark one are turned over."""
    return 255 - stack if np.median(stack[::8, ::3, ::5]) < DARK_SHEET else stack


def steadied(stack: Stack, sheet: float, least_drop: float, where_px: Floats, mm_per_px: float) -> tuple[Stack, int]:
    """The frames shifted so that the stroke's beginning stays where it is in the last ones: what a hand that held the
    camera moved is taken out. where_px: the pen's middle. With the first frame whose place is known so: before, the pen
    hides the beginning.
    """
    left = stack[:, :, : stack.shape[2] * 2 // 5]
    dx, dy = np.full(len(stack), np.nan), np.full(len(stack), np.nan)
    for k in range(len(stack)):
        dark = np.maximum(sheet - least_drop / 2 - left[k].astype(np.float32), 0)
        found = _beginning(dark, least_drop, mm_per_px)
        if found is not None and where_px[k] - found[0] > CLEAR_OF_PEN_MM / mm_per_px:
            dx[k], dy[k] = found
    known = np.flatnonzero(np.isfinite(dx))
    if len(known) < len(stack) // 4:
        return stack, 0
    at = np.arange(len(stack))
    moved = [np.interp(at, known, d[known]) - float(np.median(d[known])) for d in (dy, dx)]
    if max(float(np.abs(m).max()) for m in moved) < LEAST_SHAKE_PX:
        return stack, 0
    out = np.empty_like(stack)
    for k, frame in enumerate(stack):
        out[k] = np.round(shift(frame.astype(np.float32), (-moved[0][k], -moved[1][k]), order=1, mode="nearest"))
    return out, int(known[0])


def _beginning(dark: Floats, least_drop: float, mm_per_px: float) -> tuple[float, float] | None:
    """Column at which the ink begins, to a share of a pixel, and its row there; None where there is no ink yet."""
    long = max(6, round(BEGINNING_MM / mm_per_px))
    peak = dark.max(axis=0)
    level = least_drop / 2
    run = np.flatnonzero(peak > level)
    if len(run) < long or run[0] == 0 or run[long - 1] - run[0] > 1.2 * long:
        return None
    first = int(run[0])
    part = dark[:, first + 2 : first + long]
    row = float((part * np.arange(len(dark))[:, None]).sum() / part.sum())
    a, b = float(peak[first - 1]), float(peak[first])
    return first - 1 + (level - a) / max(b - a, 1e-6), row


def straightened(stack: Stack, sheet: float, least_drop: float, pen_px: float, mm_per_px: float) -> Stack:
    """The frames sheared, column by column, so that the ink runs along a row: a rolled camera, or a bowed stroke.
    pen_px: the pen's middle in the last frames, whose ink is looked at.
    """
    height, width = stack.shape[1:]
    line = _line(stack[-3:].mean(axis=0), sheet, least_drop, pen_px, mm_per_px)
    if line is None:
        return stack
    off = line(np.arange(width, dtype=float))
    if np.abs(np.diff(off)).max() > MOST_SLOPE:
        raise InputError(
            "The stroke runs aslant in this film. Turn the camera, or the frames, so that it runs from side to side.",
            "frames",
        )
    if np.ptp(off) < LEAST_SLOPE * width:
        return stack
    rows = np.arange(height)[:, None] + off - off.mean()
    low = np.clip(np.floor(rows), 0, height - 1).astype(np.int64)
    high = np.clip(low + 1, 0, height - 1)
    share = np.clip(rows - low, 0, 1).astype(np.float32)
    columns = np.arange(width)[None]
    out = np.empty_like(stack)
    for k, frame in enumerate(stack):
        out[k] = np.round(frame[low, columns] * (1 - share) + frame[high, columns] * share)
    return out


def _line(
    late: Floats, sheet: float, least_drop: float, pen_px: float, mm_per_px: float
) -> Callable[[Floats], Floats] | None:
    """The ink's row by column in the last frames, by the middle of what is dark in each column; straight on beyond its
    ends; None where there is none.
    """
    last = int(min(late.shape[1], pen_px - CLEAR_OF_PEN_MM / mm_per_px))
    columns = np.arange(late.shape[1] // 12, max(last, late.shape[1] // 12 + 1))
    dark = np.maximum(sheet - least_drop / 2 - late[:, columns], 0)
    seen = dark.max(axis=0) > least_drop / 2
    if seen.sum() < LEAST_COLUMNS:
        return None
    x = columns[seen].astype(float)
    y = (dark[:, seen] * np.arange(len(dark))[:, None]).sum(axis=0) / dark[:, seen].sum(axis=0)
    keep = np.ones(len(x), bool)
    degree = BOW_DEGREE if len(x) > BOWED_COLUMNS else 1
    fitted = Polynomial.fit(x, y, 1)
    for now in (1, degree, degree):  # columns with anything else that is dark fall out
        fitted = Polynomial.fit(x[keep], y[keep], now)
        away = np.abs(y - fitted(x))
        keep = away <= max(1.0, 3 * float(np.median(away)))
        if keep.sum() < LEAST_COLUMNS:
            return None
    ends, slope = (x[keep].min(), x[keep].max()), fitted.deriv()

    def line(at: Floats) -> Floats:
        inside = np.clip(at, *ends)
        return np.asarray(fitted(inside) + (at - inside) * slope(inside))

    return line

"""Frames of a film put right before they are read: what stands still on the sheet is taken out, and a camera that was
rolled is straightened along the ink.
"""

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError

Stack = NDArray[np.uint8]
BACK_PX, MOST_BACK = 2.0, 0.08  # steps back of the pen's middle beyond noise, and the share of them a film may have
STILL_DROP = 15.0  # grey levels by which the sheet's own marks are darker than it
HIDING_DROP, UPRIGHT = 60.0, 0.5  # so dark that ink is lost on it, over this share of a column's height
BLOCK = 4  # frames averaged against noise before the brightest is taken
LEAST_SLOPE = 0.002  # of the ink's line; less moves it by less than a pixel across a film
MOST_SLOPE = 0.12  # about 7 degrees
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


def straightened(stack: Stack, sheet: float, least_drop: float, pen_px: float, mm_per_px: float) -> Stack:
    """The frames sheared so that the ink runs along a row. pen_px: the pen's middle in the last frames, whose ink is
    looked at.
    """
    slope = _slope(stack[-3:].mean(axis=0), sheet, least_drop, pen_px, mm_per_px)
    if abs(slope) < LEAST_SLOPE:
        return stack
    if abs(slope) > MOST_SLOPE:
        raise InputError(
            "The stroke runs aslant in this film. Turn the camera, or the frames, so that it runs from side to side.",
            "frames",
        )
    height, width = stack.shape[1:]
    shift = slope * (np.arange(width) - width / 2)
    rows = np.arange(height)[:, None] + shift
    low = np.clip(np.floor(rows), 0, height - 1).astype(np.int64)
    high = np.clip(low + 1, 0, height - 1)
    share = np.clip(rows - low, 0, 1).astype(np.float32)
    columns = np.arange(width)[None]
    out = np.empty_like(stack)
    for k, frame in enumerate(stack):
        out[k] = np.round(frame[low, columns] * (1 - share) + frame[high, columns] * share)
    return out


def _slope(late: Floats, sheet: float, least_drop: float, pen_px: float, mm_per_px: float) -> float:
    """Of the ink's line in the last frames, by the middle of what is dark in each column; 0 where there is none."""
    last = int(min(late.shape[1], pen_px - CLEAR_OF_PEN_MM / mm_per_px))
    columns = np.arange(late.shape[1] // 12, max(last, late.shape[1] // 12 + 1))
    dark = np.maximum(sheet - least_drop / 2 - late[:, columns], 0)
    seen = dark.max(axis=0) > least_drop / 2
    if seen.sum() < 20:
        return 0.0
    x = columns[seen].astype(float)
    y = (dark[:, seen] * np.arange(len(dark))[:, None]).sum(axis=0) / dark[:, seen].sum(axis=0)
    slope = 0.0
    keep = np.ones(len(x), bool)
    for _ in range(3):  # columns with anything else that is dark fall out
        slope, at = np.polyfit(x[keep], y[keep], 1)
        off = np.abs(y - at - slope * x)
        keep = off <= max(1.0, 3 * float(np.median(off)))
        if keep.sum() < 20:
            return 0.0
    return float(slope)

"""Tone of a shaded patch: how dark it is on the whole, and how even at the scale of a millimetre."""

import numpy as np

from gray_quill.core.arrays import Floats

EVENNESS_MM = 1.0
EDGE_STEP_MM, EDGE_SHARE = 0.1, 0.6


def mean_tone(cover: Floats) -> float:
    """Mean of a patch's opacities (0..1)."""
    return float(cover.mean())


def evenness(cover: Floats, px_per_mm: float) -> float:
    """Coefficient of variation of the mean tone of squares of EVENNESS_MM; 0 is perfectly flat. Margins that fill no
    square are left out.
    """
    side = max(1, round(EVENNESS_MM * px_per_mm))
    rows, columns = cover.shape[0] // side, cover.shape[1] // side
    if rows * columns == 0 or cover.mean() == 0:
        return 0.0
    squares = cover[: rows * side, : columns * side].reshape(rows, side, columns, side).mean(axis=(1, 3))
    return float(squares.std() / squares.mean())


def raggedness_mm(cover: Floats, px_per_mm: float) -> float:
    """How ragged the edges of a level straight stroke are: standard deviation of their places from a straight line, in
    mm.

    After ISO/IEC 13660:2001, raggedness (from memory): the edge is where tone is 40 % of the way from the inside to the
    paper. Columns are taken together over EDGE_STEP_MM; the larger of both edges counts.
    """
    step = max(1, round(EDGE_STEP_MM * px_per_mm))
    first, last = round(2 * px_per_mm), cover.shape[1] - round(2 * px_per_mm)
    count = (last - first) // step
    if count < 8:
        return 0.0
    profile = cover[:, first : first + count * step].reshape(cover.shape[0], count, step).mean(axis=2)
    inside = np.median(profile[np.abs(np.arange(len(profile)) - (len(profile) - 1) / 2) < max(1.0, len(profile) / 6)])
    over = profile > (1 - EDGE_SHARE) * inside
    at = np.arange(count)
    worst = 0.0
    for edge in (np.argmax(over, axis=0), np.argmax(over[::-1], axis=0)):
        place = edge[over.any(axis=0)].astype(float)
        where = at[over.any(axis=0)]
        if len(where) > 3:
            worst = max(worst, float(np.std(place - np.polyval(np.polyfit(where, place, 1), where))) / px_per_mm)
    return worst

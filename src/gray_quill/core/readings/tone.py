"""Tone of a shaded patch: how dark it is on the whole, and how even at the scale of a millimetre."""

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
EVENNESS_MM = 1.0


def mean_tone(cover: Floats) -> float:
    """Mean of a patch's opacities (0..1)."""
    return float(cover.mean())


def evenness(cover: Floats, px_per_mm: float) -> float:
    """Coefficient of variation of the mean tone of squares of EVENNESS_MM; 0 is perfectly flat. Margins that fill no square are left out."""
    side = max(1, round(EVENNESS_MM * px_per_mm))
    rows, columns = cover.shape[0] // side, cover.shape[1] // side
    if rows * columns == 0 or cover.mean() == 0:
        return 0.0
    squares = cover[:rows * side, :columns * side].reshape(rows, side, columns, side).mean(axis=(1, 3))
    return float(squares.std() / squares.mean())

"""A palette as a picture: its colours side by side."""

from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.colour.srgb import rgb


def palette_pixels(colours: Sequence[str], width_px: int, height_px: int) -> NDArray[np.uint8]:
    """Stripes of equal width, from left to right; shape (height, width, 3)."""
    which = np.arange(width_px) * len(colours) // width_px
    row = np.array([rgb(c) for c in colours], np.uint8)[which]
    return np.repeat(row[None], height_px, axis=0)

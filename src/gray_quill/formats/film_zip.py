"""Films out: a zip of PNG frames, in the order of their names; film_in.py reads them."""

import io
import zipfile
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.errors import TooLarge
from gray_quill.core.latency.film_reader import MOST_FRAMES
from gray_quill.formats.png import write_png

MOST_PIXELS = 200_000_000  # of all frames together, a byte each, which are in memory while they are read


def write_film(frames: Sequence[NDArray[np.uint8]]) -> bytes:
    """Grey frames as frame-00001.png and so on."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as film:
        for k, frame in enumerate(frames, 1):
            film.writestr(f"frame-{k:05d}.png", write_png(frame, compress=1))
    return out.getvalue()


def check_length(size: tuple[int, int], frames: int) -> None:
    """Refuse to make a film that is too much. size: height and width."""
    million = size[0] * size[1] * frames / 1_000_000
    if million > MOST_PIXELS / 1_000_000 or frames > MOST_FRAMES:
        raise TooLarge(
            f"That film would have {frames} frames and {million:.0f} million pixels; {MOST_FRAMES} and "
            f"{MOST_PIXELS // 1_000_000} million are the most. Take fewer frames a second, or less of the page."
        )

"""Where two panels show a sheet differently: how light each small square of the page is for the eye, and how far the
two are apart.
"""

import numba
import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import to_grey8
from gray_quill.core.ink.page import Pixels
from gray_quill.core.panel.proof import Proof

SQUARE_MM = 0.5  # what an eye sees as one at reading distance, about five minutes of arc; common practice, no source
MOST_L = 25.0  # from there on the picture of it is full
HARM = (162, 59, 42)


def apart_l(one: Proof, other: Proof, one_px_per_mm: float, other_px_per_mm: float) -> Floats:
    """Difference in L* (CIE 1976) of the squares of a page, its upper left first; positive where the other is
    lighter.
    """
    found = [_lightness(proof, scale) for proof, scale in ((one, one_px_per_mm), (other, other_px_per_mm))]
    rows, columns = (min(f.shape[k] for f in found) for k in (0, 1))
    return np.asarray(found[1][:rows, :columns] - found[0][:rows, :columns])


def heat_picture(apart: Floats) -> Pixels:
    """RGBA, clear where they are alike."""
    out = np.zeros((*apart.shape, 4), np.uint8)
    out[..., :3] = HARM
    out[..., 3] = np.round(255 * np.minimum(np.abs(apart) / MOST_L, 1))
    return out


def _lightness(proof: Proof, px_per_mm: float) -> Floats:
    shown = to_grey8(proof.pixels)
    rows, columns = (
        np.minimum(np.arange(round(n / px_per_mm / SQUARE_MM) + 1) * SQUARE_MM * px_per_mm, n) for n in shown.shape
    )
    light = lights_of_squares(shown, proof.seen, rows, columns)
    return np.where(light > (6 / 29) ** 3, 116 * np.cbrt(light) - 16, light * (29 / 3) ** 3)


def lights_of_squares(grey: NDArray[np.uint8], light: Floats, rows: Floats, columns: Floats) -> Floats:
    """Mean light of a picture's squares, each at least a pixel wide; light: of each grey; rows, columns: where they
    begin, and the ends, in px that need not be whole: a pixel on a bound counts for both by its shares.
    """
    sums = _sums(grey, light, *_shares(rows, grey.shape[0]), *_shares(columns, grey.shape[1]))
    return np.asarray(sums[: len(rows) - 1, : len(columns) - 1] / np.outer(np.diff(rows), np.diff(columns)))


def _shares(bounds: Floats, count: int) -> tuple[NDArray[np.int64], NDArray[np.float64]]:
    """For each pixel the square in which it begins, and how much of it lies in that one; the rest in the next."""
    pixels = np.arange(count)
    square = np.clip(np.searchsorted(bounds, pixels, side="right") - 1, 0, len(bounds) - 1)
    ends = np.append(np.asarray(bounds, float)[1:], np.inf)[square]
    return square, np.clip(ends - pixels, 0.0, 1.0)


@numba.njit(cache=True, nogil=True)
def _sums(grey, light, row, in_row, column, in_column):  # type: ignore[no-untyped-def]
    out = np.zeros((row[-1] + 2, column[-1] + 2))
    line = np.zeros(column[-1] + 2)
    for j in range(grey.shape[0]):
        line[:] = 0
        for i in range(grey.shape[1]):
            value, share, c = light[grey[j, i]], in_column[i], column[i]
            line[c] += share * value
            line[c + 1] += (1 - share) * value
        r, share = row[j], in_row[j]
        for c in range(len(line)):
            out[r, c] += share * line[c]
            out[r + 1, c] += (1 - share) * line[c]
    return out

"""Where two panels show a sheet differently: how light each small square of the page is for the eye, and how far the
two are apart.
"""

import numba
import numpy as np

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
        np.minimum(np.round(np.arange(round(n / px_per_mm / SQUARE_MM) + 1) * SQUARE_MM * px_per_mm), n).astype(int)
        for n in shown.shape
    )
    light = lights_of_squares(shown, proof.seen, rows, columns)
    return np.where(light > (6 / 29) ** 3, 116 * np.cbrt(light) - 16, light * (29 / 3) ** 3)


@numba.njit(cache=True, nogil=True)
def lights_of_squares(grey, light, rows, columns):  # type: ignore[no-untyped-def]
    """Mean light of a picture's squares; light: of each grey; rows, columns: where they begin, and the ends."""
    out = np.zeros((len(rows) - 1, len(columns) - 1))
    for r in range(len(rows) - 1):
        for c in range(len(columns) - 1):
            total = 0.0
            for j in range(rows[r], rows[r + 1]):
                for i in range(columns[c], columns[c + 1]):
                    total += light[grey[j, i]]
            out[r, c] = total / max(1, (rows[r + 1] - rows[r]) * (columns[c + 1] - columns[c]))
    return out

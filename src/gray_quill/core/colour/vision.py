"""Colours as people without one kind of cone see them (Machado, Oliveira and Fernandes, IEEE TVCG 15(6), 2009, severity
1.0).

The matrices act on linear light; on encoded values they would give other colours.
"""

import numpy as np
from numpy.typing import ArrayLike

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import decode_srgb, encode_srgb
from gray_quill.core.errors import unknown_choice

DEFICIENCIES: dict[str, Floats] = {
    "protanopia": np.array(
        [[0.152286, 1.052583, -0.204868], [0.114503, 0.786281, 0.099216], [-0.003882, -0.048116, 1.051998]]
    ),
    "deuteranopia": np.array(
        [[0.367322, 0.860646, -0.227968], [0.280085, 0.672501, 0.047413], [-0.011820, 0.042940, 0.968881]]
    ),
    "tritanopia": np.array(
        [[1.255528, -0.076749, -0.178779], [-0.078411, 0.930809, 0.147602], [0.004733, 0.691367, 0.303900]]
    ),
}


def seen_with(deficiency: str, rgb: ArrayLike) -> Floats:
    """sRGB channels 0..255 as seen with a deficiency, shape (..., 3)."""
    if deficiency not in DEFICIENCIES:
        raise unknown_choice("The deficiency", deficiency, DEFICIENCIES, "deficiency")
    linear = decode_srgb(np.asarray(rgb, float) / 255) @ DEFICIENCIES[deficiency].T
    return encode_srgb(np.clip(linear, 0, 1)) * 255

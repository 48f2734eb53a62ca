"""Colour difference: CIE L*a*b* under D65 and CIEDE2000 (Sharma, Wu and Dalal, Color Res. Appl. 30(1), 2005, whose
symbols these are).
"""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import decode_srgb, encode_srgb

# linear sRGB to XYZ, IEC 61966-2-1:1999; white is the sum of the rows, so that white has no chroma
TO_XYZ = np.array([[0.4124, 0.3576, 0.1805], [0.2126, 0.7152, 0.0722], [0.0193, 0.1192, 0.9505]])
WHITE = TO_XYZ.sum(axis=1)

# Smallest CIEDE2000 at which two washes or inks beside different words are told apart. Common practice, no source.
APART = 10.0
APART_IN_GREY = 3.5  # greys differ in one dimension only and are compared side by side on the same page


def lab(rgb: ArrayLike) -> Floats:
    """L*, a*, b* of sRGB channels 0..255 (not rounded), shape (..., 3)."""
    xyz = decode_srgb(np.asarray(rgb, float) / 255) @ TO_XYZ.T / WHITE
    f = np.where(xyz > (6 / 29) ** 3, np.cbrt(xyz), xyz / (3 * (6 / 29) ** 2) + 4 / 29)
    return np.stack((116 * f[..., 1] - 16, 500 * (f[..., 0] - f[..., 1]), 200 * (f[..., 1] - f[..., 2])), axis=-1)


def from_lab(colour: ArrayLike) -> tuple[Floats, NDArray[np.bool_]]:
    """sRGB channels 0..255 of L*, a*, b*, shape (..., 3), and which of them lie inside sRGB."""
    values = np.asarray(colour, float)
    fy = (values[..., 0] + 16) / 116
    f = np.stack((fy + values[..., 1] / 500, fy, fy - values[..., 2] / 200), axis=-1)
    xyz = np.where(f > 6 / 29, f**3, 3 * (6 / 29) ** 2 * (f - 4 / 29)) * WHITE
    linear = xyz @ np.linalg.inv(TO_XYZ).T
    inside = ((linear >= -1e-6) & (linear <= 1 + 1e-6)).all(axis=-1)
    return encode_srgb(np.clip(linear, 0, 1)) * 255, inside


def ciede2000(one: ArrayLike, other: ArrayLike) -> Floats:
    """Colour difference of L*, a*, b* triples, shapes (..., 3), with kL = kC = kH = 1."""
    (L1, a1, b1), (L2, a2, b2) = (np.moveaxis(np.asarray(v, float), -1, 0) for v in (one, other))
    C_mean = (np.hypot(a1, b1) + np.hypot(a2, b2)) / 2
    G = 0.5 * (1 - np.sqrt(C_mean**7 / (C_mean**7 + 25.0**7)))
    a1, a2 = (1 + G) * a1, (1 + G) * a2
    C1, C2 = np.hypot(a1, b1), np.hypot(a2, b2)
    h1, h2 = (np.degrees(np.arctan2(b, a)) % 360 for a, b in ((a1, b1), (a2, b2)))
    grey = C1 * C2 == 0
    turn = h2 - h1
    dh = np.where(grey, 0, np.where(turn > 180, turn - 360, np.where(turn < -180, turn + 360, turn)))
    dL, dC, dH = L2 - L1, C2 - C1, 2 * np.sqrt(C1 * C2) * np.sin(np.radians(dh) / 2)
    L, C = (L1 + L2) / 2, (C1 + C2) / 2
    total = h1 + h2
    h = np.where(
        grey, total, np.where(np.abs(turn) <= 180, total / 2, np.where(total < 360, total / 2 + 180, total / 2 - 180))
    )
    T = (
        1
        - 0.17 * np.cos(np.radians(h - 30))
        + 0.24 * np.cos(np.radians(2 * h))
        + 0.32 * np.cos(np.radians(3 * h + 6))
        - 0.20 * np.cos(np.radians(4 * h - 63))
    )
    R_C = 2 * np.sqrt(C**7 / (C**7 + 25.0**7))
    R_T = -np.sin(np.radians(60 * np.exp(-(((h - 275) / 25) ** 2)))) * R_C
    S_L = 1 + 0.015 * (L - 50) ** 2 / np.sqrt(20 + (L - 50) ** 2)
    S_C, S_H = 1 + 0.045 * C, 1 + 0.015 * C * T
    squared = (dL / S_L) ** 2 + (dC / S_C) ** 2 + (dH / S_H) ** 2 + R_T * (dC / S_C) * (dH / S_H)
    return np.asarray(np.sqrt(np.maximum(squared, 0)))


def difference(one: ArrayLike, other: ArrayLike) -> Floats:
    """CIEDE2000 of sRGB channels 0..255, shapes (..., 3)."""
    return ciede2000(lab(one), lab(other))

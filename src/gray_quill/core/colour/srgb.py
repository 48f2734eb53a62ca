"""Colour arithmetic: the sRGB transfer (IEC 61966-2-1:1999), relative luminance and contrast ratio (WCAG 2.2)."""

from collections.abc import Iterable

import numba
import numpy as np
from numpy.typing import ArrayLike, NDArray

from gray_quill.core.arrays import Floats

# Least contrast of text and of large text with its ground, WCAG 2.2 SC 1.4.3.
READABLE, LARGE = 4.5, 3.0
SEEN = 2.0  # from there on a line is seen without looking for it; common practice, no source
DARK = 0.18  # relative luminance under which light ink reads better than dark; common practice, no source
LUMINANCE_WEIGHTS = np.array([0.2126, 0.7152, 0.0722])


def decode_srgb(encoded: ArrayLike) -> Floats:
    """Encoded 0..1 to linear light."""
    v = np.asarray(encoded, float)
    return np.where(v <= 0.04045, v / 12.92, ((np.maximum(v, 0.04045) + 0.055) / 1.055) ** 2.4)


def encode_srgb(linear: ArrayLike) -> Floats:
    """Linear light to encoded 0..1."""
    v = np.asarray(linear, float)
    return np.where(v <= 0.0031308, v * 12.92, 1.055 * np.maximum(v, 0.0031308) ** (1 / 2.4) - 0.055)


_DECODED = decode_srgb(np.arange(256) / 255)
# the luminance from which on each grey is the nearest one, and a first guess at it
_FROM = np.append(decode_srgb(np.maximum(np.arange(256) - 0.5, 0) / 255), 2.0)
_NEAR = np.round(encode_srgb(np.linspace(0, 1, 4096)) * 255).astype(np.int64)


def rgb(colour: str) -> tuple[int, int, int]:
    """Channels 0..255 of "#rrggbb"."""
    return int(colour[1:3], 16), int(colour[3:5], 16), int(colour[5:7], 16)


def hex_of(channels: Iterable[float]) -> str:
    """ "#rrggbb" of three channels 0..255, rounded."""
    return "#{:02x}{:02x}{:02x}".format(*(round(float(c)) for c in channels))


def is_dark(colour: str) -> bool:
    """Whether light ink reads better than dark on this colour."""
    return float(luminance(rgb(colour))) < DARK


def luminance(rgb8: ArrayLike) -> Floats:
    """Relative luminance 0..1 of 8-bit sRGB, shape (..., 3) -> (...)."""
    return np.asarray(_DECODED[np.asarray(rgb8, np.uint8)] @ LUMINANCE_WEIGHTS)


def relative_luminance(rgb: ArrayLike) -> Floats:
    """Relative luminance 0..1 of sRGB channels 0..255 that need not be whole, shape (..., 3) -> (...)."""
    return np.asarray(decode_srgb(np.asarray(rgb, float) / 255) @ LUMINANCE_WEIGHTS)


def contrast(a: ArrayLike, b: ArrayLike) -> Floats:
    """Contrast ratio 1..21 of two relative luminances."""
    one, two = np.asarray(a, float), np.asarray(b, float)
    return (np.maximum(one, two) + 0.05) / (np.minimum(one, two) + 0.05)


def to_grey8(rgb8: NDArray[np.uint8]) -> NDArray[np.uint8]:
    """8-bit grey of the same luminance, shape (h, w, 3) -> (h, w)."""
    return np.asarray(_grey_of(np.require(rgb8, np.uint8, ("C", "W")), _DECODED, _NEAR, _FROM))


@numba.njit(cache=True)
def _grey_of(rgb8, decoded, near, begins):  # type: ignore[no-untyped-def]
    height, width = rgb8.shape[:2]
    out = np.empty((height, width), np.uint8)
    for j in range(height):
        for i in range(width):
            r, g, b = rgb8[j, i, 0], rgb8[j, i, 1], rgb8[j, i, 2]
            if r == g and g == b:
                out[j, i] = r
            else:
                light = 0.2126 * decoded[r] + 0.7152 * decoded[g] + 0.0722 * decoded[b]
                grey = near[int(light * 4095 + 0.5)]
                while light < begins[grey]:
                    grey -= 1
                while light >= begins[grey + 1]:
                    grey += 1
                out[j, i] = grey
    return out

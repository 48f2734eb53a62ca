"""E-paper that shows colours through a filter array: every pixel keeps its own lightness, several share one colour, and
the filter's dyes let only a pale one through.
"""

import numba
import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import LUMINANCE_WEIGHTS, decode_srgb, encode_srgb
from gray_quill.core.digitiser.device import Panel
from gray_quill.core.ink.page import Pixels

FINE = 16384  # steps of light that are encoded apart: finer than a step of encoded grey near black


def is_filtered(panel: Panel) -> bool:
    """Whether the panel shows colours through a filter array."""
    return panel.colour and panel.technology == "e-paper"


def shared_px(panel: Panel) -> int:
    """Side of the square of pixels that share one colour."""
    return max(1, round(panel.ppi / panel.colour_ppi)) if panel.colour_ppi else 1


def through_filter(pixels: Pixels, panel: Panel) -> Pixels:
    """RGB pixels as the filter lets them through, before they are toned."""
    light = np.asarray(decode_srgb(np.arange(256) / 255), np.float32)
    encoded = np.asarray(np.round(encode_srgb(np.arange(FINE + 1) / FINE) * 255), np.uint8)
    weights = np.asarray(LUMINANCE_WEIGHTS, np.float32)
    made = _through(np.ascontiguousarray(pixels), light, encoded, weights, np.float32(panel.vivid), shared_px(panel))
    return np.asarray(made, np.uint8)


def pale(colours: Floats, vivid: float) -> Floats:
    """Flat colours 0..255, shape (..., 3), as a filter that keeps so much of their colour lets them through."""
    light = decode_srgb(np.asarray(colours, float) / 255)
    grey = (light @ LUMINANCE_WEIGHTS)[..., None]
    return 255 * encode_srgb(np.clip(grey + vivid * (light - grey), 0, 1))


@numba.njit(cache=True, nogil=True)
def _through(pixels, light, encoded, weights, vivid, side):  # type: ignore[no-untyped-def]
    """Lightness of each pixel, and the mean departure of its square from grey."""
    height, width, _ = pixels.shape
    out = np.empty_like(pixels)
    for top in range(0, height, side):
        for left in range(0, width, side):
            bottom, right = min(top + side, height), min(left + side, width)
            red = green = blue = np.float32(0)
            for j in range(top, bottom):
                for i in range(left, right):
                    r, g, b = light[pixels[j, i, 0]], light[pixels[j, i, 1]], light[pixels[j, i, 2]]
                    grey = weights[0] * r + weights[1] * g + weights[2] * b
                    red += r - grey
                    green += g - grey
                    blue += b - grey
            share = vivid / np.float32((bottom - top) * (right - left))
            for j in range(top, bottom):
                for i in range(left, right):
                    r, g, b = light[pixels[j, i, 0]], light[pixels[j, i, 1]], light[pixels[j, i, 2]]
                    grey = weights[0] * r + weights[1] * g + weights[2] * b
                    out[j, i, 0] = encoded[_step(grey + share * red)]
                    out[j, i, 1] = encoded[_step(grey + share * green)]
                    out[j, i, 2] = encoded[_step(grey + share * blue)]
    return out


@numba.njit(cache=True, nogil=True)
def _step(value):  # type: ignore[no-untyped-def]
    return int(min(max(value, np.float32(0)), np.float32(1)) * np.float32(FINE) + np.float32(0.5))

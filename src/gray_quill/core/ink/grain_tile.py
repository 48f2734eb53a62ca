"""A picture of a surface made into a grain: brought to the scale of the shipped ones, without a seam, even over its
heights.
"""

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError
from gray_quill.core.ink.grain import surface
from gray_quill.core.pen.tooth import TILE

LEAST_PX, MOST_PX = 64, 2048  # sides of the square taken from the picture
MODEL = "cold-pressed"  # the shipped surface whose grain size an own one is brought to
FLATTEST = 1.5 / 255  # a picture that varies less shows no grain
LIGHT_CYCLES = 3.0  # slower changes across a tile are the lighting, not the surface


def grain_tile(grey: Floats) -> NDArray[np.uint8]:
    """Heights 0..255 (bright is high), shape (TILE, TILE), of a grey picture (h, w) in 0..1. Raises InputError where
    there is no grain.
    """
    side = min(*grey.shape, MOST_PX)
    if side < LEAST_PX:
        raise InputError(f"The grain picture must be at least {LEAST_PX} pixels high and wide.", "picture")
    square = _middle(grey, side)
    wanted = TILE * _wavelength_px(square) / _wavelength_px(np.asarray(surface(MODEL), np.float64))
    square = _middle(square, int(np.clip(wanted, LEAST_PX, side)))
    tile = _without_light(_periodic(_resized(square)))
    if tile.std() < FLATTEST:
        raise InputError(
            "This picture is flat: it shows no grain. Photograph the surface in light from the side.", "picture"
        )
    ranks = np.empty(TILE * TILE)
    ranks[np.argsort(tile, axis=None, kind="stable")] = np.arange(TILE * TILE)
    return np.asarray((ranks * 256 / (TILE * TILE)).astype(np.uint8).reshape(TILE, TILE))


def _middle(picture: Floats, side: int) -> Floats:
    top, left = ((n - side) // 2 for n in picture.shape)
    return picture[top : top + side, left : left + side]


def _frequencies(side: int) -> Floats:
    return np.hypot(np.fft.fftfreq(side)[:, None], np.fft.fftfreq(side)[None])


def _wavelength_px(square: Floats) -> float:
    """Typical distance from peak to peak: where the middle of the spectrum's power lies, lighting left out."""
    side = square.shape[0]
    window = np.hanning(side)
    power = np.abs(np.fft.fft2((square - square.mean()) * window[:, None] * window[None])) ** 2
    frequency = _frequencies(side)
    counts = frequency > LIGHT_CYCLES / side
    if power[counts].sum() < 1e-12:
        return float(side)
    return float(1 / np.exp(np.average(np.log(frequency[counts]), weights=power[counts])))


def _resized(square: Floats) -> Floats:
    """The square at TILE x TILE: cubic, and softened beforehand where that leaves samples out."""
    from scipy.ndimage import gaussian_filter, map_coordinates  # late, as in readings/tremor.py

    step = square.shape[0] / TILE
    smooth = gaussian_filter(square, step / 2 - 0.5, mode="nearest") if step > 1 else square
    at = (np.arange(TILE) + 0.5) * step - 0.5
    return np.asarray(map_coordinates(smooth, np.meshgrid(at, at, indexing="ij"), order=3, mode="nearest"))


def _periodic(square: Floats) -> Floats:
    """The part of a picture that repeats without a seam: "periodic plus smooth decomposition" (Moisan, J. Math. Imaging
    Vis. 39, 2011; from memory).
    """
    n = square.shape[0]
    border = np.zeros_like(square)
    for b, s in ((border, square), (border.T, square.T)):
        b[0] += s[-1] - s[0]
        b[-1] += s[0] - s[-1]
    turn = 2 * np.cos(2 * np.pi * np.arange(n) / n)
    bottom = turn[:, None] + turn[None] - 4
    bottom[0, 0] = 1
    smooth = np.fft.fft2(border) / bottom
    smooth[0, 0] = 0
    return np.asarray(square - np.fft.ifft2(smooth).real)


def _without_light(tile: Floats) -> Floats:
    slow = np.exp(-((_frequencies(TILE) * TILE / LIGHT_CYCLES) ** 2))
    return np.asarray(np.fft.ifft2(np.fft.fft2(tile) * (1 - slow)).real)

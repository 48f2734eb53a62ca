"""Paper surfaces: seeded, tileable height fields, and how a pen's load marks them.

Heights are ranked to an even spread over 0..1 (1 is a peak), so that a load of v marks the share v of the surface and
mean tone follows the load. A tile is TILE x TILE samples and repeats without a seam; the grain's own wavelength is
WAVELENGTH samples.
"""

from functools import lru_cache

import numba
import numpy as np
from numpy.typing import NDArray

from gray_quill.core.pen.tooth import TILE, Tooth, own_heights

Heights = NDArray[np.float32]
WAVELENGTH = 8.0
MANY_GRAINS = 1.5  # samples a pixel from which more than one is looked at
CRISP, SOFT = 0.08, 0.6  # share of the height over which a mark fades in: gritty, and soft

# name: seed, spread of wavelengths (octaves), and how much a regular line pattern adds
_SURFACES = {
    "smooth": (11, 0.35, 0.0),
    "laid": (12, 0.6, 0.9),
    "cold-pressed": (13, 0.8, 0.0),
    "rough": (14, 1.3, 0.0),
    "board": (15, 0.5, 0.15),
}


@lru_cache(maxsize=8)
def surface(name: str) -> Heights:
    """The height field of a paper surface, shape (TILE, TILE), even over 0..1."""
    seed, octaves, lines = _SURFACES[name]
    fy, fx = np.meshgrid(np.fft.fftfreq(TILE), np.fft.fftfreq(TILE), indexing="ij")
    frequency = np.hypot(fx, fy)
    frequency[0, 0] = 1e-9
    band = np.exp(-(np.log2(frequency * WAVELENGTH) ** 2) / (2 * octaves**2))
    noise = np.fft.ifft2(np.fft.fft2(np.random.default_rng(seed).standard_normal((TILE, TILE))) * band).real
    rows = np.cos(2 * np.pi * (TILE / WAVELENGTH) * np.arange(TILE) / TILE)[:, None]
    height = noise / noise.std() + lines * rows
    ranks = np.empty(TILE * TILE, np.float32)
    ranks[np.argsort(height, axis=None, kind="stable")] = (np.arange(TILE * TILE) + 0.5) / (TILE * TILE)
    return ranks.reshape(TILE, TILE)


@lru_cache(maxsize=16)
def surface_of(grain: str, own: str) -> Heights:
    """The height field a pen catches on: a paper surface by name, or its own grain."""
    if grain != "own":
        return surface(grain)
    return np.asarray((own_heights(own) + 0.5) / 256, np.float32)


def fade(tooth: Tooth) -> float:
    """Share of the height over which this pen's mark fades in."""
    return CRISP if tooth.crisp else SOFT


@numba.njit(cache=True, fastmath=True)
def deposit(height, load, depth, soft):  # type: ignore[no-untyped-def]
    """Mark left at a height by a load, both 0..1; rises with either. depth 0 ignores the surface, 1 is ruled by it."""
    mark = (load * (1.0 + soft) - (1.0 - height)) / soft
    mark = 0.0 if mark < 0.0 else (1.0 if mark > 1.0 else mark)
    return load * (1.0 - depth) + mark * depth


@numba.njit(cache=True, fastmath=True)
def height_at(tile, u, v, crisp):  # type: ignore[no-untyped-def]
    """Height at (u, v) samples from the tile's corner, repeating: the nearest sample where crisp, else between four."""
    n = tile.shape[0]
    if crisp:
        return tile[int(np.floor(v)) % n, int(np.floor(u)) % n]
    u, v = u - 0.5, v - 0.5
    i, j = int(np.floor(u)), int(np.floor(v))
    fu, fv = u - i, v - j
    i0, i1, j0, j1 = i % n, (i + 1) % n, j % n, (j + 1) % n
    return (tile[j0, i0] * (1 - fu) + tile[j0, i1] * fu) * (1 - fv) + (tile[j1, i0] * (1 - fu) + tile[j1, i1] * fu) * fv


@numba.njit(cache=True, fastmath=True)
def toothed(tile, u, v, step, load, depth, soft):  # type: ignore[no-untyped-def]
    """Mark of a load on the pixel whose corner lies at (u, v) samples and whose side is `step` samples.

    Where a pixel holds several grains it takes the mean of four of them: enough to keep the tone, too few to blur the
    grit.
    """
    crisp = soft < (CRISP + SOFT) / 2
    if step <= MANY_GRAINS:
        return deposit(height_at(tile, u + step / 2, v + step / 2, crisp), load, depth, soft)
    total = 0.0
    for a in (0.25, 0.75):
        for b in (0.25, 0.75):
            total += deposit(height_at(tile, u + a * step, v + b * step, crisp), load, depth, soft)
    return total / 4

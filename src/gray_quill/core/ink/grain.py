"""Paper surfaces: seeded, tileable height fields, and how a pen's load marks them.

Heights are ranked to an even spread over 0..1 (1 is a peak), so that a load of v reaches the share v of the surface. A
surface is SIDE x SIDE samples and repeats without a seam, too far away to be seen; the grain's own wavelength is
WAVELENGTH samples. On it lie a finer roughness, of a third of that, and clumps of CLUMP_GRAINS grains.
"""

import math
from functools import lru_cache

import numba
import numpy as np
from numpy.typing import NDArray

from gray_quill.core.pen.tooth import TILE, Tooth, own_heights

Heights = NDArray[np.float32]
SIDE = 512
LAST = SIDE - 1  # SIDE is a power of two, so that places repeat by their lowest bits
WAVELENGTH = 8.0
FINE_GRAINS, CLUMP_GRAINS = 1 / 3, 4.0
CRISP, SOFT = 0.3, 0.9  # share of the height over which a mark fades in: gritty, and soft
VALLEYS = 0.3  # share of the surface, the lowest, that a light load of a pen ruled by the surface leaves bare
THIN = 0.55  # how dark a mark is where hardly any load makes it, of its darkest
CRUMB_TONE, CRUMB_FADE = 0.9, 0.06  # how dark a crumb is, and the share of heights over which its rim fades
LOOKED_AT = 3  # most samples along a pixel's side

# name: seed, spread of the grain's wavelengths (octaves), weight of the finer roughness and of clumps, and of a regular
# line pattern
_SURFACES = {
    "smooth": (11, 0.35, 0.4, 0.25, 0.0),
    "laid": (12, 0.6, 0.4, 0.35, 0.9),
    "cold-pressed": (13, 0.5, 0.5, 0.5, 0.0),
    "rough": (14, 0.7, 0.5, 0.8, 0.0),
    "board": (15, 0.5, 0.4, 0.3, 0.15),
}
DROPS = "drops"  # no paper: where the drops of a spray fall, one after another as more is laid
DROP_SEED, DROP_COUNT, DROP_SAMPLES, DROP_SPREAD, LARGEST_DROP = 16, 16_000, 2.0, 0.55, 9.0


@lru_cache(maxsize=8)
def surface(name: str) -> Heights:
    """The height field of a paper surface, shape (SIDE, SIDE), even over 0..1."""
    height = _drops() if name == DROPS else _paper(*_SURFACES[name])
    ranks = np.empty(SIDE * SIDE, np.float32)
    ranks[np.argsort(height, axis=None, kind="stable")] = (np.arange(SIDE * SIDE) + 0.5) / (SIDE * SIDE)
    return ranks.reshape(SIDE, SIDE)


def _paper(seed: int, octaves: float, fine: float, clumps: float, lines: float) -> NDArray[np.float64]:
    rng = np.random.default_rng(seed)
    height = _noise(rng, WAVELENGTH, octaves)
    height += fine * _noise(rng, WAVELENGTH * FINE_GRAINS, 0.4)
    height += clumps * _noise(rng, WAVELENGTH * CLUMP_GRAINS, 0.5)
    return np.asarray(height + lines * np.cos(2 * np.pi * np.arange(SIDE) / WAVELENGTH)[:, None])


def _drops() -> NDArray[np.float64]:
    """Round drops of sizes as sprays throw them (log-normal; common practice, no source), each at a height of its own:
    the first to fall lies highest. Between them nearly nothing.
    """
    rng = np.random.default_rng(DROP_SEED)
    height = rng.uniform(-1, -0.9, (SIDE, SIDE))
    radii = np.minimum(LARGEST_DROP, DROP_SAMPLES * np.exp(DROP_SPREAD * rng.standard_normal(DROP_COUNT)))
    places, falls = rng.uniform(0, SIDE, (DROP_COUNT, 2)), rng.uniform(0, 1, DROP_COUNT)
    for (x, y), radius, fall in zip(places, radii, falls, strict=True):
        at_x, at_y = (np.arange(int(c - radius), int(c + radius) + 2) for c in (x, y))
        rim = 1 - np.hypot(at_x[None] + 0.5 - x, at_y[:, None] + 0.5 - y) / radius
        part = np.ix_(at_y % SIDE, at_x % SIDE)
        height[part] = np.maximum(height[part], np.where(rim > 0, fall + 0.02 * rim, -1))
    return height


def surface_bytes(name: str) -> bytes:
    """The heights 0..255 of a paper surface, row by row."""
    return np.round(surface(name) * 255).astype(np.uint8).tobytes()


def _noise(rng: np.random.Generator, wavelength: float, octaves: float) -> NDArray[np.float64]:
    """Noise around a wavelength in samples, with standard deviation 1, that repeats without a seam."""
    frequency = np.hypot(np.fft.fftfreq(SIDE)[:, None], np.fft.fftfreq(SIDE)[None])
    frequency[0, 0] = 1e-9
    band = np.exp(-(np.log2(frequency * wavelength) ** 2) / (2 * octaves**2))
    noise = np.fft.ifft2(np.fft.fft2(rng.standard_normal((SIDE, SIDE))) * band).real
    return np.asarray(noise / noise.std())


@lru_cache(maxsize=16)
def surface_of(grain: str, own: str) -> Heights:
    """The height field a pen catches on, shape (SIDE, SIDE): a paper surface by name, or its own grain."""
    if grain != "own":
        return surface(grain)
    return np.tile(np.asarray((own_heights(own) + 0.5) / 256, np.float32), (SIDE // TILE, SIDE // TILE))


def fade(tooth: Tooth) -> float:
    """Share of the height over which this pen's mark fades in."""
    return CRISP if tooth.crisp else SOFT


@numba.njit(cache=True, fastmath=True)
def _smooth(u):  # type: ignore[no-untyped-def]
    u = 0.0 if u < 0.0 else (1.0 if u > 1.0 else u)
    return u * u * (3.0 - 2.0 * u)


@numba.njit(cache=True, fastmath=True)
def deposit(height, load, depth, soft):  # type: ignore[no-untyped-def]
    """Mark left at a height by a load, both 0..1; rises with either. depth 0 ignores the surface, 1 is ruled by it.

    Over a whole surface the marked share is the load, whatever depth and soft are; a mark is darker where more load
    makes it. What the surface does not rule is a film that leaves valleys bare until the load fills them.
    """
    load = 0.0 if load < 0.0 else (1.0 if load > 1.0 else load)
    wide = min(soft, 2.0 * load, 2.0 - 2.0 * load)
    if wide > 1e-6:
        peaks = _smooth((height - (1.0 - load)) / wide + 0.5)
    else:
        peaks = 1.0 if height > 1.0 - load else 0.0
    bare = VALLEYS * depth * (1.0 - load)
    film = load / (1.0 - bare / 2.0) * _smooth(height / bare) if bare > 1e-6 else load
    return (film * (1.0 - depth) + peaks * depth) * (THIN + (1.0 - THIN) * load)


@numba.njit(cache=True, fastmath=True)
def crumb_mark(height, load):  # type: ignore[no-untyped-def]
    """Mark of the bits that fell at a height of the drops' field; the share `load` of it is covered."""
    return CRUMB_TONE * _smooth((height - (1.0 - load)) / min(CRUMB_FADE, 2.0 * load) + 0.5)


@numba.njit(cache=True, fastmath=True)
def height_at(tile, u, v):  # type: ignore[no-untyped-def]
    """Height at (u, v) samples from the tile's corner, repeating, between its four samples."""
    u, v = u - 0.5, v - 0.5
    i, j = int(math.floor(u)), int(math.floor(v))
    fu, fv = u - i, v - j
    i0, i1, j0, j1 = i & LAST, (i + 1) & LAST, j & LAST, (j + 1) & LAST
    return (tile[j0, i0] * (1 - fu) + tile[j0, i1] * fu) * (1 - fv) + (tile[j1, i0] * (1 - fu) + tile[j1, i1] * fu) * fv


@numba.njit(cache=True, fastmath=True)
def toothed(tile, u, v, step, load, depth, soft):  # type: ignore[no-untyped-def]
    """Mark of one load on the pixel whose corner lies at (u, v) samples and whose side is `step` samples: the mean over
    its area.
    """
    n = min(LOOKED_AT, max(1, int(math.ceil(step))))
    total = 0.0
    for a in range(n):
        for b in range(n):
            total += deposit(height_at(tile, u + (a + 0.5) / n * step, v + (b + 0.5) / n * step), load, depth, soft)
    return total / (n * n)

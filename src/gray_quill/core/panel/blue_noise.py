"""Blue noise: a mask of thresholds whose dots at every grey lie as evenly as can be, without a pattern.

Void and cluster (Ulichney, Proc. SPIE 1913, 1993; from memory): the tightest dot of a pattern is taken out or the
largest void filled, by the sum of a Gaussian about each dot, round the edges of the tile.
"""

import functools

import numba
import numpy as np

from gray_quill.core.arrays import Floats

SIDE = 64
SIGMA_PX = 1.5
FIRST_SHARE = 0.1  # of the pixels, set at random before they are moved apart
SEED = 1


@functools.cache
def blue_noise() -> Floats:
    """Thresholds between 0 and 1, each once, shape (SIDE, SIDE); repeats without a seam."""
    away = np.minimum(np.arange(SIDE), SIDE - np.arange(SIDE))
    near = np.exp(-(away[:, None] ** 2 + away[None] ** 2) / (2 * SIGMA_PX**2))
    first = np.random.default_rng(SEED).permutation(SIDE * SIDE)[: int(FIRST_SHARE * SIDE * SIDE)]
    ranks = _ranks(near, first)
    return np.asarray((ranks.reshape(SIDE, SIDE) + 0.5) / SIDE**2)


@numba.njit(cache=True)
def _add(energy, near, at, sign):  # type: ignore[no-untyped-def]
    """Add or take away a dot's nearness to all pixels of the tile."""
    side = near.shape[0]
    row, column = at // side, at % side
    for j in range(side):
        for i in range(side):
            energy[j * side + i] += sign * near[(j - row) % side, (i - column) % side]


@numba.njit(cache=True)
def _extreme(energy, dots, of_dots):  # type: ignore[no-untyped-def]
    """The tightest dot, or the emptiest place that is none."""
    best, found = -np.inf, 0
    for k in range(len(energy)):
        if dots[k] == of_dots:
            value = energy[k] if of_dots else -energy[k]
            if value > best:
                best, found = value, k
    return found


@numba.njit(cache=True)
def _ranks(near, first):  # type: ignore[no-untyped-def]
    """When each pixel becomes a dot as the picture grows darker, 0 .. n - 1."""
    n = near.size
    dots, energy = np.zeros(n, np.bool_), np.zeros(n)
    for at in first:
        dots[at] = True
        _add(energy, near, at, 1.0)
    while True:  # the tightest dot goes to the largest void, until it would come back to where it was
        tight = _extreme(energy, dots, True)
        dots[tight] = False
        _add(energy, near, tight, -1.0)
        void = _extreme(energy, dots, False)
        dots[void] = True
        _add(energy, near, void, 1.0)
        if void == tight:
            break
    ranks = np.zeros(n, np.int64)
    kept, kept_energy = dots.copy(), energy.copy()
    for rank in range(len(first) - 1, -1, -1):
        tight = _extreme(energy, dots, True)
        dots[tight] = False
        _add(energy, near, tight, -1.0)
        ranks[tight] = rank
    dots, energy = kept, kept_energy
    for rank in range(len(first), n):
        void = _extreme(energy, dots, False)
        dots[void] = True
        _add(energy, near, void, 1.0)
        ranks[void] = rank
    return ranks

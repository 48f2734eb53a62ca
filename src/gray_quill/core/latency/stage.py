"""Stages of the way from nib to light, each a random delay with mean and variance in closed form.

Waits for a clock are uniform over its period (JCGM 100:2008, 4.3.7: variance width^2 / 12; from memory). What jitters
is a gamma delay: never negative, with a tail to the late side.
"""

import dataclasses
import functools
from collections.abc import Iterator, Sequence

import numpy as np

from gray_quill.core.arrays import Floats

EVEN = 0.0  # a chance that is even from 0 to 1; others are shapes of gamma


@dataclasses.dataclass(frozen=True)
class Stage:
    """A delay of `fixed_ms`, a wait even over `wait_ms`, and a gamma delay of mean jitter_ms and deviation
    jitter_sd_ms, all added.
    """

    name: str
    fixed_ms: float = 0.0
    wait_ms: float = 0.0
    jitter_ms: float = 0.0
    jitter_sd_ms: float = 0.0

    @property
    def mean_ms(self) -> float:
        return self.fixed_ms + self.wait_ms / 2 + self.jitter_ms

    @property
    def variance_ms2(self) -> float:
        return self.wait_ms**2 / 12 + self._jitters * self.jitter_sd_ms**2

    @property
    def _jitters(self) -> bool:
        return self.jitter_ms > 0 and self.jitter_sd_ms > 0

    @property
    def chances(self) -> tuple[float, ...]:
        """What is drawn for it: EVEN, and the shape of a gamma delay."""
        jitter = ((self.jitter_ms / self.jitter_sd_ms) ** 2,) if self._jitters else ()
        return (EVEN,) * bool(self.wait_ms) + jitter

    def delays_ms(self, drawn: Iterator[Floats]) -> Floats:
        """Delays of what was drawn for it."""
        out: Floats = np.asarray(self.fixed_ms + (0.0 if self._jitters else self.jitter_ms))
        if self.wait_ms:
            out = out + next(drawn) * self.wait_ms
        if self._jitters:
            out = out + next(drawn) * (self.jitter_sd_ms**2 / self.jitter_ms)
        return out


def mean_ms(stages: Sequence[Stage]) -> float:
    """Mean of the sum: means add."""
    return sum(s.mean_ms for s in stages)


def sd_ms(stages: tuple[Stage, ...]) -> float:
    """Standard deviation of the sum of independent stages: variances add."""
    return float(np.sqrt(sum(s.variance_ms2 for s in stages)))


def draw_totals(stages: tuple[Stage, ...], seed: int, count: int, again: bool = True) -> Floats:
    """Seeded Monte Carlo of the sum, shape (count,), ms. again: this seed is asked for again."""
    draw = _drawn if again else _drawn.__wrapped__
    drawn = iter(draw(tuple(chance for stage in stages for chance in stage.chances), seed, count))
    total = np.zeros(count)
    for stage in stages:
        total += stage.delays_ms(drawn)
    return total


@functools.lru_cache(maxsize=2)  # a device is tried with many changes, which draw alike
def _drawn(chances: tuple[float, ...], seed: int, count: int) -> list[Floats]:
    """Draws in units of each chance."""
    rng = np.random.default_rng(seed)
    return [rng.random(count) if chance == EVEN else rng.standard_gamma(chance, count) for chance in chances]

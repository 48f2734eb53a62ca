"""Pace: faster is thinner."""

import dataclasses

import numba
import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.quantities import number

DOT_SPEED_MM_S = 10.0  # v0: keeps the width of a resting nib sane
SPEED_TAU_MS = 12.0  # one-pole smoothing of speed, so that report jitter does not show as beads


@dataclasses.dataclass(frozen=True)
class Pace:
    exponent: float = number(
        0,
        -0.6,
        0.6,
        0.01,
        "",
        "Thinner with speed",
        "0 ignores speed; above 0 fast strokes are thinner, below 0 thicker",
    )
    reference_mm_s: float = number(
        60,
        5,
        500,
        1,
        "mm/s",
        "Everyday speed",
        "Speed at which the width is the body's width",
        knee=5,
        needs="exponent",
    )


def pace_term(pace: Pace, speed_mm_s: Floats) -> Floats:
    """-k ln((v + v0) / (v_ref + v0)), the share of speed in ln width."""
    if pace.exponent == 0:
        return np.zeros(len(speed_mm_s))
    return np.asarray(-pace.exponent * np.log((speed_mm_s + DOT_SPEED_MM_S) / (pace.reference_mm_s + DOT_SPEED_MM_S)))


@numba.njit(cache=True)
def causal_speed_mm_s(t_s, x_mm, y_mm, offsets):  # type: ignore[no-untyped-def]
    """Speed at each sample of strokes parted by offsets, from a stroke's samples so far, smoothed with time constant
    SPEED_TAU_MS. A pen lands moving: the first sample has the speed of the second; that of a dot is 0. Samples of the
    catch-up at the lift, made in no time, have the last one's.
    """
    speed = np.zeros(len(t_s))
    for p in range(len(offsets) - 1):
        lo, hi = offsets[p], offsets[p + 1]
        held = 0.0
        for i in range(lo + 1, hi):
            dt = t_s[i] - t_s[i - 1]
            if dt > 0:
                now = np.hypot(x_mm[i] - x_mm[i - 1], y_mm[i] - y_mm[i - 1]) / dt
                held += (1 - np.exp(-dt * 1000 / SPEED_TAU_MS) if i > lo + 1 else 1.0) * (now - held)
            speed[i] = held
        if hi - lo > 1:
            speed[lo] = speed[lo + 1]
    return speed

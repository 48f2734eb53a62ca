"""Arrows drawn in one go: a shaft, and at its tip a head of two barbs, each out and back or one after the other."""

import dataclasses

import numpy as np

from gray_quill.core.arrays import Floats

LOOKS = 181
SHAFT_FROM, SHAFT_TO = 0.4, 0.93  # of the way's length, where the tip may lie
HEAD = (0.06, 0.6)  # how long its barbs may be, of the shaft
BARB = np.radians((10, 75))  # how far they may stand off the shaft
UNLIKE = 2.4  # times one barb may be as long as the other
HEAD_OFF = 0.12  # mean distance of the head's way from its barbs, of their length, beyond which it is none


@dataclasses.dataclass(frozen=True, eq=False)
class Arrow:
    """shaft: the part of the way (n, 2) that ends at the tip; head_mm: how long its barbs are; off: mean distance of
    the head's way from its barbs, of their length.
    """

    shaft: Floats
    head_mm: float
    off: float


def find_arrow(x: Floats, y: Floats, along: Floats) -> Arrow | None:
    """Where a way ends in an arrow's head; None where it does not. along: path length so far, mm."""
    even = np.linspace(0, along[-1], LOOKS)
    way = np.column_stack((np.interp(even, along, x), np.interp(even, along, y)))
    found = [_with_tip(way, k, even) for k in range(int(SHAFT_FROM * LOOKS), int(SHAFT_TO * LOOKS))]
    best = min((a for a in found if a is not None), key=lambda a: a.off, default=None)
    return best if best is not None and best.off <= HEAD_OFF else None


def _with_tip(way: Floats, tip: int, even: Floats) -> Arrow | None:
    rest = way[tip:] - way[tip]
    reach = float(np.hypot(*rest.T).max())
    shaft_mm = float(even[tip])
    if not HEAD[0] * shaft_mm <= reach <= HEAD[1] * shaft_mm or even[-1] - even[tip] < 1.5 * reach:
        return None
    before = int(np.searchsorted(even, shaft_mm - 1.2 * reach))
    heading = way[tip] - way[min(before, tip - 1)]
    heading = heading / max(float(np.hypot(*heading)), 1e-9)
    aside, back = rest @ np.array((-heading[1], heading[0])), -(rest @ heading)
    ends = rest[[int(aside.argmax()), int(aside.argmin())]]
    stands = np.arctan2(np.abs(aside[[aside.argmax(), aside.argmin()]]), back[[aside.argmax(), aside.argmin()]])
    lengths = np.hypot(*ends.T)
    both_sides = aside.max() > 0.15 * reach and aside.min() < -0.15 * reach
    if not both_sides or lengths.max() > UNLIKE * lengths.min() or not (BARB[0] < stands).all():
        return None
    if not (stands < BARB[1]).all():
        return None
    off = np.minimum(_off_segment(rest, np.zeros(2), ends[0]), _off_segment(rest, np.zeros(2), ends[1]))
    across = np.minimum(off, _off_segment(rest, ends[0], ends[1]))
    # one that goes straight from barb to barb leaves the tip once only
    nearest = min(float(np.sqrt(np.mean(off**2))), 1.15 * float(np.sqrt(np.mean(across**2))))
    return Arrow(way[: tip + 1], float(lengths.mean()), nearest / float(lengths.mean()))


def _off_segment(points: Floats, a: Floats, b: Floats) -> Floats:
    side = b - a
    share = np.clip((points - a) @ side / max(float(side @ side), 1e-12), 0, 1)
    return np.asarray(np.hypot(*(points - a - share[:, None] * side).T))

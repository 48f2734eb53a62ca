"""Press: force to width and to opacity through a monotone curve.

The curve is the monotone cubic of Fritsch and Butland (SIAM J. Sci. Comput. 5(2), 1984), as scipy's PchipInterpolator.
"""

import dataclasses
from functools import lru_cache

import numpy as np
from scipy.interpolate import PchipInterpolator

from gray_quill.core.arrays import Floats
from gray_quill.core.quantities import flag, number, points

SMALLEST_SPAN = 0.01  # floor and ceiling never meet, so that the curve keeps a slope


@dataclasses.dataclass(frozen=True)
class Press:
    floor: float = number(
        0.02, 0, 0.9, 0.005, "of full force", "Floor", "Force below this writes the thinnest line", needs="on"
    )
    ceiling: float = number(
        0.95, 0.05, 1, 0.005, "of full force", "Ceiling", "Force above this writes the thickest line", needs="on"
    )
    points: tuple[tuple[float, float], ...] = points(
        ((0.0, 0.0), (1.0, 1.0)), "Curve", "Points the press curve runs through, from [0, 0] to [1, 1]"
    )
    range: float = number(
        1,
        1,
        20,
        0.1,
        "x",
        "Thin to thick",
        "How many times wider full force writes than the lightest; 1 keeps the width",
        knee=1,
        needs="on",
    )
    opacity_range: float = number(
        1,
        1,
        20,
        0.1,
        "x",
        "Faint to full",
        "How many times more opaque full force writes than the lightest; 1 keeps the opacity",
        knee=1,
        needs="on",
    )
    on: bool = flag(True, "Press acts", "Off, force changes nothing and the other settings wait")

    @property
    def widening(self) -> float:
        """Thin to thick as it acts: 1 where force is off."""
        return self.range if self.on else 1.0

    @property
    def deepening(self) -> float:
        """Faint to full as it acts."""
        return self.opacity_range if self.on else 1.0


def press_share(press: Press, force: Floats) -> Floats:
    """P in 0..1: the force between floor and ceiling, through the curve. Same shape as force."""
    span = max(press.ceiling - press.floor, SMALLEST_SPAN)
    return np.asarray(_curve(press.points)(np.clip((force - press.floor) / span, 0, 1)))


@lru_cache(maxsize=256)
def _curve(through: tuple[tuple[float, float], ...]) -> PchipInterpolator:
    x, y = np.array(through).T
    return PchipInterpolator(x, y)


def press_term(press: Press, force: Floats) -> Floats:
    """(P - 1/2) ln R, the share of force in ln width."""
    if press.widening == 1:
        return np.zeros(len(force))
    return np.asarray((press_share(press, force) - 0.5) * np.log(press.widening))


def opacity_factor(press: Press, force: Floats) -> Floats:
    """Opacity relative to the body's, 1 at full force and 1 / opacity_range at the lightest."""
    if press.deepening == 1:
        return np.ones(len(force))
    return np.asarray(press.deepening ** (press_share(press, force) - 1.0))

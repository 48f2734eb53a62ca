"""Where a hand rests on the glass, as seen from the nib."""

import dataclasses
import math

from gray_quill.core.hand.hand import Hand
from gray_quill.core.quantities import REQUIRED, number


@dataclasses.dataclass(frozen=True)
class Zone:
    """The hand's resting place as an ellipse."""

    dx_mm: float = number(REQUIRED, -400, 400, 1, "mm", "Across", "Its middle from the nib, to the right")
    dy_mm: float = number(REQUIRED, -400, 400, 1, "mm", "Down", "Its middle from the nib, downwards")
    rx_mm: float = number(REQUIRED, 1, 400, 1, "mm", "Half width", "Half its width")
    ry_mm: float = number(REQUIRED, 1, 400, 1, "mm", "Half height", "Half its height")

    def distance(self, dx_mm: float, dy_mm: float) -> float:
        """How far out a place lies, from 0 in the middle over 1 at the edge; places are measured from the nib."""
        return math.hypot((dx_mm - self.dx_mm) / self.rx_mm, (dy_mm - self.dy_mm) / self.ry_mm)


# Where a right hand rests from the nib, mm; common practice, no source.
REST_MM = {"below": (38.0, 34.0), "side": (52.0, 6.0), "above": (34.0, -36.0)}


def rest_place(hand: Hand) -> tuple[float, float]:
    """Middle of the resting palm from the nib, mm, x to the right and y down; mirrored for a left hand."""
    dx, dy = REST_MM[hand.rest]
    return (dx if hand.side == "right" else -dx), dy


def zone_of(hand: Hand) -> Zone:
    """The resting zone a hand's posture gives."""
    dx, dy = rest_place(hand)
    return Zone(dx, dy, 0.5 * hand.palm_mm + 14, 0.5 * hand.palm_mm + 12)

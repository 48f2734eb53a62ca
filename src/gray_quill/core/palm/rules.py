"""Rules that tell palms from fingers, each adjustable, and the resting zone they look at."""

import dataclasses
import math

from gray_quill.core.hand.hand import Hand
from gray_quill.core.quantities import flag, integer, number


@dataclasses.dataclass(frozen=True)
class Rules:
    """Every rule refuses contacts; each is off at 0. `wait_ms` and `take_back_ms` say when a decision shows and how
    much of it can be undone.
    """

    before_ms: float = number(
        0, 0, 3000, 10, "ms", "Lock before the nib", "Refuse what landed up to this long before the nib is seen"
    )
    after_ms: float = number(
        0, 0, 3000, 10, "ms", "Lock after the nib", "Refuse what lands while the nib is seen and this long after"
    )
    radius_mm: float = number(400, 10, 400, 5, "mm", "Reach of the locks", "Both locks hold only this near the nib")
    size_mm: float = number(
        0, 0, 60, 0.5, "mm", "Largest finger", "Refuse contacts longer than this; 0 looks at no size"
    )
    zone: float = number(
        0,
        0,
        3,
        0.05,
        "",
        "Resting zone",
        "Refuse what lies in the hand's resting place, this many times as large; 0 looks at none",
    )
    zone_ms: float = number(
        1000, 0, 10000, 50, "ms", "Zone lasts", "How long after the nib was seen the resting zone holds"
    )
    edge_mm: float = number(0, 0, 40, 0.5, "mm", "Edge margin", "Refuse what lands this near the screen's edge")
    crowd_count: int = integer(
        0, 0, 8, "contacts", "Crowd", "Refuse contacts that are this many within the crowd's reach; 0 counts none"
    )
    crowd_mm: float = number(30, 5, 200, 1, "mm", "Crowd's reach", "How near each other contacts of a crowd lie")
    lie_ms: float = number(
        0, 0, 2000, 10, "ms", "Lies still", "Refuse what has hardly strayed this long after landing; 0 lets it lie"
    )
    lie_mm: float = number(
        3,
        1,
        20,
        0.5,
        "mm",
        "Hardly strayed",
        "What strays less than this lies still; three times this inside the resting zone",
    )
    wait_ms: float = number(0, 0, 500, 5, "ms", "Decide later", "Let a contact do nothing until it is this old")
    take_back_ms: float = number(
        0, 0, 3000, 10, "ms", "Take back", "Undo marks and page shift of a contact refused within this time of landing"
    )
    still: bool = flag(False, "Page stands still", "The page does not move while the nib writes")
    finger_ink: bool = flag(False, "Finger ink", "One finger writes instead of moving the page")
    page_lock: bool = flag(False, "Page lock", "Fingers never move or zoom the page")


# Which way each rule is tighter: +1 the larger, -1 the smaller (0 is off and loosest).
TIGHTER = {
    "before_ms": 1,
    "after_ms": 1,
    "radius_mm": 1,
    "size_mm": -1,
    "zone": 1,
    "zone_ms": 1,
    "edge_mm": 1,
    "crowd_count": -1,
    "crowd_mm": 1,
    "lie_ms": -1,
    "lie_mm": 1,
}
OFF = Rules()


@dataclasses.dataclass(frozen=True)
class Zone:
    """The hand's resting place as an ellipse: its middle from the nib, and its half axes, mm."""

    dx_mm: float
    dy_mm: float
    rx_mm: float
    ry_mm: float

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

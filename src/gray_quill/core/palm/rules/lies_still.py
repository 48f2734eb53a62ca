"""What lies still for too long to be a tap, and goes too short a way for anything else, is a hand at rest."""

import dataclasses
import math
from typing import Any

from gray_quill.core.palm.rules.base import Contact, Rule
from gray_quill.core.palm.rules.resting_zone import in_place
from gray_quill.core.palm.state import AT_REST, FOREVER, KEPT, TAP_MS, State, Touch
from gray_quill.core.palm.zone import Zone
from gray_quill.core.quantities import number

MOST_LIE_MM = 20.0
LYING_MS = 300.0  # within which straying is scored


@dataclasses.dataclass(frozen=True)
class Settings:
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


def lies(s: State, t: Touch, now_ms: float, rules: Any, zone: Zone) -> bool:
    """Whether a contact hardly strayed, and does not move the page with another that did: one of two fingers may
    rest.
    """
    if t.far_mm >= rules.lie_mm * (AT_REST if in_place(s, t, rules, zone) else 1):
        return False
    others = [o for o in s.touches.values() if o is not t and o.decision == KEPT and o.ended_ms == FOREVER]
    return not any(o.far_mm >= rules.lie_mm for o in others)


def lifts(s: State, t: Touch, now_ms: float, rules: Any, zone: Zone) -> bool:
    return rules.lie_ms > 0 and now_ms - t.born_ms > TAP_MS and lies(s, t, now_ms, rules, zone)


def strayed_mm(c: Contact) -> float:
    """How far it strayed from where it landed within LYING_MS, infinite where it lifted before."""
    first, soon = c.events[0], [e for e in c.events if e.t_ms - c.events[0].t_ms <= LYING_MS]
    if soon[-1].phase in ("up", "cancel"):
        return math.inf
    return max(math.hypot(e.x_mm - first.x_mm, e.y_mm - first.y_mm) for e in soon)


def instead(c: Contact, rules: Settings) -> str:
    if strayed_mm(c) >= MOST_LIE_MM:
        return ""
    return f"lying still, when straying under {strayed_mm(c):.0f} mm in {LYING_MS:.0f} ms counts as that"


RULE = Rule(
    "lies still",
    "lie_ms",
    "the time",
    Settings,
    tighter={"lie_ms": -1, "lie_mm": 1},
    options={"lie_ms": (0, 600, 450, 300, 200), "lie_mm": (3, 4, 5, 6, 7)},
    swept="lie_ms",
    strictest={"lie_ms": 150, "lie_mm": 20},
    score=lambda c: -strayed_mm(c),
    by_score=lambda rules, c: rules.lie_ms > 0 and strayed_mm(c) < rules.lie_mm,
    why=lambda c: f"it strayed only {strayed_mm(c):.1f} mm at first",
    instead=instead,
    aged=lies,
    age_ms=lambda rules: rules.lie_ms,
    lifts=lifts,
)

"""Contacts that lie close together are one hand."""

import dataclasses
import math

from gray_quill.core.palm.rules.base import Contact, Rule
from gray_quill.core.palm.state import FOREVER, State, Touch
from gray_quill.core.palm.zone import Zone
from gray_quill.core.quantities import integer, number


@dataclasses.dataclass(frozen=True)
class Settings:
    crowd_count: int = integer(
        0, 0, 8, "contacts", "Crowd", "Refuse contacts that are this many within the crowd's reach; 0 counts none"
    )
    crowd_mm: float = number(30, 5, 200, 1, "mm", "Crowd's reach", "How near each other contacts of a crowd lie")


def lands(s: State, t: Touch, now_ms: float, rules: Settings, zone: Zone) -> bool:
    if rules.crowd_count <= 0:
        return False
    down = [o for o in s.touches.values() if o.ended_ms == FOREVER]
    return sum(math.hypot(o.x - t.x, o.y - t.y) <= rules.crowd_mm for o in down) >= rules.crowd_count


def reach_mm(c: Contact, count: int) -> float:
    """How large a crowd of so many, itself among them, was at its closest; infinite where there never was one."""
    return 0.0 if count <= 1 else c.crowd_mm[count - 2] if count - 2 < len(c.crowd_mm) else math.inf


def by_score(rules: Settings, c: Contact) -> bool:
    return rules.crowd_count > 0 and reach_mm(c, rules.crowd_count) <= rules.crowd_mm


def why(c: Contact) -> str:
    near = [f"{n} within {reach_mm(c, n):.0f} mm" for n in range(2, 2 + len(c.crowd_mm)) if reach_mm(c, n) <= 200]
    return f"with other contacts it made {' and '.join(near)}" if near else "it made a crowd by itself"


def instead(c: Contact, rules: Settings) -> str:
    """A wider reach for the crowd that is asked for, or a smaller crowd where it never was so large."""
    for count in range(max(2, rules.crowd_count), 1, -1):
        if (reach := reach_mm(c, count)) <= 200:
            return f"a crowd of {count} within {reach:.0f} mm"
    return ""


RULE = Rule(
    "crowd",
    "crowd_count",
    "the contact",
    Settings,
    tighter={"crowd_count": -1, "crowd_mm": 1},
    options={"crowd_count": (0, 3, 2), "crowd_mm": (18, 24, 30)},
    swept="crowd_mm",
    strictest={"crowd_count": 2, "crowd_mm": 200},
    score=lambda c: -reach_mm(c, 2),
    by_score=by_score,
    why=why,
    instead=instead,
    lands=lands,
)

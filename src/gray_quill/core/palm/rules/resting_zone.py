"""What lies where the hand rests, while the nib is about, is the hand."""

import dataclasses
import math

from gray_quill.core.palm.rules.base import Contact, Rule
from gray_quill.core.palm.state import FOREVER, State, Touch
from gray_quill.core.palm.zone import Zone
from gray_quill.core.quantities import number


@dataclasses.dataclass(frozen=True)
class Settings:
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


def in_place(s: State, t: Touch, rules: Settings, zone: Zone) -> bool:
    """Whether a contact lies in the resting zone, wherever the nib was seen last."""
    return rules.zone > 0 and s.nib is not None and zone.distance(t.x - s.nib[0], t.y - s.nib[1]) <= rules.zone


def lands(s: State, t: Touch, now_ms: float, rules: Settings, zone: Zone) -> bool:
    return (s.nib_present or now_ms - s.nib_seen_ms <= rules.zone_ms) and in_place(s, t, rules, zone)


def nib_comes(s: State, t: Touch, now_ms: float, rules: Settings, zone: Zone) -> bool:
    return t.ended_ms == FOREVER and lands(s, t, now_ms, rules, zone)


def zone_of_contact(c: Contact) -> float:
    """How far out of the zone it lay at its landing or the nib's coming, the less of both."""
    return min((c.zone.distance(dx, dy) for dx, dy in c.from_nib), default=math.inf)


def by_score(rules: Settings, c: Contact) -> bool:
    soon = min(c.since_nib_ms, c.until_nib_ms) <= rules.zone_ms
    return rules.zone > 0 and zone_of_contact(c) <= rules.zone and soon


def instead(c: Contact, rules: Settings) -> str:
    out = zone_of_contact(c)
    return f"a resting zone {max(0.05, out):.2f} times as large" if out <= 3 else ""


RULE = Rule(
    "resting zone",
    "zone",
    "the place",
    Settings,
    tighter={"zone": 1, "zone_ms": 1},
    options={"zone": (0, 0.8, 1.0, 1.2, 1.5), "zone_ms": (300, 600, 1000)},
    swept="zone",
    strictest={"zone": 3, "zone_ms": 10_000},
    score=lambda c: -zone_of_contact(c),
    by_score=by_score,
    why=lambda c: f"it lay {zone_of_contact(c):.2f} of the way out of your hand's resting place",
    instead=instead,
    lands=lands,
    nib_comes=nib_comes,
)

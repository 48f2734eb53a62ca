"""What lands while the nib is seen, or shortly after, is the hand that holds it."""

import dataclasses

from gray_quill.core.palm.rules.base import Contact, Rule, in_reach
from gray_quill.core.palm.state import State, Touch
from gray_quill.core.palm.zone import Zone
from gray_quill.core.quantities import number


@dataclasses.dataclass(frozen=True)
class Settings:
    after_ms: float = number(
        0, 0, 3000, 10, "ms", "Lock after the nib", "Refuse what lands while the nib is seen and this long after"
    )
    radius_mm: float = number(400, 10, 400, 5, "mm", "Reach of the locks", "Both locks hold only this near the nib")


def lands(s: State, t: Touch, now_ms: float, rules: Settings, zone: Zone) -> bool:
    near = s.nib_present or now_ms - s.nib_seen_ms <= rules.after_ms
    return rules.after_ms > 0 and t.born_ms == now_ms and near and in_reach(s, t, rules.radius_mm)


def by_score(rules: Settings, c: Contact) -> bool:
    return 0 < rules.after_ms and c.since_nib_ms <= rules.after_ms


def why(c: Contact) -> str:
    return "the nib was seen" if c.since_nib_ms <= 0 else f"the nib had been seen {c.since_nib_ms:.0f} ms before"


def instead(c: Contact, rules: Settings) -> str:
    return f"a lock after the nib of {c.since_nib_ms:.0f} ms" if 0 < c.since_nib_ms < 3000 else ""


RULE = Rule(
    "nib near",
    "after_ms",
    "the nib",
    Settings,
    tighter={"after_ms": 1, "radius_mm": 1},
    options={"after_ms": (0, 200, 400, 600, 800, 1000)},
    swept="after_ms",
    strictest={"after_ms": 3000},
    score=lambda c: -c.since_nib_ms,
    by_score=by_score,
    why=why,
    instead=instead,
    lands=lands,
)

"""What landed shortly before the nib was the hand that brings it."""

import dataclasses
from typing import Any

from gray_quill.core.palm.rules.base import Contact, Rule, in_reach
from gray_quill.core.palm.state import State, Touch
from gray_quill.core.palm.zone import Zone
from gray_quill.core.quantities import number


@dataclasses.dataclass(frozen=True)
class Settings:
    before_ms: float = number(
        0, 0, 3000, 10, "ms", "Lock before the nib", "Refuse what landed up to this long before the nib is seen"
    )


def nib_comes(s: State, t: Touch, now_ms: float, rules: Any, zone: Zone) -> bool:
    return rules.before_ms > 0 and now_ms - t.born_ms <= rules.before_ms and in_reach(s, t, rules.radius_mm)


def by_score(rules: Settings, c: Contact) -> bool:
    return 0 < rules.before_ms and c.until_nib_ms <= rules.before_ms


def instead(c: Contact, rules: Settings) -> str:
    return f"a lock before the nib of {c.until_nib_ms:.0f} ms" if 0 < c.until_nib_ms < 3000 else ""


RULE = Rule(
    "nib arrived",
    "before_ms",
    "the nib",
    Settings,
    tighter={"before_ms": 1},
    options={"before_ms": (0, 300, 600, 800, 1000, 1500)},
    swept="before_ms",
    strictest={"before_ms": 3000},
    score=lambda c: -c.until_nib_ms,
    by_score=by_score,
    why=lambda c: f"the nib came {c.until_nib_ms:.0f} ms after it landed",
    instead=instead,
    nib_comes=nib_comes,
)

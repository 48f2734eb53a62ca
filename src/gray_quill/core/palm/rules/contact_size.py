"""What is larger than a finger is not one."""

import dataclasses

from gray_quill.core.palm.rules.base import Contact, Rule
from gray_quill.core.palm.state import State, Touch
from gray_quill.core.palm.zone import Zone
from gray_quill.core.quantities import number


@dataclasses.dataclass(frozen=True)
class Settings:
    size_mm: float = number(
        0, 0, 60, 0.5, "mm", "Largest finger", "Refuse contacts longer than this; 0 looks at no size"
    )


def lands(s: State, t: Touch, now_ms: float, rules: Settings, zone: Zone) -> bool:
    return 0 < rules.size_mm < t.size_mm


def size_mm(c: Contact) -> float:
    """The longest it was."""
    return max(e.size_mm for e in c.events)


RULE = Rule(
    "contact size",
    "size_mm",
    "the contact",
    Settings,
    tighter={"size_mm": -1},
    options={"size_mm": (0, 18, 15, 13.5, 12.5, 11.5)},
    swept="size_mm",
    strictest={"size_mm": 4},
    score=size_mm,
    by_score=lambda rules, c: 0 < rules.size_mm < size_mm(c),
    why=lambda c: f"it grew to {size_mm(c):.0f} mm",
    instead=lambda c, rules: f"a size limit under {size_mm(c):.0f} mm" if size_mm(c) > 0 else "",
    lands=lands,
)

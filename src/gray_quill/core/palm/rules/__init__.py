"""Rules that tell palms from fingers, each adjustable.

A new rule is one file here and one line in RULES; web/src/ink/palm-rules.ts holds its few lines in the browser.
"""

import dataclasses
from typing import Any

from gray_quill.core.palm.rules import (
    contact_size,
    crowd,
    edge,
    hand_like,
    lies_still,
    nib_arrived,
    nib_near,
    resting_zone,
)
from gray_quill.core.palm.rules.base import Rule, Values
from gray_quill.core.quantities import flag, number

# In the order they are asked where several could refuse; the first that does is the deciding one.
RULES: tuple[Rule, ...] = (
    nib_arrived.RULE,
    nib_near.RULE,
    contact_size.RULE,
    resting_zone.RULE,
    edge.RULE,
    crowd.RULE,
    lies_still.RULE,
    hand_like.RULE,
)
BY_NAME = {rule.name: rule for rule in RULES}


@dataclasses.dataclass(frozen=True)
class Common:
    """What holds for all rules: when a decision shows, how much of it is undone, and what fingers may do."""

    wait_ms: float = number(0, 0, 500, 5, "ms", "Decide later", "Let a contact do nothing until it is this old")
    take_back_ms: float = number(
        0, 0, 3000, 10, "ms", "Take back", "Undo marks and page shift of a contact refused within this time of landing"
    )
    jump_mm: float = number(
        0,
        0,
        100,
        1,
        "mm",
        "Nib's jump",
        "A nib that jumps this far between two reports was a palm before: that ink goes; 0 trusts every report",
    )
    still: bool = flag(False, "Page stands still", "The page does not move while the nib writes")
    finger_ink: bool = flag(False, "Finger ink", "One finger writes instead of moving the page")
    page_lock: bool = flag(False, "Page lock", "Fingers never move or zoom the page")


@dataclasses.dataclass(frozen=True)
class Rules(Common, *(rule.settings for rule in reversed(RULES))):  # type: ignore[misc]
    """Every rule refuses contacts; each is off at 0. `wait_ms` and `take_back_ms` say when a decision shows and how
    much of it can be undone.
    """


# What the search tries of the settings that are no rule's own.
COMMON_OPTIONS: dict[str, Values] = {"wait_ms": (0, 20, 40, 60, 80), "take_back_ms": (0, 1000, 2000, 3000)}
# Which way each setting is tighter: +1 the larger, -1 the smaller (0 is off and loosest).
TIGHTER = {name: way for rule in RULES for name, way in rule.tighter.items()}
OFF = Rules()
_STRICTEST: dict[str, Any] = {name: value for rule in RULES for name, value in rule.strictest.items()}
STRICTEST = Rules(**_STRICTEST, take_back_ms=3000, jump_mm=20, still=True)
# What protects the sheet before a hand has done its drills.
START = Rules(likely=0.8, wait_ms=40, take_back_ms=3000, jump_mm=20, still=True)

"""What a rule is: its settings, when it refuses, how palm-like a contact looks to it, and how it explains itself."""

import dataclasses
import math
from collections.abc import Callable, Mapping
from typing import Any

from gray_quill.core.palm.contacts import Event
from gray_quill.core.palm.state import State, Touch
from gray_quill.core.palm.zone import Zone

# What can tell a palm, from what tells most: rules are searched in this order.
LOOKS_AT = ("the look", "the contact", "the nib", "the place", "the time")
Values = tuple[float, ...]
# Settings are typed by each rule's own record in its own file; here they are all rules' settings together.
Judge = Callable[[State, Touch, float, Any, Zone], bool]


@dataclasses.dataclass(frozen=True, eq=False)
class Contact:
    """What a stream holds of one contact, for rules to score. events: its own. screen_mm: width and height. zone: the
    resting zone. since_nib_ms, until_nib_ms: from the nib last being seen to its landing and from there to the nib's
    next report, 0 while the nib is seen. from_nib: its places from the nib, at its landing and at the nib's coming.
    crowd_mm: how near it came to its nearest other contact, to the two nearest, ... while all were down. odds and look:
    when it looked most like a hand, see `look.py`. What there is none of is infinite.
    """

    events: list[Event]
    screen_mm: tuple[float, float]
    zone: Zone
    since_nib_ms: float
    until_nib_ms: float
    from_nib: list[tuple[float, float]]
    crowd_mm: list[float]
    odds: float
    look: list[float]


def no_judge(s: State, t: Touch, now_ms: float, rules: Any, zone: Zone) -> bool:
    """For rules that do not judge at that moment."""
    return False


@dataclasses.dataclass(frozen=True)
class Rule:
    """One rule. `field` is the setting that turns it on, 0 being off. looks_at: what tells it, one of LOOKS_AT.

    settings: its record of quantities, which becomes a part of Rules. tighter: which way each setting refuses more, +1
    the larger, -1 the smaller. options: what the search tries, from the loosest to the tightest; swept: the setting
    that is swept by itself. strictest: settings that refuse most.

    Judges get (state, touch, time, rules, zone): lands, when a contact lands, moves or another one lands; nib_comes,
    when the nib comes into sight; nib_lands, when it touches; aged, once, at age_ms(rules); lifts, when the contact
    lifts.

    score: larger for what looks more like a palm to this rule, apart from all settings. by_score: whether the settings
    would refuse such a contact. why: the reading behind a refusal. instead: what setting would have refused, empty
    where none could.
    """

    name: str
    field: str
    looks_at: str
    settings: type
    tighter: Mapping[str, int]
    options: Mapping[str, Values]
    swept: str
    strictest: Mapping[str, float]
    score: Callable[[Contact], float]
    by_score: Callable[[Any, Contact], bool]
    why: Callable[[Contact], str]
    instead: Callable[[Contact, Any], str]
    lands: Judge = no_judge
    nib_comes: Judge = no_judge
    nib_lands: Judge = no_judge
    aged: Judge = no_judge
    age_ms: Callable[[Any], float] = lambda rules: 0.0
    lifts: Judge = no_judge


def in_reach(s: State, t: Touch, radius_mm: float, most_mm: float = 400.0) -> bool:
    """Whether a contact lies within some way of the nib; a reach of most_mm has no end."""
    return s.nib is not None and (radius_mm >= most_mm or math.hypot(t.x - s.nib[0], t.y - s.nib[1]) <= radius_mm)

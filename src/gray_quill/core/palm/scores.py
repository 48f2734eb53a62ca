"""How palm-like each contact looks to each rule by itself, the curve of what a threshold misses and refuses, and why a
contact was decided so.
"""

import itertools
import math
from collections.abc import Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.palm.contacts import Stream
from gray_quill.core.palm.engine import fold_stream
from gray_quill.core.palm.rules import BY_NAME, RULES, Rules
from gray_quill.core.palm.rules.base import Contact
from gray_quill.core.palm.zone import Zone

LOOKS_ONLY = Rules(likely=1)  # looks at every contact and refuses none of them


def contacts_of(stream: Stream, zone: Zone) -> dict[int, Contact]:
    """What the stream holds of every contact, apart from any rules."""
    nib: tuple[float, float] | None = None
    seen, present = -math.inf, False
    at: dict[int, tuple[float, float]] = {}
    events = {i: [e for e in stream.events if e.pointer == "touch" and e.id == i] for i in stream.contacts}
    since, until = dict.fromkeys(events, 0.0), dict.fromkeys(events, 0.0)
    from_nib: dict[int, list[tuple[float, float]]] = {i: [] for i in events}
    crowd: dict[int, list[float]] = {i: [] for i in events}
    waiting: list[int] = []
    for e in stream.events:
        if e.pointer == "pen":
            seen, present = e.t_ms, e.phase not in ("up", "out")
            if e.phase == "out":
                continue
            nib = (e.x_mm, e.y_mm)
            for i in waiting:
                until[i] = e.t_ms - events[i][0].t_ms
                if i in at:
                    from_nib[i].append((at[i][0] - nib[0], at[i][1] - nib[1]))
            waiting.clear()
            continue
        at[e.id] = (e.x_mm, e.y_mm)
        if e.phase == "down":
            if not present:
                since[e.id], until[e.id] = e.t_ms - seen, math.inf
                waiting.append(e.id)
            if nib is not None:
                from_nib[e.id].append((e.x_mm - nib[0], e.y_mm - nib[1]))
        for i, (x, y) in at.items():
            near = sorted(math.hypot(x - ox, y - oy) for o, (ox, oy) in at.items() if o != i)
            crowd[i] = [min(pair) for pair in itertools.zip_longest(near, crowd[i], fillvalue=math.inf)]
        if e.phase in ("up", "cancel"):
            del at[e.id]
    size = (stream.width_mm, stream.height_mm)
    played = fold_stream(stream, LOOKS_ONLY, zone).touches
    return {
        i: Contact(
            events[i], size, zone, since[i], until[i], from_nib[i], crowd[i], played[i].most_odds, played[i].look
        )
        for i in events
    }


def roc(palm: Sequence[bool], score: Sequence[float]) -> tuple[Floats, float]:
    """Rows (fingers refused, palms refused, threshold) for refusing scores at or over each threshold, and the area
    under them by trapezia.

    The area is the chance that a palm scores higher than a finger, ties half (Hanley and McNeil, Radiology 143, 1982;
    from memory). NaN without both.
    """
    y, s = np.asarray(palm, bool), np.asarray(score, float)
    palms, fingers = int(y.sum()), int((~y).sum())
    if not palms or not fingers:
        return np.zeros((0, 3)), math.nan
    order = np.argsort(-s, kind="stable")
    last = np.flatnonzero(np.append(s[order][1:] != s[order][:-1], True))
    true, false = np.cumsum(y[order])[last] / palms, np.cumsum(~y[order])[last] / fingers
    rows = np.column_stack((np.append(0.0, false), np.append(0.0, true), np.append(np.inf, s[order][last])))
    return rows, float(np.trapezoid(rows[:, 1], rows[:, 0]))


def firing(rules: Rules, contact: Contact) -> list[str]:
    """Which rules would refuse a contact by its scores; what would have to change for it to be kept."""
    return [rule.name for rule in RULES if rule.by_score(rules, contact)]


def explain(decision: str, rule: str, rules: Rules, contact: Contact) -> str:
    """Why a contact was kept or refused, and what would have changed it, in a sentence."""
    if decision == "refused":
        others = [n for n in firing(rules, contact) if n != rule]
        why = f"Refused by {rule}: {BY_NAME[rule].why(contact)}."
        return (
            f"{why} Without that rule, {' and '.join(others)} would refuse it."
            if others
            else f"{why} Without that rule it would be kept."
        )
    changes = [change for r in RULES if (change := r.instead(contact, rules))]
    if not changes:
        return "Kept: no rule fired, and none could."
    return f"Kept: no rule fired. It would be refused by {', or by '.join(changes)}."

"""How palm-like each contact looks to each rule by itself, the curve of what a threshold misses and refuses, and why a
contact was decided so.
"""

import dataclasses
import math
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.palm.contacts import Stream
from gray_quill.core.palm.rules import Rules, Zone

Floats = NDArray[np.float64]

MOST_LIE_MM = 20.0
LYING_MS = 300.0  # within which straying is scored


@dataclasses.dataclass(frozen=True)
class Scores:
    """size_mm: the longest it was. since_nib_ms: from the nib last being seen to its landing, 0 while it is seen.
    until_nib_ms: to the nib's next report. zone: how far out of the resting zone at its landing or the nib's coming,
    the less of both. edge_mm: to the nearest edge. nearest_mm: to the nearest other contact while both are down.
    strayed_mm: how far it strayed from where it landed within LYING_MS, infinite where it lifted before. What there is
    none of is infinite.
    """

    size_mm: float
    since_nib_ms: float
    until_nib_ms: float
    zone: float
    edge_mm: float
    nearest_mm: float
    strayed_mm: float


def score_contacts(stream: Stream, zone: Zone) -> dict[int, Scores]:
    """The scores of every contact, apart from any rules."""
    nib: tuple[float, float] | None = None
    seen, present = -math.inf, False
    at: dict[int, tuple[float, float]] = {}
    found: dict[int, dict[str, float]] = {}
    waiting: list[int] = []

    def zoned(i: int) -> None:
        if nib is not None:
            found[i]["zone"] = min(found[i]["zone"], zone.distance(at[i][0] - nib[0], at[i][1] - nib[1]))

    for e in stream.events:
        if e.pointer == "pen":
            seen, present = e.t_ms, e.phase not in ("up", "out")
            if e.phase == "out":
                continue
            nib = (e.x_mm, e.y_mm)
            for i in waiting:
                found[i]["until_nib_ms"] = e.t_ms - found[i]["born"]
                if i in at:
                    zoned(i)
            waiting.clear()
            continue
        if e.phase == "down":
            edge = min(e.x_mm, e.y_mm, stream.width_mm - e.x_mm, stream.height_mm - e.y_mm)
            found[e.id] = {
                "born": e.t_ms,
                "size_mm": 0.0,
                "since_nib_ms": 0.0 if present else e.t_ms - seen,
                "until_nib_ms": 0.0 if present else math.inf,
                "zone": math.inf,
                "edge_mm": edge,
                "nearest_mm": math.inf,
                "strayed_mm": 0.0,
                "x0": e.x_mm,
                "y0": e.y_mm,
            }
            if not present:
                waiting.append(e.id)
            at[e.id] = (e.x_mm, e.y_mm)
            zoned(e.id)
        found[e.id]["size_mm"] = max(found[e.id]["size_mm"], e.size_mm)
        at[e.id] = (e.x_mm, e.y_mm)
        for other, (x, y) in at.items():
            if other != e.id:
                apart = math.hypot(x - e.x_mm, y - e.y_mm)
                for i in (other, e.id):
                    found[i]["nearest_mm"] = min(found[i]["nearest_mm"], apart)
        mine = found[e.id]
        if e.t_ms - mine["born"] <= LYING_MS:
            mine["strayed_mm"] = max(mine["strayed_mm"], math.hypot(e.x_mm - mine["x0"], e.y_mm - mine["y0"]))
        if e.phase in ("up", "cancel"):
            del at[e.id]
            if e.t_ms - mine["born"] <= LYING_MS:
                mine["strayed_mm"] = math.inf
    return {i: Scores(**{k: v for k, v in f.items() if k not in ("born", "x0", "y0")}) for i, f in found.items()}


# Each rule's own score, larger for what looks more like a palm, and how its threshold reads.
SIGNS = {
    "size_mm": 1.0,
    "since_nib_ms": -1.0,
    "until_nib_ms": -1.0,
    "zone": -1.0,
    "edge_mm": -1.0,
    "nearest_mm": -1.0,
    "strayed_mm": -1.0,
}
RULE_OF = {
    "size_mm": "contact size",
    "since_nib_ms": "nib near",
    "until_nib_ms": "nib arrived",
    "zone": "resting zone",
    "edge_mm": "edge",
    "nearest_mm": "crowd",
    "strayed_mm": "lies still",
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


def firing(rules: Rules, s: Scores) -> list[str]:
    """Which rules would refuse a contact by its scores; what would have to change for it to be kept."""
    size = 0 < rules.size_mm < s.size_mm
    return [
        name
        for name, fires in (
            ("nib near", rules.after_ms > 0 and s.since_nib_ms <= rules.after_ms),
            ("nib arrived", s.until_nib_ms <= rules.before_ms and rules.before_ms > 0),
            ("contact size", size),
            (
                "resting zone",
                rules.zone > 0 and s.zone <= rules.zone and min(s.since_nib_ms, s.until_nib_ms) <= rules.zone_ms,
            ),
            ("edge", s.edge_mm < rules.edge_mm),
            ("lies still", rules.lie_ms > 0 and s.strayed_mm < rules.lie_mm),
            ("crowd", rules.crowd_count == 2 and s.nearest_mm <= rules.crowd_mm),
        )
        if fires
    ]


def explain(decision: str, rule: str, rules: Rules, s: Scores) -> str:
    """Why a contact was kept or refused, and what would have changed it, in a sentence."""
    if decision == "refused":
        others = [n for n in firing(rules, s) if n != rule]
        why = f"Refused by {rule}: {_reading(rule, s)}."
        return (
            f"{why} Without that rule, {' and '.join(others)} would refuse it."
            if others
            else f"{why} Without that rule it would be kept."
        )
    changes = [
        c
        for c in (
            f"a size limit under {s.size_mm:.0f} mm" if s.size_mm > 0 else "",
            f"a lock before the nib of {s.until_nib_ms:.0f} ms" if 0 < s.until_nib_ms < 3000 else "",
            f"a lock after the nib of {s.since_nib_ms:.0f} ms" if 0 < s.since_nib_ms < 3000 else "",
            f"a resting zone {max(0.05, s.zone):.2f} times as large" if s.zone <= 3 else "",
            f"an edge margin over {s.edge_mm:.0f} mm" if s.edge_mm < 40 else "",
            f"lying still, when that is to stray under {s.strayed_mm:.0f} mm in {LYING_MS:.0f} ms,"
            if s.strayed_mm < MOST_LIE_MM
            else "",
            f"a crowd of 2 within {s.nearest_mm:.0f} mm" if s.nearest_mm <= 200 else "",
        )
        if c
    ]
    return (
        f"Kept: no rule fired. It would be refused by {', or by '.join(changes)}."
        if changes
        else "Kept: no rule fired, and none could."
    )


def _reading(rule: str, s: Scores) -> str:
    return {
        "contact size": f"it grew to {s.size_mm:.0f} mm",
        "nib near": "the nib was seen"
        if s.since_nib_ms <= 0
        else f"the nib had been seen {s.since_nib_ms:.0f} ms before",
        "nib arrived": f"the nib came {s.until_nib_ms:.0f} ms after it landed",
        "resting zone": f"it lay {s.zone:.2f} of the way out of your hand's resting place",
        "edge": f"it landed {s.edge_mm:.0f} mm from the edge",
        "lies still": f"it strayed only {s.strayed_mm:.1f} mm at first",
        "crowd": f"another contact was {s.nearest_mm:.0f} mm away",
    }[rule]

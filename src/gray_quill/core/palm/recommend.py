"""Rules that fit a hand on a device: every rule swept, the joint settings searched, the best of them recommended with
its reasons.
"""

import dataclasses
from collections.abc import Callable, Sequence

import numpy as np

from gray_quill.core.palm.contacts import Stream, Truth
from gray_quill.core.palm.outcome import Outcome, outcome_of, palms_kept_share, total
from gray_quill.core.palm.rules import OFF, Rules, Zone
from gray_quill.core.palm.scores import RULE_OF, SIGNS, roc, score_contacts

Session = tuple[Stream, Truth]
Progress = Callable[[float], None]

# What the search tries for each rule, from the loosest to the tightest.
OPTIONS: dict[str, tuple[float, ...]] = {
    "size_mm": (0, 18, 15, 13.5, 12.5, 11.5),
    "crowd_count": (0, 3, 2),
    "crowd_mm": (18, 24, 30),
    "before_ms": (0, 300, 600, 800, 1000, 1500),
    "after_ms": (0, 200, 400, 600, 800, 1000),
    "zone": (0, 0.8, 1.0, 1.2, 1.5),
    "zone_ms": (300, 600, 1000),
    "edge_mm": (0, 6, 8, 10, 12),
    "lie_ms": (0, 600, 450, 300, 200),
    "lie_mm": (3, 4, 5, 6, 7),
    "wait_ms": (0, 20, 40, 60, 80),
    "take_back_ms": (0, 600, 1000, 1500),
}
SWEPT = ("before_ms", "after_ms", "size_mm", "zone", "edge_mm", "crowd_mm", "lie_ms", "wait_ms")
NEEDS = {"crowd_mm": "crowd_count", "zone_ms": "zone", "lie_mm": "lie_ms"}  # which rule a setting belongs to
ROUNDS = 2
# What a share of kept palms, refused gestures and so on weigh against each other in the search; common practice, no
# source.
PALM, GESTURE, SHIFT, JIGGLE, DELAY, TAP = 600.0, 400.0, 8.0, 0.1, 0.03, 1.0
AS_GOOD = 0.15  # settings that cost this little more are as good


@dataclasses.dataclass(frozen=True)
class Curve:
    """One rule by itself: rows (fingers refused, palms refused), and the area under them."""

    rule: str
    points: list[tuple[float, float]]
    area: float


@dataclasses.dataclass(frozen=True)
class Point:
    """One joint setting: a rule at a value, the others as recommended, and what it misses, refuses and delays (shares,
    ms).
    """

    rule: str
    value: float
    palms_kept: float
    gestures_refused: float
    delay_ms: float


@dataclasses.dataclass(frozen=True)
class Reason:
    """What would be lost without one rule of the recommended ones."""

    rule: str
    value: float
    words: str


@dataclasses.dataclass(frozen=True)
class Recommended:
    """rules, why each is there, what to expect of them and of no rules at all, every rule's own curve, and the joint
    sweep.
    """

    rules: Rules
    reasons: list[Reason]
    expected: Outcome
    without: Outcome
    curves: list[Curve]
    points: list[Point]


def evaluate(sessions: Sequence[Session], rules: Rules, zone: Zone) -> Outcome:
    """All sessions together under some rules."""
    return total([outcome_of(stream, rules, zone, truth) for stream, truth in sessions])


def recommend(sessions: Sequence[Session], zone: Zone, progress: Progress = lambda _: None) -> Recommended:
    """Search the rules for these sessions one after the other, and again: each in the middle of the values that cost
    least, so that there is room on both sides for what these sessions did not show. `progress` is told the share done.
    """
    steps = sum(len(v) for v in OPTIONS.values()) * ROUNDS + sum(len(OPTIONS[r]) for r in SWEPT)
    done = 0

    def tried(rules: Rules) -> Outcome:
        nonlocal done
        done += 1
        progress(min(0.99, done / steps))
        return evaluate(sessions, rules, zone)

    sized = any(e.size_mm > 0 for stream, _ in sessions for e in stream.events if e.pointer == "touch")
    best = Rules(
        before_ms=800, after_ms=600, size_mm=13.5 if sized else 0, crowd_count=2, take_back_ms=1500, still=True
    )
    for _ in range(ROUNDS):
        for field, values in OPTIONS.items():
            if (field == "size_mm" and not sized) or (field in NEEDS and not getattr(best, NEEDS[field])):
                continue
            costs = [_cost(tried(with_rule(best, field, v)), len(sessions)) for v in values]
            good = [v for v, cost in zip(values, costs, strict=True) if cost <= min(costs) + AS_GOOD]
            best = with_rule(
                best, field, good[-1] if field == "crowd_count" else good[round((len(good) - 1) / 2)]
            )  # a count has no middle
    for field, rule in NEEDS.items():  # what belongs to a rule that is off goes back to where it was
        if not getattr(best, rule):
            best = with_rule(best, field, getattr(OFF, field))
    points = [
        Point(field, value, palms_kept_share(o), _refused(o), o.added_delay_ms)
        for field in SWEPT
        for value in OPTIONS[field]
        for o in [tried(with_rule(best, field, value))]
    ]
    expected = evaluate(sessions, best, zone)
    return Recommended(
        best,
        _reasons(sessions, best, zone, expected),
        expected,
        evaluate(sessions, OFF, zone),
        rule_curves(sessions, zone),
        points,
    )


def with_rule(rules: Rules, field: str, value: float) -> Rules:
    """The same rules with one of them at a value."""
    return dataclasses.replace(rules, **{field: int(value) if field == "crowd_count" else float(value)})  # type: ignore[arg-type]


def rule_curves(sessions: Sequence[Session], zone: Zone) -> list[Curve]:
    """Every rule's own trade-off over all contacts, apart from the other rules."""
    palm: list[bool] = []
    scores = []
    for stream, truth in sessions:
        for i, s in score_contacts(stream, zone).items():
            palm.append(i in truth.palms)
            scores.append(s)
    out = []
    for name, sign in SIGNS.items():
        values = [sign * getattr(s, name) for s in scores]
        rows, area = roc(palm, np.nan_to_num(values, posinf=1e9, neginf=-1e9).tolist())
        out.append(Curve(RULE_OF[name], [(float(a), float(b)) for a, b, _ in rows], area))
    return out


def _refused(o: Outcome) -> float:
    return o.refused_gestures / o.gestures if o.gestures else 0.0


def _cost(o: Outcome, sessions: int) -> float:
    return (
        PALM * palms_kept_share(o)
        + GESTURE * _refused(o)
        + (SHIFT * o.page_shift_mm + TAP * o.taps) / sessions
        + JIGGLE * o.jiggle_mm
        + DELAY * o.added_delay_ms
    )


def _reasons(sessions: Sequence[Session], rules: Rules, zone: Zone, expected: Outcome) -> list[Reason]:
    """For every rule that is on: what leaving it out would let through."""
    out = []
    for field in (
        "before_ms",
        "after_ms",
        "size_mm",
        "zone",
        "edge_mm",
        "crowd_count",
        "lie_ms",
        "wait_ms",
        "take_back_ms",
    ):
        value = float(getattr(rules, field))
        if not value:
            continue
        o = evaluate(sessions, with_rule(rules, field, 0), zone)
        more = palms_kept_share(o) - palms_kept_share(expected)
        parts = [
            w
            for w in (
                f"{100 * more:.1f} % more palms get through" if more > 5e-4 else "",
                f"the page is left {o.page_shift_mm - expected.page_shift_mm:.1f} mm off over all drills"
                if o.page_shift_mm > expected.page_shift_mm + 0.1
                else "",
                f"it jiggles by up to {o.jiggle_mm:.1f} mm" if o.jiggle_mm > expected.jiggle_mm + 0.2 else "",
                f"{o.taps - expected.taps} unwanted taps" if o.taps > expected.taps else "",
            )
            if w
        ]
        out.append(
            Reason(field, value, f"without it {', '.join(parts)}" if parts else "a margin: these drills do without it")
        )
    return out

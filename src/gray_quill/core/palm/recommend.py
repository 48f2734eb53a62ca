"""Rules that fit a hand on a device: every rule swept, the joint settings searched, the best of them recommended with
its reasons.
"""

import dataclasses
import functools
import math
from collections.abc import Callable, Mapping, Sequence

import numpy as np

from gray_quill.core.palm.outcome import Outcome, Session, evaluate, palms_kept_share, refused_share
from gray_quill.core.palm.own_drills import OnOwn, bend_of, better, would_help
from gray_quill.core.palm.rules import COMMON_OPTIONS, OFF, RULES, START, Rules
from gray_quill.core.palm.rules.base import LOOKS_AT, Values
from gray_quill.core.palm.scores import contacts_of, roc
from gray_quill.core.palm.zone import Zone
from gray_quill.core.quantities import changed, check, quantities

Progress = Callable[[float], None]

# What the search tries, from the loosest to the tightest, what is swept by itself, and which setting turns another on.
SEARCHED = sorted(RULES, key=lambda rule: LOOKS_AT.index(rule.looks_at))
OPTIONS: dict[str, Values] = {name: v for rule in SEARCHED for name, v in rule.options.items()} | COMMON_OPTIONS
SWEPT = (*(rule.swept for rule in RULES), "wait_ms")
NEEDS = {name: rule.field for rule in RULES for name in rule.options if name != rule.field}
ONE_BY_ONE = {rule.field for rule in RULES}  # what turns a rule on
SWITCHES = (*(rule.field for rule in RULES), *COMMON_OPTIONS)
ROUNDS = 2
# What a share of kept palms, refused gestures and so on weigh against each other in the search; common practice, no
# source.
PALM, GESTURE, SHIFT, JIGGLE, DELAY, TAP = 600.0, 400.0, 8.0, 0.1, 0.03, 1.0
AS_GOOD = 0.15  # settings that cost this little more are as good
# What a further rule must gain, about three palms of a search: rules that look at one thing each also refuse gestures
# that these sessions do not hold.
ONE_MORE, START_RULE = 10.0, "likely"
OTHERS = 0.25  # what sessions weigh beside own drills; common practice, no source


@dataclasses.dataclass(frozen=True)
class Curve:
    """One rule by itself: rows (fingers refused, palms refused), and the area under them; None without both."""

    rule: str
    points: list[tuple[float, float]]
    area: float | None


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
    sweep: of own drills where there are any. on_own: before and after on these.
    """

    rules: Rules
    reasons: list[Reason]
    expected: Outcome
    without: Outcome
    curves: list[Curve]
    points: list[Point]
    on_own: OnOwn | None = None


def recommend(
    sessions: Sequence[Session],
    zone: Zone,
    progress: Progress = lambda _: None,
    own: Sequence[Session] = (),
    now: Rules = START,
) -> Recommended:
    """Search the rules for these sessions one after the other, and again, from those every hand starts with: a rule
    that gains nothing stays off; else each is in the middle of the values that cost least, so that there is room on
    both sides for what these sessions did not show. own: drills a hand did itself, by which the rules are judged; the
    sessions only weigh beside them then, so that nothing is forgotten that these do not hold. now: the rules of now,
    which stay where nothing that was tried is better on own drills. `progress` is told the share done.
    """
    judge = own or sessions
    steps = sum(len(v) for v in OPTIONS.values()) * ROUNDS + sum(len(OPTIONS[r]) for r in SWEPT)
    done = 0
    seen: dict[Rules, Outcome] = {}

    @functools.cache  # a later round asks much of what an earlier one did
    def outcome(rules: Rules) -> Outcome:
        return evaluate(judge, rules, zone)

    @functools.cache
    def beside(rules: Rules) -> float:
        """What rules cost in sessions that are not judged by."""
        return OTHERS * _cost(evaluate(sessions, rules, zone), len(sessions)) if own and sessions else 0.0

    def tried(rules: Rules) -> Outcome:
        nonlocal done
        done += 1
        progress(min(0.99, done / steps))
        seen[rules] = outcome(rules)
        return seen[rules]

    sized = any(e.size_mm > 0 for stream, _ in judge for e in stream.events if e.pointer == "touch")
    best = START
    for again in range(ROUNDS):
        for field, values in OPTIONS.items():
            if again and field in ONE_BY_ONE and not getattr(best, field):
                continue  # it gained nothing before
            if (field == "size_mm" and not sized) or (field in NEEDS and not getattr(best, NEEDS[field])):
                continue
            one_more = ONE_MORE if field in ONE_BY_ONE and field != START_RULE else 0.0
            each = [with_rule(best, field, v) for v in values]
            costs = [
                _cost(tried(rules), len(judge)) + beside(rules) + one_more * (v != 0)
                for rules, v in zip(each, values, strict=True)
            ]
            good = [v for v, cost in zip(values, costs, strict=True) if cost <= min(costs) + AS_GOOD]
            spare = field in ONE_BY_ONE and 0 in good
            best = with_rule(best, field, 0 if spare else good[round((len(good) - 1) / 2)])
    for field, rule in NEEDS.items():  # what belongs to a rule that is off goes back to where it was
        if not getattr(best, rule):
            best = with_rule(best, field, getattr(OFF, field))
    points = [
        Point(field, value, palms_kept_share(o), refused_share(o), o.added_delay_ms)
        for field in SWEPT
        for value in OPTIONS[field]
        for o in [tried(with_rule(best, field, value))]
    ]
    on_own = None
    if own:
        best, on_own = _on_own(own, zone, best, now, outcome, seen)
    expected = outcome(best)
    return Recommended(
        best,
        _reasons(best, outcome),
        expected,
        outcome(OFF),
        rule_curves(judge, zone),
        points,
        on_own,
    )


def _on_own(
    own: Sequence[Session],
    zone: Zone,
    best: Rules,
    now: Rules,
    outcome: Callable[[Rules], Outcome],
    seen: Mapping[Rules, Outcome],
) -> tuple[Rules, OnOwn]:
    """Rules that are better on own drills than those of now, or those of now."""
    is_now = outcome(now)
    if not better(outcome(best), is_now):
        helping = [rules for rules, o in seen.items() if better(o, is_now)]
        best = min(helping, key=lambda rules: _cost(seen[rules], len(own)), default=now)
    found = outcome(best)
    bend = bend_of([*seen.values(), is_now])
    return best, OnOwn(is_now, found, best != now, bend, would_help(own, best, zone))


def with_rule(rules: Rules, field: str, value: float) -> Rules:
    """The same rules with one of them at a value."""
    return changed(rules, field, check(quantities(Rules)[field], value, field))


def rule_curves(sessions: Sequence[Session], zone: Zone) -> list[Curve]:
    """Every rule's own trade-off over all contacts, apart from the other rules."""
    pairs = [
        (i in truth.palms, c)
        for stream, truth in sessions
        for i, c in contacts_of(stream, zone).items()
        if truth.knows(i)
    ]
    out = []
    for rule in RULES:
        scores = np.nan_to_num([rule.score(c) for _, c in pairs], posinf=1e9, neginf=-1e9)
        rows, area = roc([palm for palm, _ in pairs], scores.tolist())
        out.append(Curve(rule.name, [(float(a), float(b)) for a, b, _ in rows], None if math.isnan(area) else area))
    return out


def _cost(o: Outcome, sessions: int) -> float:
    return (
        PALM * palms_kept_share(o)
        + GESTURE * refused_share(o)
        + (SHIFT * o.page_shift_mm + TAP * o.taps) / sessions
        + JIGGLE * o.jiggle_mm
        + DELAY * o.added_delay_ms
    )


def _reasons(rules: Rules, outcome: Callable[[Rules], Outcome]) -> list[Reason]:
    """For every rule that is on: what leaving it out would let through."""
    expected, out = outcome(rules), []
    for field in SWITCHES:
        value = float(getattr(rules, field))
        if not value:
            continue
        o = outcome(with_rule(rules, field, 0))
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

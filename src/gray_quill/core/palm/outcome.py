"""What a drill came to under some rules: harm, cost, each contact's decision, and a grade in words from one table."""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.palm.contacts import Gesture, Stream, Truth
from gray_quill.core.palm.engine import fold_stream, shift_mm
from gray_quill.core.palm.nib import nib_ink
from gray_quill.core.palm.rules import Rules
from gray_quill.core.palm.state import FOREVER, KEPT, State, Touch
from gray_quill.core.palm.zone import Zone
from gray_quill.core.readings.reading import SHARE, reading

Session = tuple[Stream, Truth]
# A page that moved or grew less is not noticed; common practice, no source.
SEEN_SHIFT_MM, SEEN_ZOOM = 0.5, 0.01
SEEN_MARK_MS = 500.0  # a mark that goes within this time is hardly noticed; common practice, no source


@dataclasses.dataclass(frozen=True)
class Outcome:
    """What touches did that was not meant, and what was meant and refused. Palms are known by the truth; where it is
    not, whatever touches did counts as unwanted, and confusion (palms and fingers, refused and kept) is None.
    """

    confusion: dict[str, int] | None
    palms_kept: int = reading(
        "palms let through", "", "Palms that no rule refused.", digits=0, better="less", attention=0
    )
    stray_marks: int = reading(
        "stray marks", "", "Finger ink of palms that is left.", digits=0, better="less", attention=0
    )
    late_marks: int = reading(
        "marks seen",
        "",
        "Palms' finger ink that stood for more than half a second, taken back or not.",
        digits=0,
        better="less",
        attention=0,
    )
    page_shift_mm: float = reading(
        "page left off",
        "mm",
        "How far palms moved the page without its being taken back.",
        better="less",
        attention=SEEN_SHIFT_MM,
    )
    jiggle_mm: float = reading(
        "jiggle", "mm", "How far the page moved at most, whether it was taken back or not.", better="less"
    )
    zoomed: float = reading("zoomed", SHARE, "What palms did to the page's size.", better="less", attention=SEEN_ZOOM)
    taps: int = reading("unwanted taps", "", "Taps that palms made.", digits=0, better="less", attention=0)
    lost_ink_mm: float = reading(
        "ink lost",
        "mm",
        "Ink that was meant and is not there: the nib's that was taken back or never reported, and fingers' that was "
        "refused.",
        better="less",
        attention=0,
    )
    unreported_mm: float = reading(
        "of it never reported", "mm", "Ink that the device lost: no rule can save it.", better="less"
    )
    stray_ink_mm: float = reading(
        "stray ink",
        "mm",
        "Ink that nobody meant: palms' marks, and palms taken for the pen.",
        better="less",
        attention=0,
    )
    gestures: int = reading("gestures meant", "", "Gestures that were meant.", digits=0)
    refused_gestures: int = reading(
        "gestures refused", "", "Gestures that were meant and refused.", digits=0, better="less", attention=0
    )
    added_delay_ms: float = reading(
        "delay", "ms", "Mean wait of meant gestures that were kept.", digits=0, better="less"
    )


def outcome_of(stream: Stream, rules: Rules, zone: Zone, truth: Truth | None) -> Outcome:
    """Fold a stream with some rules and say what came of it."""
    return measure(stream, fold_stream(stream, rules, zone), rules, truth)


def measure(stream: Stream, state: State, rules: Rules, truth: Truth | None) -> Outcome:
    """The outcome of a stream that was folded to its end."""
    unwanted = set(state.touches) if truth is None else set(truth.palms)
    harmful = [e for e in state.episodes if unwanted & set(e.ids)]
    left = [e for e in harmful if not e.taken_back]
    gestures = truth.gestures if truth else ()
    done = [
        g
        for g in gestures
        if g.ids
        and all(state.touches[i].decision == KEPT for i in g.ids)
        and not (rules.page_lock and g.kind in ("zoom", "scroll"))
    ]
    nib = nib_ink(stream, truth, state.not_drawn)
    waits = [max(state.touches[i].at_ms - state.touches[i].born_ms for i in g.ids) for g in done]
    if truth is None:
        waits = [t.at_ms - t.born_ms for t in state.touches.values() if t.decision == KEPT]
    return Outcome(
        confusion=None if truth is None else _confusion(state, truth),
        palms_kept=0
        if truth is None
        else sum(state.touches[i].decision == KEPT for i in truth.palms & {*state.touches}),
        stray_marks=sum(i in unwanted for i in state.marks),
        late_marks=sum(
            rules.finger_ink and _stood_ms(state, state.touches[i]) > SEEN_MARK_MS for i in unwanted & {*state.touches}
        ),
        page_shift_mm=sum(shift_mm(state, e) for e in left),
        jiggle_mm=max((e.peak_mm for e in harmful), default=0.0),
        zoomed=float(sum(abs(e.scale - 1) for e in left)),
        taps=sum(i in unwanted for i, _ in state.taps),
        lost_ink_mm=nib.lost_mm + _finger_ink_lost(stream, state, rules, gestures),
        unreported_mm=nib.unreported_mm,
        stray_ink_mm=nib.stray_mm + sum(_way(state.marks[i]) for i in unwanted & {*state.marks}),
        gestures=len(gestures),
        refused_gestures=len(gestures) - len(done),
        added_delay_ms=float(np.mean(waits)) if waits else 0.0,
    )


def _stood_ms(state: State, t: Touch) -> float:
    """How long a contact's mark stood, where fingers write; nothing where it made none."""
    if t.decision == KEPT:
        return FOREVER if t.id in state.marks else 0.0
    return t.at_ms - t.kept_ms if t.kept_ms < FOREVER else 0.0


def _finger_ink_lost(stream: Stream, state: State, rules: Rules, gestures: Sequence[Gesture]) -> float:
    """What one finger wrote and the rules did not let stand, mm; nothing where fingers do not write."""
    if not rules.finger_ink:
        return 0.0
    ids = {g.ids[0] for g in gestures if g.kind == "scroll" and len(g.ids) == 1} - {*state.marks}
    ways: dict[int, list[float]] = {i: [] for i in ids}
    for e in stream.events:
        if e.pointer == "touch" and e.id in ids:
            ways[e.id] += (e.x_mm, e.y_mm)
    return sum(_way(flat) for flat in ways.values())


def _way(flat: Sequence[float]) -> float:
    """Length of a path of flat x, y, mm."""
    places = np.reshape(flat, (-1, 2))
    return float(np.hypot(*np.diff(places, axis=0).T).sum())


def _confusion(state: State, truth: Truth) -> dict[str, int]:
    table = {"palm_refused": 0, "palm_kept": 0, "finger_kept": 0, "finger_refused": 0}
    for t in filter(lambda t: truth.knows(t.id), state.touches.values()):
        table[f"{'palm' if t.id in truth.palms else 'finger'}_{t.decision}"] += 1
    return table


def total(outcomes: Sequence[Outcome]) -> Outcome:
    """Several drills together: counts and shifts add up, jiggle is the worst, delay the mean over drills with
    gestures.
    """
    tables = [o.confusion for o in outcomes if o.confusion is not None]
    delays = [o.added_delay_ms for o in outcomes if o.gestures > o.refused_gestures]
    added = (
        "palms_kept",
        "stray_marks",
        "late_marks",
        "page_shift_mm",
        "zoomed",
        "taps",
        "lost_ink_mm",
        "unreported_mm",
        "stray_ink_mm",
        "gestures",
        "refused_gestures",
    )
    return Outcome(
        confusion={k: sum(t[k] for t in tables) for k in tables[0]} if tables else None,
        jiggle_mm=max((o.jiggle_mm for o in outcomes), default=0.0),
        added_delay_ms=float(np.mean(delays)) if delays else 0.0,
        **{name: sum(getattr(o, name) for o in outcomes) for name in added},
    )


def evaluate(sessions: Sequence[Session], rules: Rules, zone: Zone) -> Outcome:
    """All sessions together under some rules."""
    return total([outcome_of(stream, rules, zone, truth) for stream, truth in sessions])


def refused_share(o: Outcome) -> float:
    """Share of meant gestures that were refused."""
    return o.refused_gestures / o.gestures if o.gestures else 0.0


def palms_kept_share(o: Outcome) -> float:
    """Share of palms that were let through."""
    palms = o.palms_kept + (o.confusion or {}).get("palm_refused", 0)
    return o.palms_kept / palms if palms else 0.0


@dataclasses.dataclass(frozen=True)
class Grade:
    """A word, whether it calls for better rules, and the most of each harm and cost it still allows: slips a minute
    (marks, taps, page shifts that are noticed, lost ink), share of meant gestures refused, delay; None for no bound.
    """

    word: str
    attention: bool
    slips_a_minute: float | None
    refused_share: float
    delay_ms: float | None


# Common practice, no source: what practitioners call a screen, from best to worst.
GRADES = (
    Grade("forgets it is glass", False, 0.0, 0.02, 80),
    Grade("dependable", False, 1.0, 0.1, 150),
    Grade("quirks", True, 6.0, 0.34, 300),
    Grade("unusable", True, None, 1.0, None),
)


def grade(outcomes: Sequence[Outcome], lasts_ms: float) -> Grade:
    """The best grade that all drills together still meet."""
    together = total(outcomes)
    shifts = sum(o.page_shift_mm > SEEN_SHIFT_MM or o.zoomed > SEEN_ZOOM for o in outcomes)
    slips = (together.stray_marks + together.taps + shifts + (together.lost_ink_mm > 0)) / max(lasts_ms / 60_000, 1e-9)
    refused = together.refused_gestures / together.gestures if together.gestures else 0.0
    return next(
        g
        for g in GRADES
        if slips <= _bound(g.slips_a_minute)
        and refused <= g.refused_share
        and together.added_delay_ms <= _bound(g.delay_ms)
    )


def _bound(most: float | None) -> float:
    return FOREVER if most is None else most

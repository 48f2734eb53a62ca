"""What a drill came to under some rules: harm, cost, each contact's decision, and a grade in words from one table."""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.palm.contacts import Stream, Truth
from gray_quill.core.palm.engine import FOREVER, KEPT, State, fold, shift_mm
from gray_quill.core.palm.rules import Rules, Zone

SEEN_SHIFT_MM, SEEN_ZOOM_PCT = 0.5, 1.0  # a page that moved or grew less is not noticed; common practice, no source


@dataclasses.dataclass(frozen=True)
class Decision:
    """What became of one contact: the deciding rule (empty when none refused it) and when, ms of the stream."""

    id: int
    decision: str
    rule: str
    at_ms: float


@dataclasses.dataclass(frozen=True)
class Outcome:
    """stray_marks: finger ink of palms that is left. page_shift_mm, zoom_pct: what palms did to the page and was not
    taken back; jiggle_mm: what was seen of it meanwhile. taps: unwanted ones. lost_ink_mm: way of the nib in contact
    that drew nothing. gestures, refused_gestures: meant ones; added_delay_ms: mean wait of those that were kept.
    confusion: palms and fingers refused and kept, None where the truth is not known: then whatever touches did counts
    as unwanted.
    """

    decisions: list[Decision]
    stray_marks: int
    page_shift_mm: float
    jiggle_mm: float
    zoom_pct: float
    taps: int
    lost_ink_mm: float
    gestures: int
    refused_gestures: int
    added_delay_ms: float
    confusion: dict[str, int] | None


def outcome_of(stream: Stream, rules: Rules, zone: Zone, truth: Truth | None) -> Outcome:
    """Fold a stream with some rules and say what came of it."""
    return measure(stream, fold(stream.events, rules, zone, stream.width_mm, stream.height_mm), rules, truth)


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
    waits = [max(state.touches[i].at_ms - state.touches[i].born_ms for i in g.ids) for g in done]
    if truth is None:
        waits = [t.at_ms - t.born_ms for t in state.touches.values() if t.decision == KEPT]
    return Outcome(
        [Decision(t.id, t.decision, t.rule, t.at_ms) for t in state.touches.values()],
        sum(i in unwanted for i in state.marks),
        sum(shift_mm(state, e) for e in left),
        max((e.peak_mm for e in harmful), default=0.0),
        100 * float(sum(abs(e.scale - 1) for e in left)),
        sum(i in unwanted for i, _ in state.taps),
        max(0.0, round(nib_way_mm(stream) - state.ink_mm, 6)),
        len(gestures),
        len(gestures) - len(done),
        float(np.mean(waits)) if waits else 0.0,
        None if truth is None else _confusion(state, truth),
    )


def nib_way_mm(stream: Stream) -> float:
    """How far the nib went in contact, whatever became of it."""
    way, last = 0.0, None
    for e in stream.events:
        if e.pointer != "pen":
            continue
        if e.phase == "move" and last is not None:
            way += float(np.hypot(e.x_mm - last[0], e.y_mm - last[1]))
        last = (e.x_mm, e.y_mm) if e.phase in ("down", "move") else None
    return way


def _confusion(state: State, truth: Truth) -> dict[str, int]:
    table = {"palm_refused": 0, "palm_kept": 0, "finger_kept": 0, "finger_refused": 0}
    for t in state.touches.values():
        table[f"{'palm' if t.id in truth.palms else 'finger'}_{t.decision}"] += 1
    return table


def total(outcomes: Sequence[Outcome]) -> Outcome:
    """Several drills together: counts and shifts add up, jiggle is the worst, delay the mean over drills with
    gestures.
    """
    tables = [o.confusion for o in outcomes if o.confusion is not None]
    delays = [o.added_delay_ms for o in outcomes if o.gestures > o.refused_gestures]
    return Outcome(
        [],
        sum(o.stray_marks for o in outcomes),
        sum(o.page_shift_mm for o in outcomes),
        max((o.jiggle_mm for o in outcomes), default=0.0),
        sum(o.zoom_pct for o in outcomes),
        sum(o.taps for o in outcomes),
        sum(o.lost_ink_mm for o in outcomes),
        sum(o.gestures for o in outcomes),
        sum(o.refused_gestures for o in outcomes),
        float(np.mean(delays)) if delays else 0.0,
        {k: sum(t[k] for t in tables) for k in tables[0]} if tables else None,
    )


def palms_kept_share(o: Outcome) -> float:
    """Share of palms that were let through."""
    c = o.confusion or {}
    palms = c.get("palm_refused", 0) + c.get("palm_kept", 0)
    return c.get("palm_kept", 0) / palms if palms else 0.0


def noticed(o: Outcome) -> list[str]:
    """The readings of an outcome that its writer would notice as wrong, by name; "palms_kept" for palms that were let
    through.
    """
    wrong = {
        "palms_kept": palms_kept_share(o) > 0,
        "stray_marks": o.stray_marks > 0,
        "page_shift_mm": o.page_shift_mm > SEEN_SHIFT_MM,
        "zoom_pct": o.zoom_pct > SEEN_ZOOM_PCT,
        "taps": o.taps > 0,
        "lost_ink_mm": o.lost_ink_mm > 0,
        "refused_gestures": o.refused_gestures > 0,
    }
    return [name for name, is_wrong in wrong.items() if is_wrong]


@dataclasses.dataclass(frozen=True)
class Grade:
    """A word, whether it calls for better rules, and the most of each harm and cost it still allows: slips a minute
    (marks, taps, page shifts that are noticed, lost ink), share of meant gestures refused, delay.
    """

    word: str
    attention: bool
    slips_a_minute: float
    refused_share: float
    delay_ms: float


# Common practice, no source: what practitioners call a screen, from best to worst.
GRADES = (
    Grade("forgets it is glass", False, 0.0, 0.02, 80),
    Grade("dependable", False, 1.0, 0.1, 150),
    Grade("quirks", True, 6.0, 0.34, 300),
    Grade("unusable", True, FOREVER, 1.0, FOREVER),
)


def grade(outcomes: Sequence[Outcome], lasts_ms: float) -> Grade:
    """The best grade that all drills together still meet."""
    together = total(outcomes)
    shifts = sum(bool({"page_shift_mm", "zoom_pct"} & set(noticed(o))) for o in outcomes)
    slips = (together.stray_marks + together.taps + shifts + (together.lost_ink_mm > 0)) / max(lasts_ms / 60_000, 1e-9)
    refused = together.refused_gestures / together.gestures if together.gestures else 0.0
    return next(
        g
        for g in GRADES
        if slips <= g.slips_a_minute and refused <= g.refused_share and together.added_delay_ms <= g.delay_ms
    )

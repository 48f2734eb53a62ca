"""Rules judged on what a hand did itself: before and after on those contacts alone, and what would help where no rule
does.
"""

import dataclasses
import math
from collections.abc import Iterable, Sequence

import numpy as np

from gray_quill.core.palm.contacts import Event, Stream, Truth
from gray_quill.core.palm.outcome import Outcome, outcome_of, palms_kept_share, total
from gray_quill.core.palm.rules import Rules
from gray_quill.core.palm.zone import Zone
from gray_quill.core.quantities import changed

Session = tuple[Stream, Truth]
HOVERS_MS = 400.0  # before its landing, that a pen is seen where it hovers; common practice, no source
SEEN_MS = 100.0  # a hover shorter than this says nothing of a palm that comes first
SPREADS = 2.0  # half a measured zone, in standard deviations of where palms landed
LEAST_MM, FEWEST = 8.0, 3  # half a zone at least, of so many palms at least


@dataclasses.dataclass(frozen=True)
class OnOwn:
    """now, found: what the rules of now and those found come to on own drills. helps: whether those found are better
    there, and worse in nothing; else they are the rules of now. bend: settings tried of which none beats another, as
    (gestures refused, palms let through), shares, rising. would_help: what else would, in words.
    """

    now: Outcome
    found: Outcome
    helps: bool
    bend: list[tuple[float, float]]
    would_help: list[str]


def judged(own: Sequence[Session], rules: Rules, zone: Zone) -> Outcome:
    return total([outcome_of(stream, rules, zone, truth) for stream, truth in own])


def better(found: Outcome, now: Outcome) -> bool:
    """Whether it lets fewer palms through or refuses fewer gestures, and is worse in neither, nor moves the page more
    or marks it.
    """
    keys = ("palms_kept", "refused_gestures", "stray_marks", "taps")
    pairs = [(getattr(found, k), getattr(now, k)) for k in keys]
    pairs.append((round(found.page_shift_mm, 1), round(now.page_shift_mm, 1)))
    return all(a <= b for a, b in pairs) and any(a < b for a, b in pairs)


def bend_of(tried: Iterable[Outcome]) -> list[tuple[float, float]]:
    """Of settings that were tried, those that none beats in both gestures refused and palms let through."""
    places = sorted({(refused_share(o), palms_kept_share(o)) for o in tried})
    front: list[tuple[float, float]] = []
    for refused, kept in places:
        if not front or kept < front[-1][1]:
            front.append((refused, kept))
    return front


def refused_share(o: Outcome) -> float:
    return o.refused_gestures / o.gestures if o.gestures else 0.0


def would_help(own: Sequence[Session], rules: Rules, zone: Zone) -> list[str]:
    """What would hold back palms that these rules let through, tried on the same contacts where it can be."""
    found = judged(own, rules, zone)
    left = found.palms_kept
    if not left:
        return []
    said = []

    def holds_back(o: Outcome) -> int:
        return max(0, left - o.palms_kept) if o.refused_gestures <= found.refused_gestures else 0

    rests = measured_zone(own)
    if rests is not None:
        zones = [changed(changed(rules, "zone", z), "zone_ms", 1000) for z in (0.8, 1.0, 1.2, 1.5)]
        n = max(holds_back(judged(own, each, rests)) for each in zones)
        if n:
            said.append(
                f"A resting zone measured where your hand lay holds back {n} of the {left}: under Your hand, press "
                "“Measure it off what I did”, then search again."
            )
    if not _hovers(own):
        near = changed(rules, "after_ms", max(rules.after_ms, 600))
        n = holds_back(judged([(with_hover(stream), truth) for stream, truth in own], near, zone))
        if n:
            said.append(f"A pen that is seen while it hovers would hold back {n} of the {left}: this one is not.")
    if not any(e.size_mm > 0 for stream, _ in own for e in stream.events if e.pointer == "touch"):
        said.append(
            "This device tells no size of a contact. Where its settings or driver can turn that on, palms and fingers "
            "differ most in it."
        )
    if not said:
        said.append(
            "No rule and no setting of the device that can be tried on these contacts holds them back: lift the page "
            "lock for them, or lay the hand where nothing is touched."
        )
    return said


def measured_zone(own: Sequence[Session]) -> Zone | None:
    """Where palms of own drills landed, from the nib that was nearest in time; None where too few did."""
    places = []
    for stream, truth in own:
        nib = [e for e in stream.events if e.pointer == "pen" and e.phase in ("down", "move")]
        landed = {e.id: e for e in reversed(stream.events) if e.pointer == "touch" and e.phase == "down"}
        for i in truth.palms & landed.keys():
            if nib:
                at = min(nib, key=lambda e: abs(e.t_ms - landed[i].t_ms))
                places.append((landed[i].x_mm - at.x_mm, landed[i].y_mm - at.y_mm))
    if len(places) < FEWEST:
        return None
    middle, half = np.mean(places, axis=0), SPREADS * np.std(places, axis=0)
    return Zone(*middle.round(1).tolist(), *np.clip(half, LEAST_MM, 200).round(1).tolist())


def _hovers(own: Sequence[Session]) -> bool:
    """Whether the pen is seen well before it lands, as often as not."""
    seen = []
    for stream, _ in own:
        since = math.inf
        for e in stream.events:
            if e.pointer != "pen":
                continue
            if e.phase == "hover":
                since = min(since, e.t_ms)
            elif e.phase == "down":
                seen.append(e.t_ms - since >= SEEN_MS)
            elif e.phase == "out":
                since = math.inf
    return not seen or sum(seen) * 2 >= len(seen)


def with_hover(stream: Stream) -> Stream:
    """The same, with the pen seen above the place where it lands, HOVERS_MS before."""
    seen = [
        Event(max(0.0, e.t_ms - back), "pen", e.id, "hover", e.x_mm, e.y_mm)
        for e in stream.events
        if e.pointer == "pen" and e.phase == "down"
        for back in np.arange(HOVERS_MS, 0, -20.0).tolist()
    ]
    return Stream(tuple(sorted((*stream.events, *seen), key=lambda e: e.t_ms)), stream.width_mm, stream.height_mm)

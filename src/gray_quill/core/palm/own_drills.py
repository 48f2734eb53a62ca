"""Rules judged on what a hand did itself: before and after on those contacts alone, and what would help where no rule
does.
"""

import contextlib
import dataclasses
import math
from collections.abc import Iterable, Sequence

import numpy as np

from gray_quill.core.errors import InputError
from gray_quill.core.palm.contacts import Event, Stream
from gray_quill.core.palm.outcome import Outcome, Session, evaluate, palms_kept_share, refused_share
from gray_quill.core.palm.posture import read_posture
from gray_quill.core.palm.rules import Rules, resting_zone
from gray_quill.core.palm.zone import Zone
from gray_quill.core.quantities import changed

HOVERS_MS = 400.0  # before its landing, that a pen is seen where it hovers; common practice, no source
SEEN_MS = 100.0  # a hover shorter than this says nothing of a palm that comes first


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


def would_help(own: Sequence[Session], rules: Rules, zone: Zone) -> list[str]:
    """What would hold back palms that these rules let through, tried on the same contacts where it can be."""
    found = evaluate(own, rules, zone)
    left = found.palms_kept
    if not left:
        return []
    said = []

    def holds_back(o: Outcome) -> int:
        return max(0, left - o.palms_kept) if o.refused_gestures <= found.refused_gestures else 0

    rests = measured_zone(own)
    if rests is not None:
        tighter = resting_zone.RULE.options
        zones = [changed(rules, "zone", size) for size in tighter["zone"] if size]
        zones = [changed(each, "zone_ms", ms) for each in zones for ms in tighter["zone_ms"]]
        n = max(holds_back(evaluate(own, each, rests)) for each in zones)
        if n:
            said.append(
                f"A resting zone measured where your hand lay holds back {n} of the {left}: under Your hand, press "
                "“Measure it off what I did”, then search again."
            )
    if not _hovers(own):
        near = changed(rules, "after_ms", max(rules.after_ms, 600))
        n = holds_back(evaluate([(with_hover(stream), truth) for stream, truth in own], near, zone))
        if n:
            said.append(f"A pen that is seen while it hovers would hold back {n} of the {left}: this one is not.")
    if not any(e.size_mm > 0 for stream, _ in own for e in stream.events if e.pointer == "touch"):
        said.append(
            "This device tells no size of a contact. Where its settings or driver can turn that on, palms and fingers "
            "differ most in it."
        )
    if not said:
        said.append(
            "No rule, and no setting of the device that can be tried on these contacts, holds them back. With the page "
            "locked while you write they move nothing."
        )
    return said


def measured_zone(own: Sequence[Session]) -> Zone | None:
    """Where the hand lay in the first of own drills that tells, as it is measured for the hand's posture."""
    for stream, _ in own:
        with contextlib.suppress(InputError):
            posture = read_posture(stream)
            if posture.contacts:
                return posture.zone
    return None


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

"""A stream in time, for the picture: where each contact was, how the page lay, and what the rules can and cannot do
about what is left.
"""

import dataclasses
import itertools
from collections.abc import Sequence

from gray_quill.core.palm.contacts import Event, Stream, Truth
from gray_quill.core.palm.engine import begin_stream, end, go_on
from gray_quill.core.palm.outcome import outcome_of, palms_kept_share, total
from gray_quill.core.palm.rules import STRICTEST, Rules
from gray_quill.core.palm.state import KEPT, State
from gray_quill.core.palm.zone import Zone

STEP_MS = 40.0  # of the page's way
MOST_PLACES = 80  # of a contact's path


@dataclasses.dataclass(frozen=True)
class Replay:
    """views: rows (t_ms, scale, x, y) of the page. paths: by contact, rows (t_ms, x, y, width, height). nib: rows
    (t_ms, x, y, 1 while in contact).
    """

    state: State
    views: list[tuple[float, float, float, float]]
    paths: dict[int, list[tuple[float, float, float, float, float]]]
    nib: list[tuple[float, float, float, int]]


def replay(stream: Stream, rules: Rules, zone: Zone) -> Replay:
    """Fold a stream step by step and keep what a picture needs."""
    state, views = begin_stream(stream, zone), [(0.0, 1.0, 0.0, 0.0)]
    lasts = stream.events[-1].t_ms if stream.events else 0.0
    for step, events in itertools.groupby(stream.events, key=lambda e: int(e.t_ms // STEP_MS)):
        go_on(state, events, rules, zone)
        view = state.view()
        if view != views[-1][1:]:
            views.append((min((step + 1) * STEP_MS, lasts), *view))
    end(state, rules, zone)
    by_contact: dict[int, list[Event]] = {}
    for e in stream.events:
        if e.pointer == "touch":
            by_contact.setdefault(e.id, []).append(e)
    paths = {
        i: [(e.t_ms, e.x_mm, e.y_mm, e.width_mm, e.height_mm) for e in _thinned(events)]
        for i, events in by_contact.items()
    }
    pen = [e for e in stream.events if e.pointer == "pen" and e.phase != "out"]
    nib = [
        (e.t_ms, e.x_mm, e.y_mm, int(e.phase in ("down", "move")))
        for e in pen
        if e.phase != "move" or int(e.t_ms / 8) % 2 == 0
    ]
    return Replay(state, views, paths, nib)


def _thinned(events: Sequence[Event]) -> Sequence[Event]:
    step = -(-len(events) // MOST_PLACES)
    return [*events[:-1:step], events[-1]]


def fault_words(parts: Sequence[tuple[Stream, Truth]], rules: Rules, zone: Zone) -> str:
    """Whether what still goes wrong is the device's fault, the same under all rules, or that of the rules."""
    now = total([outcome_of(stream, rules, zone, truth) for stream, truth in parts])
    missing = missing_words([stream for stream, _ in parts])
    unfelt = sum(not g.ids for _, truth in parts for g in truth.gestures)
    words = f"{unfelt} meant gestures were never felt: that is the device's fault. " if unfelt else ""
    if not palms_kept_share(now) and now.refused_gestures == unfelt:
        return f"{words}Nothing is left to blame on the rules{', though ' + missing if missing else ''}."
    strict = total([outcome_of(stream, STRICTEST, zone, truth) for stream, truth in parts])
    (kept, beyond) = ((o.confusion or {})[f"palm_{KEPT}"] for o in (now, strict))
    if beyond:
        return (
            f"{words}{beyond} of {_palms(kept)} that got through would get through under any rules: the device's "
            f"fault{'; ' + missing if missing else ''}."
        )
    if kept:
        which = "the one palm" if kept == 1 else f"all {kept} palms"
        return (
            f"{words}Stricter rules would refuse {which} that got through: the rules' "
            f"fault{', though ' + missing if missing else ''}."
        )
    refused = now.refused_gestures - unfelt
    gestures = "One meant gesture was" if refused == 1 else f"{refused} meant gestures were"
    return f"{words}{gestures} refused: these rules are too strict{', though ' + missing if missing else ''}."


def _palms(count: int) -> str:
    return f"{count} palm{'' if count == 1 else 's'}"


def missing_words(streams: Sequence[Stream]) -> str:
    """What the device leaves out that rules could have used."""
    touches = [e for s in streams for e in s.events if e.pointer == "touch"]
    pens = [e for s in streams for e in s.events if e.pointer == "pen"]
    out = []
    if touches and not any(e.size_mm for e in touches):
        out.append("no contact size")
    if pens and not any(e.phase == "hover" for e in pens):
        out.append("no hover")
    return f"it reports {' and '.join(out)}" if out else ""

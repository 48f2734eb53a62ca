"""What devices do to a stream: leave out sizes and hover, round sizes, merge contacts, cancel, take a palm for the pen.

Each is a filter over stream and truth, so that a recorded stream can be spoilt like a simulated one.
"""

import dataclasses
import itertools
import math

import numpy as np

from gray_quill.core.palm.contacts import Event, Gesture, Stream, Truth
from gray_quill.core.palm.hard.ranges import Ranges

PARTED = 1.25  # merged contacts are two again this many times as far apart
Session = tuple[Stream, Truth]


@dataclasses.dataclass(frozen=True)
class Faults:
    """What a device does; 0, None and False do nothing. late_hover_ms: the nib is first seen this long before it
    touches.
    """

    no_size: bool = False
    coarse_mm: float = 0.0
    no_hover: bool = False
    late_hover_ms: float | None = None
    merge_mm: float = 0.0
    pen_cancel: bool = False
    touch_cancel: bool = False
    palm_as_pen: bool = False

    @property
    def names(self) -> tuple[str, ...]:
        """Those that are on."""
        return tuple(f.name for f in dataclasses.fields(self) if getattr(self, f.name) not in (0, None, False))


def draw_faults(ranges: Ranges, rng: np.random.Generator) -> Faults:
    """Which faults a device has."""
    chance = {f.name: bool(rng.random() < getattr(ranges, f"{f.name}_share")) for f in _SWITCHES}
    coarse, late, merge = (ranges.draw(rng, name) for name in ("coarse_mm", "late_hover_ms", "merge_mm"))
    kinds = rng.random(3)
    return Faults(
        coarse_mm=coarse if kinds[0] < ranges.coarse_share else 0.0,
        late_hover_ms=late if kinds[1] < ranges.late_hover_share else None,
        merge_mm=merge if kinds[2] < ranges.merge_share else 0.0,
        **chance,
    )


_SWITCHES = tuple(f for f in dataclasses.fields(Faults) if f.type is bool)


def spoil(session: Session, faults: Faults, rng: np.random.Generator) -> Session:
    """The session as a device with these faults reports it."""
    stream, truth = session
    events, truth = list(stream.events), dataclasses.replace(truth, ink_mm=stream.nib_way_mm)
    if faults.palm_as_pen:
        events, truth = _palm_as_pen(events, truth, rng)
    if faults.pen_cancel:
        events = _cancel_a_stroke(events, rng)
    if faults.no_hover:
        events = [e for e in events if e.pointer == "touch" or e.phase not in ("hover", "out")]
    elif faults.late_hover_ms is not None:
        events = _hover_late(events, faults.late_hover_ms)
    if faults.merge_mm:
        events, truth = _merge(events, truth, faults.merge_mm)
    if faults.touch_cancel:
        events = _cancel_touches(events)
    if faults.no_size:
        events = [dataclasses.replace(e, width_mm=0.0, height_mm=0.0) for e in events]
    elif faults.coarse_mm:
        step = faults.coarse_mm
        events = [
            dataclasses.replace(e, width_mm=_rounded(e.width_mm, step), height_mm=_rounded(e.height_mm, step))
            for e in events
        ]
    return dataclasses.replace(stream, events=tuple(events)), truth


def _rounded(size_mm: float, step_mm: float) -> float:
    return max(step_mm, round(size_mm / step_mm) * step_mm) if size_mm > 0 else 0.0


def _hover_late(events: list[Event], seen_ms: float) -> list[Event]:
    """Hover reports only this long before the nib touches; those after it lifts stay."""
    downs = [e.t_ms for e in events if e.pointer == "pen" and e.phase == "down"]
    ups = [e.t_ms for e in events if e.pointer == "pen" and e.phase == "up"]

    def seen(e: Event) -> bool:
        if e.pointer != "pen" or e.phase != "hover":
            return True
        until = next((t - e.t_ms for t in downs if t >= e.t_ms), math.inf)
        since = next((e.t_ms - t for t in reversed(ups) if t <= e.t_ms), math.inf)
        return until <= seen_ms or since <= 200

    return [e for e in events if seen(e)]


def _cancel_a_stroke(events: list[Event], rng: np.random.Generator) -> list[Event]:
    """One stroke of the nib is cut: what follows until it lifts is never reported."""
    downs = [k for k, e in enumerate(events) if e.pointer == "pen" and e.phase == "down"]
    if not downs:
        return events
    start = downs[int(rng.integers(len(downs)))]
    end = next((k for k in range(start, len(events)) if events[k].pointer == "pen" and events[k].phase == "up"), start)
    moves = [k for k in range(start, end) if events[k].pointer == "pen" and events[k].phase == "move"]
    if len(moves) < 4:
        return events
    cut = moves[int(rng.integers(1, len(moves) - 1))]
    lost = {k for k in range(cut + 1, end + 1) if events[k].pointer == "pen"}
    return [
        dataclasses.replace(e, phase="cancel", force=0.0) if k == cut else e
        for k, e in enumerate(events)
        if k not in lost
    ]


def _cancel_touches(events: list[Event]) -> list[Event]:
    """Whatever is down as the nib first touches a word is cancelled, and not felt any more until it lifts."""
    out: list[Event] = []
    down: dict[int, Event] = {}
    gone: set[int] = set()
    last_pen = -math.inf
    for e in events:
        if e.pointer == "pen":
            if e.phase == "down" and e.t_ms - last_pen > 400:
                out += [dataclasses.replace(d, t_ms=e.t_ms, phase="cancel") for d in down.values()]
                gone |= set(down)
                down.clear()
            last_pen = e.t_ms
            out.append(e)
            continue
        if e.id in gone:
            continue
        if e.phase in ("up", "cancel"):
            down.pop(e.id, None)
        else:
            down[e.id] = e
        out.append(e)
    return out


def _merge(events: list[Event], truth: Truth, merge_mm: float) -> tuple[list[Event], Truth]:
    """Contacts this near each other are reported as the one that landed first; where they part, the other lands."""
    fresh = itertools.count(1 + max((e.id for e in events if e.pointer == "touch"), default=0))
    place: dict[int, tuple[float, float]] = {}
    under: dict[int, int | None] = {}  # by contact: the one it hides under, None where it is seen
    shown: dict[int, int] = {}  # the id it is reported by
    names: dict[int, list[int]] = {}
    out: list[Event] = []
    for e in events:
        if e.pointer == "pen":
            out.append(e)
            continue
        ended = e.phase in ("up", "cancel")
        place[e.id] = (e.x_mm, e.y_mm)
        hider = under.get(e.id)
        if hider is not None and (
            hider not in place
            or under.get(hider) is not None
            or math.dist(place[hider], place[e.id]) > merge_mm * PARTED
        ):
            under[e.id] = None
            if not ended:
                shown[e.id] = next(fresh)
                names[e.id].append(shown[e.id])
                out.append(dataclasses.replace(e, id=shown[e.id], phase="down"))
                continue
        elif hider is None:
            near = [
                i
                for i, at in place.items()
                if i != e.id and under.get(i, 0) is None and math.dist(at, place[e.id]) < merge_mm
            ]
            older = [i for i in near if e.phase == "down" or i < e.id]
            if e.phase == "down":
                names[e.id] = []
            if older and not ended:
                under[e.id] = older[0]
                if e.phase != "down":
                    out.append(dataclasses.replace(e, id=shown[e.id], phase="up"))
            else:
                under[e.id] = None
                if e.phase == "down":
                    shown[e.id] = e.id
                    names[e.id].append(e.id)
                out.append(dataclasses.replace(e, id=shown[e.id]))
        if ended:
            place.pop(e.id, None)
            under.pop(e.id, None)
    renamed = Truth(
        frozenset(n for i in truth.palms for n in names.get(i, [])),
        tuple(Gesture(g.kind, tuple(n for i in g.ids for n in names.get(i, []))) for g in truth.gestures),
        truth.ink_mm,
        truth.not_nib,
    )
    return out, renamed


def _palm_as_pen(events: list[Event], truth: Truth, rng: np.random.Generator) -> tuple[list[Event], Truth]:
    """Shortly before the nib first touches, the pen's sensor takes the palm that rests there for it; then the place
    jumps to the nib.
    """
    first = next((k for k, e in enumerate(events) if e.pointer == "pen" and e.phase == "down"), None)
    if first is None:
        return events, truth
    nib = events[first]
    starts = nib.t_ms - float(rng.uniform(40, 130))
    palms = [e for e in events if e.pointer == "touch" and e.id in truth.palms and starts <= e.t_ms < nib.t_ms]
    resting = [e for e in palms if e.id == palms[0].id]
    if len(resting) < 2:
        return events, truth
    taken = [
        Event(e.t_ms, "pen", 0, "move" if k else "down", e.x_mm, e.y_mm, force=0.05) for k, e in enumerate(resting)
    ]
    rest = [e for e in events if not (e.pointer == "pen" and e.phase == "hover" and starts <= e.t_ms < nib.t_ms)]
    rest = [dataclasses.replace(e, phase="move") if e is nib else e for e in rest]
    spans = (*truth.not_nib, (taken[0].t_ms, taken[-1].t_ms))
    return sorted([*rest, *taken], key=lambda e: e.t_ms), dataclasses.replace(truth, not_nib=spans)

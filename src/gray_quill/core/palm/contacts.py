"""The contact stream: what touch and pen report, event by event, in millimetres of the screen."""

import dataclasses
import math
from collections.abc import Sequence
from functools import cached_property
from typing import Any

import numpy as np

from gray_quill.core.errors import InputError

PHASES = {"touch": ("down", "move", "up", "cancel"), "pen": ("hover", "down", "move", "up", "cancel", "out")}
COLUMNS = ("t_ms", "pointer", "id", "phase", "x_mm", "y_mm", "width_mm", "height_mm", "force")
MOST_EVENTS = 200_000
MOST_DOWN = 64


@dataclasses.dataclass(frozen=True, slots=True)
class Event:
    """One report. pointer: touch or pen. phase: touch down, move, up, cancel; pen hover, down, move, up, cancel, out
    (no longer seen).

    width_mm, height_mm: size of a contact along the screen's axes, 0 where the device gives none. force: 0..1, 0 where
    it gives none.
    """

    t_ms: float
    pointer: str
    id: int
    phase: str
    x_mm: float
    y_mm: float
    width_mm: float = 0.0
    height_mm: float = 0.0
    force: float = 0.0

    @property
    def size_mm(self) -> float:
        """The longer axis of the contact."""
        return max(self.width_mm, self.height_mm)


@dataclasses.dataclass(frozen=True)
class Gesture:
    """A gesture that was meant: zoom, scroll, tap or press, with the ids of its contacts (none where the device felt
    none).
    """

    kind: str
    ids: tuple[int, ...]


@dataclasses.dataclass(frozen=True)
class Truth:
    """What the hand meant: which contacts were palms (the others are fingers), and the gestures. ink_mm: the way the
    nib went in contact, None where the stream tells it. not_nib: spans of time, ms, in which the device took a palm for
    the pen. known: the contacts of which anything is known, None for all.
    """

    palms: frozenset[int]
    gestures: tuple[Gesture, ...] = ()
    ink_mm: float | None = None
    not_nib: tuple[tuple[float, float], ...] = ()
    known: frozenset[int] | None = None

    def knows(self, contact: int) -> bool:
        return self.known is None or contact in self.known


@dataclasses.dataclass(frozen=True)
class Stream:
    """Events in the order of their times, on a screen of this size."""

    events: tuple[Event, ...]
    width_mm: float
    height_mm: float

    @cached_property
    def nib_steps(self) -> list[tuple[float, float, float]]:
        """Steps of the nib in contact: from when, to when, how far."""
        steps = []
        last: tuple[float, float, float] | None = None
        for e in self.events:
            if e.pointer != "pen":
                continue
            if e.phase == "move" and last is not None:
                steps.append((last[0], e.t_ms, math.hypot(e.x_mm - last[1], e.y_mm - last[2])))
            last = (e.t_ms, e.x_mm, e.y_mm) if e.phase in ("down", "move") else None
        return steps

    @cached_property
    def nib_way_mm(self) -> float:
        """How far the nib went in contact, whatever becomes of it."""
        return sum(way for _, _, way in self.nib_steps)

    @cached_property
    def memos(self) -> dict[Any, Any]:
        """What contacts look like, by resting zone; filled as the stream is folded."""
        return {}

    @property
    def contacts(self) -> list[int]:
        """Ids of the touches, in the order they landed."""
        return list(dict.fromkeys(e.id for e in self.events if e.pointer == "touch"))


def make_stream(events: Sequence[Event], width_mm: float, height_mm: float) -> Stream:
    """Check a stream. Raises InputError that names the event at fault, counted from 1."""
    if not 20 <= width_mm <= 2000 or not 20 <= height_mm <= 2000:
        raise InputError("The screen must measure 20 to 2000 mm each way.", "width_mm")
    if len(events) > MOST_EVENTS:
        raise InputError(
            f"{len(events)} events are too many; at most {MOST_EVENTS} are read. Cut the recording.", "events"
        )
    last, down = 0.0, set[int]()
    for k, e in enumerate(events, 1):
        if e.pointer not in PHASES or e.phase not in PHASES[e.pointer]:
            known = "; ".join(f"{pointer}: {', '.join(phases)}" for pointer, phases in PHASES.items())
            raise InputError(f"Event {k}: {e.pointer} {e.phase} is not known. Phases are {known}.", "phase")
        if not np.isfinite((e.t_ms, e.x_mm, e.y_mm, e.width_mm, e.height_mm, e.force)).all():
            raise InputError(f"Event {k} holds a number that is not finite.", "events")
        if e.t_ms < last:
            raise InputError(f"Event {k}: time runs backwards. Sort the events by t_ms.", "t_ms")
        if min(e.width_mm, e.height_mm) < 0 or max(e.width_mm, e.height_mm) > 400:
            raise InputError(f"Event {k}: a contact must measure 0 to 400 mm each way.", "width_mm")
        if e.pointer == "touch":
            if (e.phase == "down") == (e.id in down):
                raise InputError(
                    f"Event {k}: touch {e.id} "
                    f"{'lands twice' if e.phase == 'down' else 'moves or lifts without having landed'}.",
                    "phase",
                )
            (down.add if e.phase == "down" else down.discard if e.phase in ("up", "cancel") else lambda _: None)(e.id)
        if len(down) > MOST_DOWN:
            raise InputError(
                f"Event {k}: more than {MOST_DOWN} touches are down at once, which no screen feels. Cut the recording.",
                "events",
            )
        last = e.t_ms
    return Stream(tuple(events), width_mm, height_mm)

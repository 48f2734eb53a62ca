"""The rules at work: a fold over the contact stream with explicit state. Nib ink always passes; touches wait, are kept
or are refused.

`advance` does not change the state it is given, so a stream may be folded in one go or in pieces. web/src/ink/palm.ts
does the same in the browser; what one of them learns the other must (tests/browser/test_palm_parity.py lays them side
by side).
"""

import copy
import dataclasses
import math
from collections.abc import Callable, Iterable

from gray_quill.core.palm.contacts import Event
from gray_quill.core.palm.rules import Rules, Zone

SLOP_MM = 1.5  # a touch that strays less has not moved; common practice, no source
AT_REST = 3.0  # times as far must a contact stray where the hand rests; common practice, no source
TAP_MS = 350.0  # a touch that lifts within this time without moving is a tap; common practice, no source
LIMITS = {
    "slop_mm": SLOP_MM,
    "at_rest": AT_REST,
    "tap_ms": TAP_MS,
}  # what a plan for the browser carries beside the rules
KEPT, REFUSED, WAITING = "kept", "refused", "waiting"
FOREVER = math.inf


@dataclasses.dataclass
class Touch:
    """One contact so far. size_mm: the longest it was. far_mm: the farthest it strayed from where it landed. lay: it
    was judged for lying still. decision with the rule that made it (empty for none) and when. ended_ms: FOREVER while
    it is down. path: places since it landed, flat x, y, x, y; only kept where a finger may write.
    """

    id: int
    born_ms: float
    x0: float
    y0: float
    x: float
    y: float
    size_mm: float
    decision: str = WAITING
    rule: str = ""
    at_ms: float = 0.0
    ended_ms: float = FOREVER
    far_mm: float = 0.0
    lay: bool = False
    path: list[float] = dataclasses.field(default_factory=list)

    @property
    def moved(self) -> bool:
        return self.far_mm > SLOP_MM


@dataclasses.dataclass
class Episode:
    """What kept touches did to the page while they were the same ones: a place p goes to scale p + (x, y). peak_mm: how
    far it moved the page's middle at most.
    """

    ids: tuple[int, ...]
    scale: float = 1.0
    x: float = 0.0
    y: float = 0.0
    taken_back: bool = False
    peak_mm: float = 0.0


@dataclasses.dataclass
class State:
    """Everything the fold knows. marks: finger ink by touch, flat x, y. taps: (touch, time). nib_seen_ms: when the nib
    was last seen. group: the touches that move the page now, with their middle and spread when they last moved.
    """

    middle: tuple[float, float]
    touches: dict[int, Touch] = dataclasses.field(default_factory=dict)
    episodes: list[Episode] = dataclasses.field(default_factory=list)
    marks: dict[int, list[float]] = dataclasses.field(default_factory=dict)
    taps: list[tuple[int, float]] = dataclasses.field(default_factory=list)
    group: tuple[tuple[int, ...], float, float, float] = ((), 0.0, 0.0, 0.0)
    nib: tuple[float, float] | None = None
    nib_present: bool = False
    nib_down: bool = False
    nib_seen_ms: float = -FOREVER
    ink_mm: float = 0.0

    def view(self) -> tuple[float, float, float]:
        """Scale, x and y of the page after everything that was not taken back."""
        scale, x, y = 1.0, 0.0, 0.0
        for e in self.episodes:
            if not e.taken_back:
                scale, x, y = e.scale * scale, e.scale * x + e.x, e.scale * y + e.y
        return scale, x, y


def begin(width_mm: float, height_mm: float) -> State:
    """The state before anything touched a screen of this size."""
    return State((width_mm / 2, height_mm / 2))


def advance(state: State, events: Iterable[Event], rules: Rules, zone: Zone) -> State:
    """The state after these events, in the order of their times; the state given stays as it was."""
    s = copy.deepcopy(state)
    for e in events:
        _decide_due(s, e.t_ms, rules, zone)
        (_pen if e.pointer == "pen" else _touch)(s, e, rules, zone)
    return s


def finish(state: State, rules: Rules, zone: Zone) -> State:
    """The state once nothing more comes: what still waits is kept."""
    s = copy.deepcopy(state)
    _decide_due(s, FOREVER, rules, zone)
    return s


def fold(events: Iterable[Event], rules: Rules, zone: Zone, width_mm: float, height_mm: float) -> State:
    """A whole stream from its beginning to its end."""
    return finish(advance(begin(width_mm, height_mm), events, rules, zone), rules, zone)


def _decide_due(s: State, now_ms: float, rules: Rules, zone: Zone) -> None:
    """Keep what has waited long enough, refuse what has lain still for long enough; each at its own time, whichever
    comes first.
    """
    for t in s.touches.values():
        lies_at = t.born_ms + rules.lie_ms
        lies = rules.lie_ms > 0 and now_ms >= lies_at and t.ended_ms >= lies_at and _lies(s, t, rules, zone)
        if (
            t.decision == WAITING
            and now_ms >= t.born_ms + rules.wait_ms
            and not (lies and rules.lie_ms <= rules.wait_ms)
        ):
            _keep(s, t, t.born_ms + rules.wait_ms, rules)
        if lies and t.decision != REFUSED and not t.lay:
            _refuse(s, t, "lies still", lies_at, rules)
        t.lay = t.lay or now_ms >= lies_at


def _lies(s: State, t: Touch, rules: Rules, zone: Zone) -> bool:
    """Whether a contact hardly strayed, and does not move the page with another that did: one of two
    fingers may rest.
    """
    if t.far_mm >= rules.lie_mm * (AT_REST if _in_place(s, t, rules, zone) else 1):
        return False
    return not any(
        o is not t and o.decision == KEPT and o.ended_ms == FOREVER and o.far_mm >= rules.lie_mm
        for o in s.touches.values()
    )


def _pen(s: State, e: Event, rules: Rules, zone: Zone) -> None:
    if e.phase == "out":
        s.nib_present = s.nib_down = False
        s.nib_seen_ms = e.t_ms
        return
    arrives = not s.nib_present
    if e.phase == "move" and s.nib_down and s.nib is not None:
        s.ink_mm += math.hypot(e.x_mm - s.nib[0], e.y_mm - s.nib[1])
    s.nib, s.nib_seen_ms = (e.x_mm, e.y_mm), e.t_ms
    s.nib_present = e.phase != "up"
    if s.nib_down != (e.phase in ("down", "move")):
        s.nib_down = not s.nib_down
        _regroup(s)
    if arrives:
        for t in s.touches.values():
            if t.decision == REFUSED:
                continue
            if e.t_ms - t.born_ms <= rules.before_ms and _in_reach(s, t, rules):
                _refuse(s, t, "nib arrived", e.t_ms, rules)
            elif t.ended_ms == FOREVER and _in_zone(s, t, e.t_ms, rules, zone):
                _refuse(s, t, "resting zone", e.t_ms, rules)


def _touch(s: State, e: Event, rules: Rules, zone: Zone) -> None:
    if e.phase == "down":
        t = s.touches[e.id] = Touch(e.id, e.t_ms, e.x_mm, e.y_mm, e.x_mm, e.y_mm, e.size_mm)
        if rules.finger_ink:
            t.path += (e.x_mm, e.y_mm)
        for other in list(s.touches.values()):
            if other.ended_ms == FOREVER:
                _judge(s, other, e.t_ms, rules, zone)
        _decide_due(s, e.t_ms, rules, zone)
        return
    t = s.touches[e.id]
    t.x, t.y, t.size_mm = e.x_mm, e.y_mm, max(t.size_mm, e.size_mm)
    t.far_mm = max(t.far_mm, math.hypot(t.x - t.x0, t.y - t.y0))
    if rules.finger_ink and t.decision != REFUSED:
        t.path += (e.x_mm, e.y_mm)
    _judge(s, t, e.t_ms, rules, zone)
    if t.decision == KEPT:
        _act(s, t, rules)
    if e.phase != "move":
        if (
            rules.lie_ms > 0
            and not t.lay
            and t.decision != REFUSED
            and e.t_ms - t.born_ms > TAP_MS
            and _lies(s, t, rules, zone)
        ):
            _refuse(s, t, "lies still", e.t_ms, rules)  # too long for a tap, too short a way for anything else
        t.ended_ms = e.t_ms
        if t.decision == KEPT:
            _lifted(s, t, e.t_ms, rules)
            _regroup(s)


def _nib_near(s: State, now_ms: float, rules: Rules) -> bool:
    return s.nib_present or now_ms - s.nib_seen_ms <= rules.after_ms


def _in_reach(s: State, t: Touch, rules: Rules) -> bool:
    return s.nib is not None and (
        rules.radius_mm >= 400 or math.hypot(t.x - s.nib[0], t.y - s.nib[1]) <= rules.radius_mm
    )


def _in_zone(s: State, t: Touch, now_ms: float, rules: Rules, zone: Zone) -> bool:
    return (s.nib_present or now_ms - s.nib_seen_ms <= rules.zone_ms) and _in_place(s, t, rules, zone)


def _in_place(s: State, t: Touch, rules: Rules, zone: Zone) -> bool:
    return rules.zone > 0 and s.nib is not None and zone.distance(t.x - s.nib[0], t.y - s.nib[1]) <= rules.zone


def _locked(s: State, t: Touch, now_ms: float, rules: Rules, zone: Zone) -> bool:
    return rules.after_ms > 0 and t.born_ms == now_ms and _nib_near(s, now_ms, rules) and _in_reach(s, t, rules)


def _large(s: State, t: Touch, now_ms: float, rules: Rules, zone: Zone) -> bool:
    return 0 < rules.size_mm < t.size_mm


def _at_edge(s: State, t: Touch, now_ms: float, rules: Rules, zone: Zone) -> bool:
    width, height = 2 * s.middle[0], 2 * s.middle[1]
    return rules.edge_mm > 0 and min(t.x0, t.y0, width - t.x0, height - t.y0) < rules.edge_mm


def _crowded(s: State, t: Touch, now_ms: float, rules: Rules, zone: Zone) -> bool:
    if rules.crowd_count <= 0:
        return False
    near = sum(o.ended_ms == FOREVER and math.hypot(o.x - t.x, o.y - t.y) <= rules.crowd_mm for o in s.touches.values())
    return near >= rules.crowd_count


# In the order they are asked; the first that fires is the deciding one. "nib arrived" fires when the nib does.
RULES: dict[str, Callable[[State, Touch, float, Rules, Zone], bool]] = {
    "nib near": _locked,
    "contact size": _large,
    "resting zone": _in_zone,
    "edge": _at_edge,
    "crowd": _crowded,
}


def _judge(s: State, t: Touch, now_ms: float, rules: Rules, zone: Zone) -> None:
    if t.decision == REFUSED:
        return
    for name, fires in RULES.items():
        if fires(s, t, now_ms, rules, zone):
            _refuse(s, t, name, now_ms, rules)
            return


def _keep(s: State, t: Touch, at_ms: float, rules: Rules) -> None:
    t.decision, t.at_ms = KEPT, at_ms
    if rules.finger_ink and not _moving(s, t):
        s.marks[t.id] = list(t.path)
    if t.ended_ms < FOREVER:
        _lifted(s, t, at_ms, rules)
    _regroup(s)
    if rules.finger_ink and len(s.group[0]) > 1:  # two fingers move the page: what they began to write was not meant
        for id in s.group[0]:
            s.marks.pop(id, None)


def _moving(s: State, t: Touch) -> bool:
    """Whether another kept touch is down, so that this one moves the page with it."""
    return any(o is not t and o.decision == KEPT and o.ended_ms == FOREVER for o in s.touches.values())


def _refuse(s: State, t: Touch, rule: str, at_ms: float, rules: Rules) -> None:
    t.decision, t.rule, t.at_ms = REFUSED, rule, at_ms
    t.path = []
    if at_ms - t.born_ms <= rules.take_back_ms:
        s.marks.pop(t.id, None)
        for e in s.episodes:
            e.taken_back = e.taken_back or t.id in e.ids
    _regroup(s)


def _lifted(s: State, t: Touch, at_ms: float, rules: Rules) -> None:
    alone = all(o is t or o.decision != KEPT or o.ended_ms < t.born_ms for o in s.touches.values())
    if not rules.finger_ink and not t.moved and t.ended_ms - t.born_ms <= TAP_MS and alone:
        s.taps.append((t.id, at_ms))


def _regroup(s: State) -> None:
    """Start measuring anew from where the kept touches are now."""
    live = [t for t in s.touches.values() if t.decision == KEPT and t.ended_ms == FOREVER]
    s.group = (tuple(t.id for t in live), *_middle_and_spread(live))


def _middle_and_spread(live: list[Touch]) -> tuple[float, float, float]:
    """Middle of some touches and their mean distance from it."""
    if not live:
        return 0.0, 0.0, 0.0
    x, y = sum(t.x for t in live) / len(live), sum(t.y for t in live) / len(live)
    return x, y, sum(math.hypot(t.x - x, t.y - y) for t in live) / len(live)


def _act(s: State, t: Touch, rules: Rules) -> None:
    """A kept touch moved: it writes, or moves the page with the others of its group."""
    ids = s.group[0]
    if rules.finger_ink and len(ids) == 1:
        if t.id in s.marks:
            s.marks[t.id] += (t.x, t.y)
        return
    if rules.page_lock or (rules.still and s.nib_down) or (len(ids) == 1 and not t.moved):
        _regroup(s)
        return
    live = [s.touches[id] for id in ids]
    (_, x0, y0, spread0), (x, y, spread) = s.group, _middle_and_spread(live)
    scale = spread / spread0 if len(ids) > 1 and spread0 > SLOP_MM and spread > 0 else 1.0
    if not s.episodes or s.episodes[-1].ids != ids or s.episodes[-1].taken_back:
        s.episodes.append(Episode(ids))
    e = s.episodes[-1]
    # about the touches' middle: p -> (x, y) + scale (p - (x0, y0)), after what the episode did so far
    e.scale, e.x, e.y = scale * e.scale, scale * (e.x - x0) + x, scale * (e.y - y0) + y
    e.peak_mm = max(e.peak_mm, shift_mm(s, e))
    s.group = (ids, x, y, spread)


def shift_mm(s: State, e: Episode) -> float:
    """How far an episode leaves the middle of the screen's page from where it was."""
    cx, cy = s.middle
    return math.hypot(e.scale * cx + e.x - cx, e.scale * cy + e.y - cy)

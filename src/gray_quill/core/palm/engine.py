"""The rules at work: a fold over the contact stream with explicit state. Nib ink passes, but for what a jump gives away
as a palm's; touches wait, are kept or are refused.

`advance` does not change the state it is given, so a stream may be folded in one go or in pieces. web/src/ink/palm.ts
does the same in the browser; what one of them learns the other must (tests/browser/test_palm_parity.py lays them side
by side).
"""

import copy
import functools
import math
from collections.abc import Iterable

from gray_quill.core.palm.contacts import Event, Stream
from gray_quill.core.palm.facts import landed, strayed
from gray_quill.core.palm.nib import jumps
from gray_quill.core.palm.rules import RULES, Rules, hand_like
from gray_quill.core.palm.rules.base import Judge, no_judge
from gray_quill.core.palm.state import FOREVER, KEPT, REFUSED, SLOP_MM, TAP_MS, WAITING, Episode, Memo, State, Touch
from gray_quill.core.palm.zone import Zone

AGED = tuple(r for r in RULES if r.aged is not no_judge)
Asked = tuple[tuple[str, Judge], ...]  # rules by name, and what they are asked
Judges = dict[str, Asked]


@functools.lru_cache(maxsize=256)
def judges(rules: Rules) -> Judges:
    """Names and judges of the rules that are on, by the moment at which they judge."""
    on = [r for r in RULES if getattr(rules, r.field)]
    return {
        moment: tuple((r.name, getattr(r, moment)) for r in on if getattr(r, moment) is not no_judge)
        for moment in ("lands", "nib_comes", "nib_lands", "lifts")
    }


def begin(width_mm: float, height_mm: float) -> State:
    """The state before anything touched a screen of this size."""
    return State((width_mm / 2, height_mm / 2))


def advance(state: State, events: Iterable[Event], rules: Rules, zone: Zone) -> State:
    """The state after these events, in the order of their times; the state given stays as it was."""
    s = copy.deepcopy(state)
    go_on(s, events, rules, zone)
    return s


def go_on(s: State, events: Iterable[Event], rules: Rules, zone: Zone) -> None:
    """The same in place: for who needs no state but the last."""
    asked = judges(rules)
    for e in events:
        s.reports += 1
        if e.t_ms >= s.due_ms:
            _decide_due(s, e.t_ms, rules, zone)
        if e.pointer == "pen":
            _pen(s, e, rules, zone, asked)
        else:
            _touch(s, e, rules, zone, asked)


def finish(state: State, rules: Rules, zone: Zone) -> State:
    """The state once nothing more comes: what still waits is kept."""
    s = copy.deepcopy(state)
    end(s, rules, zone)
    return s


def end(s: State, rules: Rules, zone: Zone) -> None:
    """What still waits is kept, in place."""
    s.due_ms = -FOREVER
    _decide_due(s, FOREVER, rules, zone)
    for t in s.touches.values():
        if t.decision == WAITING:
            _refuse(s, t, hand_like.RULE.name, t.born_ms + rules.wait_ms, rules)


def fold(events: Iterable[Event], rules: Rules, zone: Zone, width_mm: float, height_mm: float) -> State:
    """A whole stream from its beginning to its end."""
    return _through(begin(width_mm, height_mm), events, rules, zone)


def begin_stream(stream: Stream, zone: Zone) -> State:
    """The state before a stream that may be folded again under other rules: what its contacts look like is worked out
    once.
    """
    state = begin(stream.width_mm, stream.height_mm)
    state.memo = stream.memos.setdefault(zone, Memo())
    return state


def fold_stream(stream: Stream, rules: Rules, zone: Zone) -> State:
    """Such a stream from its beginning to its end."""
    return _through(begin_stream(stream, zone), stream.events, rules, zone)


def _through(s: State, events: Iterable[Event], rules: Rules, zone: Zone) -> State:
    go_on(s, events, rules, zone)
    end(s, rules, zone)
    return s


def _decide_due(s: State, now_ms: float, rules: Rules, zone: Zone) -> None:
    """Keep what has waited long enough, refuse what a rule judges at its age; each at its own time, whichever comes
    first.
    """
    if now_ms < s.due_ms:
        return
    s.due_ms = FOREVER
    for t in s.touches.values():
        if t.decision == REFUSED or (t.decision == KEPT and len(t.asked) == len(AGED)):
            continue
        refused = {}
        for rule in AGED:
            age = rule.age_ms(rules)
            due_at = t.born_ms + age
            if age > 0 and now_ms >= due_at and t.ended_ms >= due_at and rule.aged(s, t, now_ms, rules, zone):
                refused[rule.name] = age
        sooner = any(age <= rules.wait_ms for age in refused.values())
        if (
            t.decision == WAITING
            and now_ms >= t.born_ms + rules.wait_ms
            and not sooner
            and not hand_like.doubtful(t, rules)
        ):
            _keep(s, t, t.born_ms + rules.wait_ms, rules)
        for name, age in refused.items():
            if t.decision != REFUSED and name not in t.asked:
                _refuse(s, t, name, t.born_ms + age, rules)
        ages = {rule.name: rule.age_ms(rules) for rule in AGED}
        t.asked |= {name for name, age in ages.items() if now_ms >= t.born_ms + age}
        ahead = [age for name, age in ages.items() if name not in t.asked]
        if t.decision == WAITING and not hand_like.doubtful(t, rules):
            ahead.append(rules.wait_ms)
        if ahead and t.decision != REFUSED:
            s.due_ms = min(s.due_ms, t.born_ms + min(ahead))


def _pen(s: State, e: Event, rules: Rules, zone: Zone, asked: Judges) -> None:
    if e.phase == "out":
        s.nib_present = s.nib_down = False
        s.nib_seen_ms = e.t_ms
        return
    arrives = not s.nib_present
    if e.phase == "down":
        s.stroke_ms, s.stroke_mm = e.t_ms, 0.0
    elif e.phase == "move" and s.nib_down and s.nib is not None:
        _inked(s, math.hypot(e.x_mm - s.nib[0], e.y_mm - s.nib[1]), e.t_ms, rules)
    s.nib, s.nib_seen_ms = (e.x_mm, e.y_mm), e.t_ms
    s.nib_present = e.phase not in ("up", "cancel")
    if s.nib_down != (e.phase in ("down", "move")):
        s.nib_down = not s.nib_down
        _regroup(s)
    lands = e.phase == "down"
    if arrives or lands:
        for t in s.touches.values():
            if arrives and t.nib_age_ms == FOREVER:
                t.nib_age_ms = e.t_ms - t.born_ms
            t.nib_with = t.nib_with or (lands and t.ended_ms == FOREVER)
        for moment in ("nib_comes", "nib_lands")[1 - arrives : 1 + lands]:
            for t in s.touches.values():
                _judge(s, t, e.t_ms, rules, zone, asked[moment])


def _inked(s: State, step_mm: float, now_ms: float, rules: Rules) -> None:
    """The nib went a step in contact: it inks, or begins a new stroke where it cannot have gone so far."""
    if not jumps(rules.jump_mm, step_mm, now_ms - s.nib_seen_ms):
        s.ink_mm, s.stroke_mm = s.ink_mm + step_mm, s.stroke_mm + step_mm
        return
    young = now_ms - s.stroke_ms <= rules.take_back_ms
    s.not_drawn.append((s.stroke_ms if young else s.nib_seen_ms, now_ms))
    s.ink_mm -= s.stroke_mm if young else 0.0
    s.stroke_ms, s.stroke_mm = now_ms, 0.0


def _touch(s: State, e: Event, rules: Rules, zone: Zone, asked: Judges) -> None:
    if e.phase == "down":
        t = s.touches[e.id] = landed(s, e)
        s.due_ms = min(s.due_ms, e.t_ms)
        if rules.finger_ink:
            t.path += (e.x_mm, e.y_mm)
        for other in list(s.touches.values()):
            if other.ended_ms == FOREVER:
                _judge(s, other, e.t_ms, rules, zone, asked["lands"])
        _decide_due(s, e.t_ms, rules, zone)
        return
    t = s.touches[e.id]
    strayed(t, e)
    if rules.finger_ink and t.decision != REFUSED:
        t.path += (e.x_mm, e.y_mm)
    _judge(s, t, e.t_ms, rules, zone, asked["lands"])
    if t.decision == KEPT:
        _act(s, t, rules)
    if e.phase != "move":
        t.cancelled = e.phase == "cancel"
        t.lifted = True
        _judge(s, t, e.t_ms, rules, zone, asked["lifts"], lifts=True)
        t.ended_ms = e.t_ms
        if t.decision == KEPT:
            _lifted(s, t, e.t_ms, rules)
            _regroup(s)


def _judge(s: State, t: Touch, now_ms: float, rules: Rules, zone: Zone, asked: Asked, lifts: bool = False) -> None:
    """Ask the rules that judge at this moment; the first that refuses is the deciding one. What waited only because it
    was in doubt, and is so no more, is kept.
    """
    if t.decision == REFUSED:
        return
    for name, judge in asked:
        if not (lifts and name in t.asked) and judge(s, t, now_ms, rules, zone):
            _refuse(s, t, name, now_ms, rules)
            return
    settled = rules.likely > 0 and t.decision == WAITING and now_ms >= t.born_ms + rules.wait_ms
    if settled and not hand_like.doubtful(t, rules):
        _keep(s, t, now_ms, rules)


def _keep(s: State, t: Touch, at_ms: float, rules: Rules) -> None:
    t.decision, t.at_ms, t.kept_ms = KEPT, at_ms, at_ms
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

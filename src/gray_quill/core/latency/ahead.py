"""What look-ahead does: how late the ink's front is without and with it, how far it overshoots, and how far ahead one
may look. On ways of known shape, on the writer's own line, and on frames a browser has shown.
"""

import dataclasses
from collections.abc import Sequence

import numba
import numpy as np

from gray_quill.core.arrays import Floats, plain
from gray_quill.core.errors import InputError
from gray_quill.core.pen.steady import Steady, is_raw, steady_path
from gray_quill.core.pen.steady.look_ahead import look_ahead
from gray_quill.core.readings.ink_readings import LOST_CORNER_MM
from gray_quill.core.readings.probes import line_drag_ms, shake_left, shake_shown
from gray_quill.core.readings.reading import reading
from gray_quill.core.trace import Trace

MOST_AHEAD_MS = 50
LEAST_AHEAD_MS = 4  # a shorter one is not worth a press
TURN_MM, CORNER_MM = 3.0, 20.0  # radius of the turn, and arms of the corner, on which overshoot is stated
BACK_S, ON_S = 0.4, 0.15  # how far from its own moment a front is looked for on the way
FEWEST_FRAMES = 20
OWN = "your own line"
Places = tuple[Floats, Floats, Floats]  # t_s, x_mm, y_mm


@dataclasses.dataclass(frozen=True)
class Ahead:
    """Look-ahead on one way of the hand, `on`. How late is told of what a hand wrote: a turn comes round again."""

    on: str
    bare_ms: float | None = reading(
        "late without look-ahead", "ms", "How late the ink's front is, without look-ahead.", digits=1, better="less"
    )
    left_ms: float | None = reading(
        "late with look-ahead", "ms", "How late the ink's front is; below 0 it runs ahead of the nib.", digits=1
    )
    overshoot_mm: float = reading(
        "overshoot",
        "mm",
        "A twentieth of what look-ahead draws lies farther from the ink that comes to stay. At most as far as ink may "
        "stay from a corner.",
        better="less",
        attention=LOST_CORNER_MM,
    )


@dataclasses.dataclass(frozen=True, eq=False)
class Frames:
    """What a browser showed of one stroke. trace: what the hand did; t_s: when each frame was shown, on the trace's
    clock; tip, front: where the ink ended in it, without and with what look-ahead draws, mm, (n, 2).
    """

    trace: Trace
    t_s: Floats
    tip: Floats
    front: Floats


@dataclasses.dataclass(frozen=True, eq=False)
class Guesses:
    """Where a browser said the nib would be: made after the report at made_s, for the moment t_s, mm; all (n,)."""

    made_s: Floats
    t_s: Floats
    x_mm: Floats
    y_mm: Floats


@dataclasses.dataclass(frozen=True)
class Guessed:
    """95th percentiles of how far guesses lay from where the nib then was, of the browser and of look-ahead at the same
    reports for the same moments, ahead_ms later in the middle.
    """

    guesses: int
    ahead_ms: float
    theirs_mm: float
    ours_mm: float


@dataclasses.dataclass(frozen=True)
class LookedAhead:
    """on: the turn, the corner, the writer's own line where there is one. most_ms: how far ahead one may look on them,
    the corner left out, 0 where less than LEAST_AHEAD_MS is left of it. words: what to know of it.
    """

    on: list[Ahead]
    most_ms: float
    words: list[str]


def looked_ahead(
    steady: Steady,
    report_hz: float,
    speed_mm_s: float,
    late_ms: float,
    traces: Sequence[Trace] = (),
) -> LookedAhead:
    """Look-ahead of a pen at a report rate and nib speed. late_ms: how late the whole chain is: there is no use in
    looking farther ahead.
    """
    ways = {
        f"a turn of {TURN_MM:g} mm": [_turn(report_hz, speed_mm_s)],
        "a corner": [_corner(report_hz, speed_mm_s)],
    }
    own = [t for t in traces if len(t) > 2]
    if own:  # dots are no way to look along
        ways[OWN] = own
    tips = {on: [_tip(steady, t) for t in way] for on, way in ways.items()}
    judged = [way for on, way in tips.items() if on != "a corner"]  # no look-ahead knows of a corner
    most = _most_ms(judged, min(late_ms, MOST_AHEAD_MS))
    on = [_ahead(name, ways[name] if name == OWN else [], tips[name], steady.ahead_ms) for name in ways]
    return LookedAhead(on, most, _words(steady, report_hz, speed_mm_s, most))


def overshoot_mm(tips: Sequence[Places], horizon_ms: float) -> float:
    """95th percentile of the distance of what is drawn ahead from the way the tip then goes; tips: t, x, y of each
    stroke.
    """
    away = [nearest_on_way((t, x, y), t, look_ahead(t, x, y, horizon_ms))[1] for t, x, y in tips]
    return float(np.percentile(np.concatenate(away), 95)) if away else 0.0


def nearest_on_way(way: Places, at_s: Floats, fronts: tuple[Floats, Floats]) -> tuple[Floats, Floats]:
    """For fronts, x and y, at some moments, the moment of the nearest place of a way gone from BACK_S before to ON_S
    after, and how far away that is.
    """
    t, x, y = (plain(v) for v in way)
    fx, fy = (plain(v) for v in fronts)
    when, away = _nearest(t, x, y, plain(at_s), fx, fy, BACK_S, ON_S)
    return when, away


@numba.njit(cache=True)
def _nearest(t, x, y, at_s, fx, fy, back_s, on_s):  # type: ignore[no-untyped-def]
    n, m = len(t), len(at_s)
    when, away = np.empty(m), np.empty(m)
    for k in range(m):
        first = max(0, np.searchsorted(t, at_s[k] - back_s) - 1)
        last = min(n - 1, np.searchsorted(t, at_s[k] + on_s))
        first = min(first, last)
        best, moment = np.hypot(fx[k] - x[first], fy[k] - y[first]), t[first]
        for i in range(first, last):
            dx, dy = x[i + 1] - x[i], y[i + 1] - y[i]
            length2 = dx * dx + dy * dy
            if length2 <= 0.0:
                continue
            u = min(1.0, max(0.0, ((fx[k] - x[i]) * dx + (fy[k] - y[i]) * dy) / length2))
            d = np.hypot(fx[k] - x[i] - u * dx, fy[k] - y[i] - u * dy)
            if d < best:
                best, moment = d, t[i] + u * (t[i + 1] - t[i])
        when[k], away[k] = moment, best
    return when, away


def _tip(steady: Steady, trace: Trace) -> Places:
    x, y = steady_path(steady, trace.t_s, trace.x_mm, trace.y_mm)
    return trace.t_s, x, y


def _ahead(on: str, way: Sequence[Trace], tips: Sequence[Places], horizon_ms: float) -> Ahead:
    """way: what the hand did, where it is to be told how late the ink is."""
    if not way:
        return Ahead(on, None, None, overshoot_mm(tips, horizon_ms))
    late: list[list[Floats]] = [[], []]
    for trace, (t, x, y) in zip(way, tips, strict=True):
        for into, (fx, fy) in zip(late, ((x, y), look_ahead(t, x, y, horizon_ms)), strict=True):
            into.append(t - nearest_on_way((t, trace.x_mm, trace.y_mm), t, (fx, fy))[0])
    bare, left = (float(np.median(np.concatenate(v))) * 1000 for v in late)
    return Ahead(on, bare, left, overshoot_mm(tips, horizon_ms))


def as_shown(steady: Steady, shown: Sequence[Frames]) -> Ahead:
    """Look-ahead as a browser has shown it: how late the ink's end was in each frame, and how far what was drawn ahead
    lay from the ink that came to stay. Raises InputError for too few frames.
    """
    late: list[list[Floats]] = [[], []]
    away = []
    for frames in shown:
        t, x, y = frames.trace.t_s, frames.trace.x_mm, frames.trace.y_mm
        within = frames.t_s <= t[-1]  # where the nib was later is not known
        for into, place in zip(late, (frames.tip, frames.front), strict=True):
            at_s, (u, v) = frames.t_s[within], place[within].T
            into.append(at_s - nearest_on_way((t, x, y), at_s, (u, v))[0])
        u, v = frames.front.T
        away.append(nearest_on_way(_tip(steady, frames.trace), frames.t_s, (u, v))[1])
    frames_seen = sum(len(v) for v in late[0])
    if frames_seen < FEWEST_FRAMES:
        raise InputError(f"Write a little more: {frames_seen} frames are too few, {FEWEST_FRAMES} are needed.", "shown")
    bare, left = (float(np.median(np.concatenate(v))) * 1000 for v in late)
    return Ahead("this drill", bare, left, float(np.percentile(np.concatenate(away), 95)))


def as_guessed(guessed: Sequence[tuple[Trace, Guesses]]) -> Guessed | None:
    """A browser's guesses beside look-ahead's; None where they are too few, or all of them reach beyond the strokes."""
    ahead: list[float] = []
    off: list[list[float]] = [[], []]
    for trace, guesses in guessed:
        t, places = trace.t_s, trace.xy_mm
        for made, at, x, y in zip(guesses.made_s, guesses.t_s, guesses.x_mm, guesses.y_mm, strict=True):
            k = int(np.searchsorted(t, made + 1e-9)) - 1
            if k < 1 or not t[k] < at <= t[-1]:
                continue
            ours = look_ahead(t[: k + 1], trace.x_mm[: k + 1], trace.y_mm[: k + 1], (at - t[k]) * 1000)
            there = np.array([np.interp(at, t, v) for v in places.T])
            ahead.append((at - t[k]) * 1000)
            off[0].append(float(np.hypot(*(there - (x, y)))))
            off[1].append(float(np.hypot(*(there - (ours[0][-1], ours[1][-1])))))
    if len(ahead) < FEWEST_FRAMES:
        return None
    theirs, own = (float(np.percentile(v, 95)) for v in off)
    return Guessed(len(ahead), float(np.median(ahead)), theirs, own)


def _most_ms(judged: Sequence[Sequence[Places]], limit_ms: float) -> float:
    """The farthest look-ahead, in whole ms, whose overshoot stays within bounds on every way."""
    low, high = 0, int(limit_ms)
    while low < high:
        middle = (low + high + 1) // 2
        fits = all(overshoot_mm(way, middle) <= LOST_CORNER_MM for way in judged)
        low, high = (middle, high) if fits else (low, middle - 1)
    return float(low) if low >= LEAST_AHEAD_MS else 0.0


def _words(steady: Steady, report_hz: float, speed_mm_s: float, most_ms: float) -> list[str]:
    words = []
    if steady.ahead_ms > most_ms:
        words.append(
            f"{steady.ahead_ms:g} ms overshoot by more than {LOST_CORNER_MM:g} mm; {most_ms:g} ms do not."
            if most_ms
            else f"At this speed every look-ahead worth having overshoots by more than {LOST_CORNER_MM:g} mm, or the "
            "ink is not late enough to need one."
        )
    if steady.ahead_ms and not is_raw(steady):
        words += _fight(steady, report_hz, speed_mm_s)
    return words


def _fight(steady: Steady, report_hz: float, speed_mm_s: float) -> list[str]:
    """Steadying holds the tip back, look-ahead sends it on: would less steadying alone be as quick and calmer?"""
    drag = line_drag_ms(steady, report_hz, speed_mm_s)
    calmed, shows = shake_left(steady, report_hz), shake_shown(steady, report_hz)
    said = (
        f"Steadying holds the tip back {drag:.0f} ms, look-ahead sends it on {steady.ahead_ms:g}. While you write the "
        f"ink's end shakes by {shows:.0%} of your hand's shake, what stays by {calmed:.0%}."
    )
    lighter = _with_drag(steady, report_hz, speed_mm_s, drag - steady.ahead_ms)
    alone = shake_left(lighter, report_hz)
    other = f"{lighter.method} {lighter.amount:g} without look-ahead is as quick and shakes by {alone:.0%}."
    return [f"{said} They fight each other: {other}" if shows > alone else f"{said} Alone, {other}"]


def _with_drag(steady: Steady, report_hz: float, speed_mm_s: float, drag_ms: float) -> Steady:
    """The same method at the amount that holds the tip back so long, to 0.1."""
    low, high = 0.0, steady.amount
    while high - low > 0.05:
        middle = (low + high) / 2
        less = dataclasses.replace(steady, amount=middle)
        low, high = (middle, high) if line_drag_ms(less, report_hz, speed_mm_s) <= drag_ms else (low, middle)
    return dataclasses.replace(steady, amount=round(low, 1), ahead_ms=0.0)


def _turn(report_hz: float, speed_mm_s: float) -> Trace:
    t = _moments(report_hz, 2.0)
    angle = speed_mm_s / TURN_MM * t
    return _way(t, TURN_MM * np.cos(angle), TURN_MM * np.sin(angle))


def _corner(report_hz: float, speed_mm_s: float) -> Trace:
    t = _moments(report_hz, 2 * CORNER_MM / speed_mm_s)
    gone = speed_mm_s * t
    return _way(t, np.minimum(gone, CORNER_MM), np.maximum(gone - CORNER_MM, 0))


def _moments(report_hz: float, seconds: float) -> Floats:
    return np.arange(max(8, int(seconds * report_hz))) / report_hz


def _way(t_s: Floats, x_mm: Floats, y_mm: Floats) -> Trace:
    level = np.full(len(t_s), 0.5)
    return Trace(t_s, x_mm, y_mm, level, level, level)

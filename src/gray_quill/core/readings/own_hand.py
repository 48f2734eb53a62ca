"""A hand measured from writing: the record of the simulated hand that writes like it, each habit with its interval.

Each habit is read off the strokes by a plain statistic. What that statistic makes of a hand that is known is found by
letting the estimated hand write other words on the same device (a parametric bootstrap: Efron and Tibshirani, An
Introduction to the Bootstrap, 1993, chapter 6; from memory): its mean shift is taken off the estimate, its scatter
gives the interval. What writing cannot tell is left as it was, and said so.
"""

import dataclasses
import itertools
from collections.abc import Sequence

import numpy as np
from scipy.ndimage import gaussian_filter1d

from gray_quill.core.arrays import Floats
from gray_quill.core.digitiser.device import Device
from gray_quill.core.digitiser.writer import write_intents
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import Hand
from gray_quill.core.hand.intent import Intent, text_intents
from gray_quill.core.hand.motion import AIR
from gray_quill.core.percentiles import weighted_percentiles
from gray_quill.core.quantities import quantities
from gray_quill.core.readings.letters import SMALLEST_TURN_MM, x_height_mm
from gray_quill.core.readings.tremor import tremor_of
from gray_quill.core.trace import Trace, path_length_mm

POOL = """moth seen at trap nine wings folded hollow sedge and a lamp in the fen three dark bars eyespot pale and
rough counted twice; move it behind the sallows, Hawk-moth Trap 3 Sheet 21:30 12.6 C Rain NW before the wind, jumps
over quick brown fox lazy dog"""
WORDS = tuple(POOL.split())
ROUNDS, FEW_REPEATS, REPEATS = 2, 4, 12  # times the estimated hand writes, in the first rounds and in the last
MOST_LETTERS = 100  # it writes at a time
LETTER_X_HEIGHTS = 1.25  # a letter takes up in a line, about
FEWEST_S = 3.0  # of writing to go by
EDGE_S = 0.2  # of a stroke, in which its force comes and goes
STEEP = 0.7  # of the way, from which the nib goes down rather than along
JOINED_TURNS = 7  # turns up and down in the stroke with the middle of the ink, from which letters are joined
FLAT = 0.04  # height over width of a stroke under which it is a line, not a letter
SIZES = ("x_height_mm", "speed_mm_s", "tremor_mm", "onset_ms", "lift_ms", "pause_ms", "drift_deg")
SCATTER = "wander_mm"
SURE_DEG = 0.5  # of an angle at best: devices tell tilt to about a degree
NEAR_X_HEIGHTS, LONGEST_PAUSE_S = 4.0, 1.5  # of a pause between two strokes of one piece of writing
FEWEST_PAUSES = 6
THERE, SMOOTH_STEP = 0.6, 0.53  # share of the force looked for, and where the hand's smooth step has it
# Of intervals, for the hand that writes the other words is an estimate itself; chosen on twenty hands of the core that
# `make trial-hands` does not judge by.
WIDEN = 1.6
NOT_TOLD = {
    "side": "the hand in use",
    "palm_mm": "the hand in use; the palm drills measure it",
}


@dataclasses.dataclass(frozen=True)
class Habit:
    """One field of the hand: its value and 95 % interval; told: whether this writing tells it, why_not where it does
    not.
    """

    field: str
    value: float | str
    low: float | None
    high: float | None
    told: bool
    why_not: str = ""


@dataclasses.dataclass(frozen=True)
class Differs:
    """What still differs between the writing and that of the measured hand: in words, both values, and how many times
    the scatter they lie apart.
    """

    label: str
    unit: str
    written: float
    by_hand: float
    apart: float


@dataclasses.dataclass(frozen=True)
class OwnHand:
    """The measured hand, its habits and what still differs."""

    hand: Hand
    habits: list[Habit]
    differs: list[Differs]


def measure_hand(traces: Sequence[Trace], like: Hand, device: Device, seed: int = 1) -> OwnHand:
    """The hand that wrote these strokes. like: the hand in use, for what writing does not tell. Raises InputError for
    too little writing.
    """
    seconds = sum(float(t.t_s[-1]) for t in traces)
    if seconds < FEWEST_S or x_height_mm(traces) is None:
        raise InputError(
            "There is too little writing to measure a hand by. Write two lines of words first.", "sheet_id"
        )
    found = _statistics(traces, like.side)
    letters = "script" if (found["turns"] or 0.0) >= JOINED_TURNS else "plain"
    first = _hand(dataclasses.replace(like, letters=letters), found)
    for round_ in range(ROUNDS):  # the nearer the hand that writes again, the truer what is learnt from it
        again = [
            _statistics(_as_written(first, device, traces, seed * 1000 + 100 * round_ + k), like.side)
            for k in range(REPEATS if round_ == ROUNDS - 1 else FEW_REPEATS)
        ]
        if round_ < ROUNDS - 1:
            first = _hand(first, {f: _corrected(f, found[f], first, again)[0] for f in FIELDS if f != SCATTER})
    values, habits = {}, []
    for field, why in FIELDS.items():
        value, half = _corrected(field, found[field], first, again)
        if value is None:
            habits.append(Habit(field, getattr(like, field), None, None, False, why))
            continue
        quantity = quantities(Hand)[field]
        low, high = (value / np.exp(half), value * np.exp(half)) if field in SIZES else (value - half, value + half)
        if field == "tremor_mm" and value == 0:
            low, high = 0.0, tremor_of(tuple(traces)).high_mm
        if field == SCATTER:
            value, low, high = (float(np.sqrt(max(0.0, v))) for v in (value, low, high))
        values[field], low, high = (float(np.clip(v, quantity.low, quantity.high)) for v in (value, low, high))
        habits.append(Habit(field, values[field], low, high, True))
    habits.insert(0, Habit("letters", letters, None, None, True))
    habits.append(_rest(values.get("azimuth_deg"), like))
    habits += [Habit(field, getattr(like, field), None, None, False, why) for field, why in NOT_TOLD.items()]
    rest = str(habits[-1 - len(NOT_TOLD)].value)
    hand = dataclasses.replace(like, letters=letters, rest=rest, **values)  # type: ignore[arg-type]
    return OwnHand(hand, habits, _differences(traces, hand, device, seed))


def _corrected(
    field: str, value: float | None, first: Hand, again: Sequence[dict[str, float | None]]
) -> tuple[float | None, float]:
    """A statistic less what it is off by for a known hand, and half its 95 % interval: sizes are off by a factor (half
    is of its logarithm), angles and times by an amount.
    """
    heard = np.array([s[field] for s in again if s[field] is not None], float)
    start = float(getattr(first, field))
    if value is None or len(heard) < len(again) / 2:
        return None, 0.0
    if field == SCATTER:  # adds up in squares with what round letters scatter by themselves
        return value**2 - float((heard**2 - start**2).mean()), _half(heard**2 - start**2)
    if field in SIZES:
        off = np.log(np.maximum(heard, 1e-6) / max(start, 1e-6))
        return float(value * np.exp(-off.mean())), _half(off)
    return float(value - (heard - start).mean()), max(_half(heard - start), SURE_DEG if field.endswith("_deg") else 0.0)


def _half(errors: Floats) -> float:
    """Half a 95 % interval of one more value, from so many."""
    return float(1.96 * WIDEN * errors.std(ddof=1) * np.sqrt(1 + 1 / len(errors)))


def _rest(azimuth_deg: float | None, like: Hand) -> Habit:
    """Where the hand comes from, by where the pen's top points: away from the writer only in a hooked hand."""
    if azimuth_deg is None:
        return Habit("rest", like.rest, None, None, False, "this device tells no tilt; the palm drills tell it")
    if azimuth_deg < 0:
        return Habit("rest", "above", None, None, True)
    if like.rest == "above":
        return Habit("rest", "below", None, None, True)
    return Habit("rest", like.rest, None, None, False, "not hooked; from below or the side, the palm drills tell")


# What is read off strokes by field; the words say why it may be missing.
FIELDS: dict[str, str] = {
    "x_height_mm": "too few letters",
    "slant_deg": "too few downstrokes",
    "wander_mm": "too few letters on a line",
    "speed_mm_s": "too little writing",
    "tremor_mm": "letters cannot tell it; draw the slow line of the test sheet",
    "force": "this device tells no force",
    "force_swing": "this device tells no force",
    "onset_ms": "this device tells no force, or no stroke is long enough",
    "lift_ms": "this device tells no force, or no stroke is long enough",
    "altitude_deg": "this device tells no tilt",
    "azimuth_deg": "this device tells no tilt",
    "drift_deg": "this device tells no tilt",
    "pause_ms": "too few strokes that are known to follow each other",
}


def _hand(like: Hand, found: dict[str, float | None]) -> Hand:
    fields = quantities(Hand)
    told = {
        f: float(np.clip(v, fields[f].low, fields[f].high)) for f, v in found.items() if f in FIELDS and v is not None
    }
    return dataclasses.replace(like, **told)  # type: ignore[arg-type]


def _as_written(hand: Hand, device: Device, traces: Sequence[Trace], seed: int) -> list[Trace]:
    """Other words of about the same length by the hand, with a slow line where there was one to read."""
    rng = np.random.default_rng(seed)
    length = sum(float(np.abs(np.diff(t.x_mm)).sum()) for t in traces if float(t.t_s[-1]) > 0)
    letters = int(np.clip(length / (LETTER_X_HEIGHTS * hand.x_height_mm) / 1.6, 12, MOST_LETTERS))
    words = " ".join(rng.choice(WORDS, letters // 5 + 1))
    intents = text_intents(words, hand, 15, 25, 118, rng)
    lines = tremor_of(tuple(traces)).lines
    intents += [Intent(np.array([[20.0, 200.0 + k], [75.0, 200.3 + k]]), None, 0.45) for k in range(min(lines, 3))]
    return write_intents(intents, hand, device, rng)


def _statistics(traces: Sequence[Trace], side: str) -> dict[str, float | None]:
    """Every plain statistic of some strokes, by the field it speaks of, and a few that no field is set by."""
    words = [t for t in traces if len(t) > 2 and _is_letter(t)] or list(traces)
    long = [t for t in words if float(t.t_s[-1]) > 2 * EDGE_S]
    told: dict[str, float | None] = dict.fromkeys(FIELDS)
    told["x_height_mm"] = x_height_mm(words)
    seconds = sum(float(t.t_s[-1]) for t in words)
    told["speed_mm_s"] = sum(path_length_mm(t.x_mm, t.y_mm) for t in words) / seconds if seconds > 0 else None
    told["slant_deg"] = _slant_deg(words)
    told["wander_mm"] = _wander_mm(words, told["x_height_mm"])
    told["tremor_mm"] = tremor_of(tuple(traces)).rms_mm
    if all("force" not in t.absent for t in traces):
        told |= _force(long or words)
        told["onset_ms"], told["lift_ms"] = _edge_ms(long, 1), _edge_ms(long, -1)
    if all("tilt" not in t.absent for t in traces):
        altitude, azimuth = (np.concatenate([getattr(t, name) for t in words]) for name in ("altitude", "azimuth"))
        told["altitude_deg"] = float(np.degrees(np.median(altitude)))
        told["drift_deg"] = float(np.degrees(np.sqrt(np.mean((altitude - np.mean(altitude)) ** 2))))
        points = float(np.degrees(np.angle(np.exp(1j * azimuth).mean())))
        told["azimuth_deg"] = points if side == "right" else (180 - points + 180) % 360 - 180
    told["pause_ms"] = _pause_ms(traces, told["x_height_mm"], told["speed_mm_s"])
    turns = np.array([_turns(t.y_mm) for t in words])
    told["turns"] = float(
        weighted_percentiles(turns, np.array([path_length_mm(t.x_mm, t.y_mm) for t in words]), (50,))[0]
    )
    told["strokes_a_second"] = len(traces) / max(seconds, 1e-9)
    height = told["x_height_mm"] or 1.0
    told["letter_width"] = float(np.sum([np.ptp(t.x_mm) for t in words]) / max(1.0, float(turns.sum()))) / height
    told["half_cycle_ms"] = 1000 * seconds / max(1.0, float(turns.sum()))
    return told


def _is_letter(trace: Trace) -> bool:
    tall = float(np.ptp(trace.y_mm))
    return tall > SMALLEST_TURN_MM and tall > FLAT * float(np.ptp(trace.x_mm))


def _steps(trace: Trace) -> tuple[Floats, Floats, Floats]:
    dx, dy = np.gradient(trace.x_mm), np.gradient(trace.y_mm)
    return dx, dy, np.maximum(np.hypot(dx, dy), 1e-9)


def _slant_deg(traces: Sequence[Trace]) -> float | None:
    """Lean of what goes steeply down, by length."""
    along, down = 0.0, 0.0
    for t in traces:
        if len(t) > 4:
            dx, dy, step = _steps(t)
            steep = dy > STEEP * step
            along, down = along - float(dx[steep].sum()), down + float(dy[steep].sum())
    return float(np.degrees(np.arctan2(along, down))) if down > 5 else None


def _wander_mm(traces: Sequence[Trace], height: float | None) -> float | None:
    """Scatter of the feet of letters about their lines, made into the hand's own measure."""
    if height is None:
        return None
    feet = np.concatenate([_feet(t) for t in traces] or [np.zeros((0, 2))])
    lines: list[Floats] = []
    for foot in feet[np.argsort(feet[:, 1])]:
        if lines and abs(foot[1] - np.median(lines[-1][:, 1])) < 0.5 * height:
            lines[-1] = np.vstack((lines[-1], foot))
        else:
            lines.append(foot[None])
    off = [
        line[:, 1] - np.polyval(np.polyfit(line[:, 0], line[:, 1], 1), line[:, 0]) for line in lines if len(line) > 5
    ]
    if not off:
        return None
    middling = np.median(np.abs(np.concatenate(off)))  # tails of letters below the line do not count
    return float(middling * 1.4826 / 0.55)  # to an RMS; the hand's two waves have 0.55 of its measure


def _feet(trace: Trace) -> Floats:
    """Places where a path turns from down to up."""
    y = gaussian_filter1d(trace.y_mm, 2) if len(trace) > 8 else trace.y_mm
    at = np.flatnonzero((np.diff(y)[:-1] > 0) & (np.diff(y)[1:] <= 0)) + 1
    return np.column_stack((trace.x_mm[at], trace.y_mm[at]))


def _pause_ms(traces: Sequence[Trace], height: float | None, speed: float | None) -> float | None:
    """Middle time off the page between strokes near each other, less that of the travel."""
    if height is None or not speed:
        return None
    pauses = []
    for one, next_ in itertools.pairwise(traces):
        if one.begun_s is None or next_.begun_s is None:
            continue
        gap = next_.begun_s - one.begun_s - float(one.t_s[-1])
        away = float(np.hypot(next_.x_mm[0] - one.x_mm[-1], next_.y_mm[0] - one.y_mm[-1]))
        if 0 < gap < LONGEST_PAUSE_S and away < NEAR_X_HEIGHTS * height:
            pauses.append(gap - away / (AIR * speed))
    return 1000 * max(0.01, float(np.median(pauses))) if len(pauses) >= FEWEST_PAUSES else None


def _turns(y: Floats) -> int:
    smooth = gaussian_filter1d(y, 1.5)
    return int((np.diff(np.sign(np.diff(smooth))) != 0).sum()) + 1


def _force(traces: Sequence[Trace]) -> dict[str, float | None]:
    """Everyday force, and how much more of it goes into what runs down: least squares away from both ends."""
    down, force = [], []
    for t in traces:
        rate = (len(t) - 1) / max(float(t.t_s[-1]), 1e-6)
        _, dy, step = _steps(t)
        inside = (t.t_s > EDGE_S / 2) & (t.t_s < t.t_s[-1] - EDGE_S / 2)
        down.append(gaussian_filter1d(dy / step, 0.03 * rate, mode="nearest")[inside])
        force.append(t.force[inside])
    x, y = np.concatenate(down), np.concatenate(force)
    if len(x) < 20 or float(x.std()) < 0.05:
        return {}
    swing, mean = np.polyfit(x, y, 1)
    return {"force": float(mean), "force_swing": max(0.0, float(swing))}


def _edge_ms(traces: Sequence[Trace], way: int) -> float | None:
    """Time from a stroke's first report (its last, for way -1) until its force is there, made into the hand's own."""
    times = []
    for t in traces:
        force, clock = t.force[::way], np.abs(t.t_s - (0 if way > 0 else t.t_s[-1]))[::way]
        body = float(np.median(force[(clock > 0.1) & (clock < 0.1 + EDGE_S)])) if (clock > 0.12).any() else 0.0
        there = np.flatnonzero(force >= THERE * body)
        if body > 0 and len(there):
            times.append(float(np.interp(THERE * body, force[: there[0] + 1], clock[: there[0] + 1])))
    return max(1.0, float(np.mean(times)) / SMOOTH_STEP * 1000) if len(times) >= 3 else None


DIFFERING: dict[str, tuple[str, str]] = {
    "letter_width": ("a stroke up or down takes", "x-heights of the line"),
    "half_cycle_ms": ("a stroke up or down lasts", "ms"),
    "strokes_a_second": ("the pen lands", "times in a second of writing"),
}


def _differences(traces: Sequence[Trace], hand: Hand, device: Device, seed: int) -> list[Differs]:
    written = _statistics(traces, hand.side)
    again = [_statistics(_as_written(hand, device, traces, seed * 2000 + k), hand.side) for k in range(4)]
    found = []
    for key, (label, unit) in DIFFERING.items():
        heard = np.array([s[key] for s in again], float)
        one, other = float(written[key] or 0.0), float(heard.mean())
        apart = abs(one - other) / max(float(heard.std(ddof=1)), 0.05 * abs(other), 1e-9)
        if apart > 2:
            found.append(Differs(label, unit, one, other, apart))
    return found

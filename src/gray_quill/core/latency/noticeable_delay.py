"""What this hand feels: from which delay on it notices one and from which on it is disturbed, with an interval.

A yes comes by mistake with some chance g, else with that of a cumulative normal over the logarithm of the added delay,
with some lapses: p = g + (1 - g) (1 - l) N((ln a - ln threshold) / s); turns to which nothing was added are yes with g
alone. The posterior is summed over a grid of threshold, s, g and l, flat but for s and l (Kuss, Jaekel and Wichmann,
J. Vision 5, 2005, from memory); the interval is its middle 95 %.
"""

import dataclasses
import functools
from collections import Counter
from collections.abc import Sequence

import numpy as np
from scipy.special import ndtr

from gray_quill.core.arrays import Floats
from gray_quill.core.latency.staircase import CATCH, DISTURBED, MOST_ADDED_MS, NOTICED, Turn, says_yes

FEWEST_TURNS = 15  # three catch turns among them
NARROW = 2.0  # enough is known where the interval's ends are no further apart than by this factor
OFF_MS, OFF_SHARE = 8.0, 0.25  # a turn in which the browser added so much more or less is set aside
# The answers must go with the delay at least so much better than answers that do not, in nats: random ones do not.
GOES_WITH_DELAY = 4.0
MISTAKEN = 0.5  # who says yes to nothing more often than that tells nothing of delays
LEAST_CHANCE = 1e-6
_THRESHOLD_MS = np.geomspace(2.0, 1000.0, 121)
_SPREAD = np.geomspace(0.12, 1.2, 8)
_MISTAKE = np.linspace(0.005, 0.605, 9)
_LAPSE = np.array([0.0, 0.03, 0.08])
_GRID = (len(_THRESHOLD_MS), len(_SPREAD), len(_MISTAKE), len(_LAPSE))


@dataclasses.dataclass(frozen=True)
class Bound:
    """Added delay at which half the answers are yes, and its 95 % interval, ms; None where that cannot be told, with
    the reason in words.
    """

    added_ms: float | None
    low_ms: float | None
    high_ms: float | None
    words: str


@dataclasses.dataclass(frozen=True)
class Feel:
    """What the turns so far tell. catches, mistaken: turns to which nothing was added, and how many of them were called
    slight or laggy. set_aside: turns in which the browser did not add what was asked. enough: no more turns are needed.
    speed_mm_s: median over the turns; bare_frame_ms: over the catch turns, from an event to its frame.
    """

    turns: int
    set_aside: int
    catches: int
    mistaken: int
    speed_mm_s: float | None
    bare_frame_ms: float | None
    noticed: Bound
    disturbed: Bound
    enough: bool


@dataclasses.dataclass(frozen=True)
class Felt:
    """A hand's own thresholds as delays from nib to light, with what was there before anything was added. base_from:
    how that is known.
    """

    noticed_ms: float
    low_ms: float
    high_ms: float
    disturbed_ms: float | None
    speed_mm_s: float
    base_ms: float
    base_from: str
    turns: int


def feel(turns: Sequence[Turn]) -> Feel:
    """What turns tell, at any time."""
    used = _as_asked(turns)
    bare = [t for t in used if t.kind == CATCH]
    noticed = _bound(used, NOTICED)
    disturbed = _bound(used, DISTURBED)
    return Feel(
        turns=len(turns),
        set_aside=len(turns) - len(used),
        catches=len(bare),
        mistaken=sum(says_yes(CATCH, t.answer) for t in bare),
        speed_mm_s=_median([t.speed_mm_s for t in used]),
        bare_frame_ms=_median([t.frame_ms for t in bare]),
        noticed=noticed,
        disturbed=disturbed,
        enough=all(_narrow(b) for b in (noticed, disturbed)),
    )


def felt(found: Feel, base_ms: float, base_from: str) -> Felt | None:
    """As delays from nib to light; None where nothing can be told of what is noticed."""
    noticed = found.noticed
    if noticed.added_ms is None or noticed.low_ms is None or noticed.high_ms is None or found.speed_mm_s is None:
        return None
    disturbed = found.disturbed.added_ms
    return Felt(
        noticed_ms=base_ms + noticed.added_ms,
        low_ms=base_ms + noticed.low_ms,
        high_ms=base_ms + noticed.high_ms,
        disturbed_ms=None if disturbed is None else base_ms + max(disturbed, noticed.added_ms),
        speed_mm_s=found.speed_mm_s,
        base_ms=base_ms,
        base_from=base_from,
        turns=found.turns - found.set_aside,
    )


def _as_asked(turns: Sequence[Turn]) -> list[Turn]:
    """Turns in which the browser showed the delay that was asked for, by its own catch turns."""
    bare = [t.frame_ms for t in turns if t.kind == CATCH]
    if not bare:
        return list(turns)
    base = float(np.median(bare))
    return [t for t in turns if abs(t.frame_ms - base - t.added_ms) <= max(OFF_MS, OFF_SHARE * t.added_ms)]


def _median(values: Sequence[float]) -> float | None:
    return float(np.median(values)) if values else None


def _narrow(bound: Bound) -> bool:
    return bound.low_ms is not None and bound.high_ms is not None and bound.high_ms <= NARROW * bound.low_ms


def _bound(turns: Sequence[Turn], kind: str) -> Bound:
    added = np.array([t.added_ms for t in turns])
    yes = np.array([says_yes(kind, t.answer) for t in turns])
    bare = added == 0
    if len(turns) < FEWEST_TURNS:
        return _untold(f"{FEWEST_TURNS - len(turns)} more turns before anything can be said")
    word = "noticed" if kind == NOTICED else "called laggy"
    if bare.any() and yes[bare].mean() > MISTAKEN:
        return _untold(f"{yes[bare].sum()} of {bare.sum()} turns without any added delay were {word} too")
    if not yes[~bare].any():
        return _untold(f"none of the added delays, up to {added.max():.0f} ms, was {word}")
    if yes[~bare].all():
        return _untold(f"every added delay, down to {added[~bare].min():.0f} ms, was {word}")
    log_p = _log_likelihood(added, yes)
    share = yes.mean()
    guessing = len(yes) * (share * np.log(share) + (1 - share) * np.log(1 - share)) if 0 < share < 1 else 0.0
    if log_p.max() - guessing < GOES_WITH_DELAY:
        return _untold("the answers do not go with the delay")
    low, middle, high = _quantiles(log_p)
    if high > MOST_ADDED_MS:
        return _untold(f"too few of the longest delays were {word} to say from which on")
    return Bound(middle, low, high, f"{word} half the time with {middle:.0f} ms added")


def _untold(words: str) -> Bound:
    return Bound(None, None, None, words)


def _log_likelihood(added_ms: Floats, yes: Floats) -> Floats:
    """Over the grid (threshold, spread, mistake, lapse)."""
    out = np.zeros(_GRID)
    for (a, said), times in Counter(zip(added_ms.tolist(), yes.tolist(), strict=True)).items():
        out += times * _log_chance(a, said)
    return out


@functools.lru_cache(maxsize=64)  # a trial comes back to its delays; each is 200 kB
def _log_chance(added_ms: float, said: bool) -> Floats:
    """Of one answer, over the grid."""
    g, lapse = _MISTAKE[:, None], _LAPSE[None, :]
    if added_ms == 0:
        p = np.broadcast_to(g, _GRID)
    else:
        seen = ndtr(np.log(added_ms / _THRESHOLD_MS)[:, None] / _SPREAD)[:, :, None, None]
        p = g + (1 - g) * (1 - lapse) * seen
    return np.log(np.maximum(p if said else 1 - p, LEAST_CHANCE))


def _quantiles(log_p: Floats) -> tuple[float, float, float]:
    """2.5, 50 and 97.5 % of the threshold, ms."""
    weight = np.exp(log_p - log_p.max()) * _prior()
    cumulated = np.cumsum(weight.sum(axis=(1, 2, 3)))
    cumulated /= cumulated[-1]
    at = np.interp((0.025, 0.5, 0.975), cumulated, np.log(_THRESHOLD_MS))
    low, middle, high = (float(v) for v in np.exp(at))
    return low, middle, high


def _prior() -> Floats:
    """Spreads about a factor of 1.5 are the likeliest, by Weber fractions of time; few lapses. From memory."""
    spread = np.exp(-0.5 * (np.log(_SPREAD / 0.4) / 0.6) ** 2)
    return spread[None, :, None, None] * np.array([0.5, 0.35, 0.15])

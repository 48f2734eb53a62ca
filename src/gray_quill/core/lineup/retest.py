"""A line-up measured again: what moved since, and what is noise.

A block that both measured is compared with itself, so that what the writing does to a reading does not count. The
interval is Student's t of the differences by block; where every block moved by the same, that is what moved.
"""

import dataclasses

import numpy as np
from scipy import special

from gray_quill.core.lineup.criteria import CRITERIA
from gray_quill.core.lineup.measure import Measured
from gray_quill.core.lineup.ranking import SURE


@dataclasses.dataclass(frozen=True)
class Moved:
    """A criterion of a candidate, by its number, before and now, as means over blocks. by: what it moved by, with its
    interval; sure: the interval leaves nought out; better: it moved the better way.
    """

    candidate: int
    criterion: str
    before: float
    now: float
    by: float
    low: float
    high: float
    sure: bool
    better: bool


def moved(before: Measured, now: Measured) -> list[Moved]:
    """What is not the same any more, what moved surely first, the most points first. Candidates are compared by their
    place in the line-up; the two have the same ones.
    """
    found = []
    for c, (old, new) in enumerate(zip(before.values, now.values, strict=True)):
        olds, news = dict(zip(before.criteria, old, strict=True)), dict(zip(now.criteria, new, strict=True))
        for key in (k for k in now.criteria if k in olds and k in CRITERIA):
            pairs = [(a, b) for a, b in zip(olds[key], news[key], strict=False) if a is not None and b is not None]
            if pairs and any(a != b for a, b in pairs):
                found.append(_moved(c, key, np.array(pairs, float)))
    return sorted(found, key=lambda m: (not m.sure, -abs(_points(m))))


def _moved(candidate: int, key: str, pairs: np.ndarray) -> Moved:  # type: ignore[type-arg]
    steps = pairs[:, 1] - pairs[:, 0]
    by, half = float(steps.mean()), np.inf
    if len(steps) > 1:
        half = float(special.stdtrit(len(steps) - 1, 0.5 + SURE / 2) * steps.std(ddof=1) / np.sqrt(len(steps)))
    low, high = by - half, by + half
    better = (by > 0) == (CRITERIA[key].better == "more")
    before, now = (float(v) for v in pairs.mean(axis=0))
    return Moved(candidate, key, before, now, by, low, high, bool(low > 0 or high < 0), bool(better))


def _points(one: Moved) -> float:
    criterion = CRITERIA[one.criterion]
    return criterion.points(one.now) - criterion.points(one.before)

"""Small regression trees whose sum is the logarithm of the odds that a contact is a hand (gradient boosting: Friedman,
Annals of Statistics 29, 2001), and what each number of its look added to them.

The nodes of all trees stand one after the other. NUMBERS: which number of the look a node asks, -1 in a leaf. Up to its
bound the next node follows, over it the one in ABOVE; what is missing goes with the lower where MISSING says so. MEANS:
of all leaves below.
"""

import dataclasses
import math
from collections.abc import Sequence
from typing import Any

import numba
import numpy as np
from numpy.typing import NDArray

from gray_quill.core.generated.palm_look import ABOVE, BASE, BOUNDS, MEANS, MISSING, NUMBERS, ROOTS
from gray_quill.core.palm.features import NAMES


@dataclasses.dataclass(frozen=True)
class Trees:
    """All of them as plain columns, for the browser: bounds hold a leaf's worth where numbers is -1."""

    names: list[str]
    base: float
    roots: list[int]
    numbers: list[int]
    bounds: list[float]
    above: list[int]
    missing: list[int]


def trees() -> Trees:
    """The trees as columns."""
    bounds = [mean if number < 0 else bound for number, bound, mean in zip(NUMBERS, BOUNDS, MEANS, strict=True)]
    return Trees(list(NAMES), BASE, list(ROOTS), list(NUMBERS), bounds, list(ABOVE), list(MISSING))


def odds_of(look: Sequence[float]) -> float:
    """The logarithm of the odds of a hand."""
    return float(_down_all(np.array(look, np.float64), BASE, *_COLUMNS))


def columns() -> tuple[NDArray[Any], ...]:
    """The nodes as the kernel takes them."""
    whole = (np.array(column, np.int64) for column in (ROOTS, NUMBERS, ABOVE, MISSING))
    return (*whole, np.array(BOUNDS, np.float64), np.array(MEANS, np.float64))


_COLUMNS = columns()


@numba.njit(cache=True)
def _down_all(look, base, roots, numbers, above, missing, bounds, means):  # type: ignore[no-untyped-def]
    """`_after` from every root down to a leaf, added up."""
    total = base
    for node in roots:
        while numbers[node] >= 0:
            value = look[numbers[node]]
            lower = missing[node] != 0 if value != value else value <= bounds[node]
            node = node + 1 if lower else above[node]
        total += means[node]
    return total


def _after(node: int, look: Sequence[float]) -> int:
    value = look[NUMBERS[node]]
    lower = MISSING[node] if value != value else value <= BOUNDS[node]
    return node + 1 if lower else ABOVE[node]


def terms_of(look: Sequence[float]) -> dict[int, float]:
    """What each number added to the odds on its way down the trees, the largest first (the path's changes of the mean;
    Saabas' way, from memory); with BASE and the means of the roots they add up to `odds_of`.
    """
    terms: dict[int, float] = {}
    for node in ROOTS:
        while NUMBERS[node] >= 0:
            after = _after(node, look)
            terms[NUMBERS[node]] = terms.get(NUMBERS[node], 0.0) + MEANS[after] - MEANS[node]
            node = after
    return dict(sorted(terms.items(), key=lambda item: -abs(item[1])))


def chance(odds: float) -> float:
    """The chance behind the logarithm of some odds."""
    return 1 / (1 + math.exp(-max(-60.0, min(60.0, odds))))


def odds(share: float) -> float:
    """The logarithm of the odds of a chance between 0 and 1."""
    return math.log(share / (1 - share)) if 0 < share < 1 else math.copysign(math.inf, share - 0.5)

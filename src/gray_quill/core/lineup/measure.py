"""Every criterion of every candidate, on every block."""

import dataclasses
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from typing import Any

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import GrayQuillError, InputError
from gray_quill.core.lineup.case import Candidate, Case, Ground
from gray_quill.core.lineup.criteria import CRITERIA
from gray_quill.core.lineup.criterion import ONCE
from gray_quill.core.pen.recipe import Recipe

Values = list[list[float | None]]  # by criterion and block; None where it cannot be told
Runs = Callable[[Callable[[Any], Any], Iterable[Any]], Iterator[Any]]  # like the builtin map; may be that of a pool
MOST_CANDIDATES = 200


@dataclasses.dataclass(frozen=True)
class Measured:
    """criteria: their keys; values: by candidate, criterion and block of its ground."""

    candidates: list[str]
    criteria: list[str]
    values: list[Values]

    def array(self) -> Floats:
        """Shape (candidates, criteria, blocks), what cannot be told as NaN; as many blocks as the longest ground."""
        blocks = max(len(row) for values in self.values for row in values)
        out = np.full((len(self.candidates), len(self.criteria), blocks), np.nan)
        for c, values in enumerate(self.values):
            for k, row in enumerate(values):
                out[c, k, : len(row)] = [np.nan if v is None else v for v in row]
        return out


def check_candidates(candidates: Sequence[Candidate]) -> None:
    """Raises InputError for too few, too many or the same twice."""
    check_pens([one.name for one in candidates], [one.key for one in candidates])


def check_pens(names: Sequence[str], keys: Sequence[str]) -> None:
    """The same of what is told apart by its keys."""
    if len(keys) < 2:
        raise InputError("A line-up compares at least two. Choose another pen beside this one.", "candidates")
    if len(keys) > MOST_CANDIDATES:
        raise InputError(f"A line-up takes up to {MOST_CANDIDATES}. Leave some out, or make two.", "candidates")
    seen: set[str] = set()
    for name, key in zip(names, keys, strict=True):
        if key in seen:
            raise InputError(f"{name!r} is named twice. Name each candidate once.", "candidates")
        seen.add(key)


def measure(
    candidates: Sequence[Candidate],
    grounds: Sequence[Ground],
    progress: Callable[[float], object] = lambda _: None,
    runs: Runs = map,
    so_far: Callable[[Measured], object] = lambda _: None,
) -> Measured:
    """Candidates on their grounds. `progress` is told the share that is done; what it raises ends the measuring.
    `so_far` is given what is measured of those that are done, in their order.
    """
    check_candidates(candidates)
    shared: list[dict[str, list[float | None]]] = []
    for of_ground in runs(measure_ground, grounds):
        shared.append(of_ground)
        progress(0.0)
    order = sorted(
        range(len(candidates)), key=lambda k: candidates[k].ground
    )  # what is read of a ground's letters stays
    work = [(candidates[k].recipe, grounds[candidates[k].ground], shared[candidates[k].ground]) for k in order]
    values: dict[int, Values] = {}
    for k, found in zip(order, runs(measure_one, work), strict=True):
        values[k] = found
        so_far(_measured(candidates, values))
        progress(len(values) / len(work))
    return _measured(candidates, values)


def _measured(candidates: Sequence[Candidate], values: Mapping[int, Values]) -> Measured:
    done = sorted(values)
    return Measured([candidates[k].key for k in done], list(CRITERIA), [values[k] for k in done])


def measure_one(work: tuple[Recipe, Ground, dict[str, list[float | None]]]) -> Values:
    """A recipe on a ground, by criterion; `shared`: what is the same for all on it."""
    recipe, ground, shared = work
    cases = [Case(recipe, ground, k) for k in range(len(ground.blocks))]
    return [shared.get(key) or _of(key, cases) for key in CRITERIA]


def measure_ground(ground: Ground) -> dict[str, list[float | None]]:
    """What is the same for all candidates on a ground, by criterion."""
    cases = [Case(Recipe(), ground, k) for k in range(len(ground.blocks))]
    return {key: _of(key, cases) for key, criterion in CRITERIA.items() if criterion.of_ground}


def _of(key: str, cases: Sequence[Case]) -> list[float | None]:
    criterion = CRITERIA[key]
    if criterion.often == ONCE:
        return [_told(criterion.measured, cases[0])] * len(cases)
    return [_told(criterion.measured, case) for case in cases]


def _told(measured: Callable[[Case], float | None], case: Case) -> float | None:
    try:
        value = measured(case)
    except (GrayQuillError, ValueError, ZeroDivisionError):
        return None  # a block this criterion cannot be read on
    return value if value is not None and np.isfinite(value) else None

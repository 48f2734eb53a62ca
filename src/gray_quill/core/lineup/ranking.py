"""Who comes before whom, by which criterion, and how sure that is.

Uncertainty: the bootstrap over blocks (Efron and Tibshirani, An Introduction to the Bootstrap, 1993, chapter 13), the
same blocks drawn for every candidate, so that what a block does to all of them does not count as a difference. For the
few blocks there are the percentile interval is expanded by t over z and by the root of n over n - 1 (Hesterberg, What
Teachers Should Know About the Bootstrap, The American Statistician 69, 2015, section 5.5).
"""

import dataclasses
from collections.abc import Mapping, Sequence

import numpy as np
from scipy import special

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import InputError
from gray_quill.core.lineup.criteria import CRITERIA
from gray_quill.core.lineup.criterion import Criterion
from gray_quill.core.lineup.measure import Measured
from gray_quill.core.lineup.presets import shares

DRAWS, SEED = 600, 1
SURE = 0.95
SAME = 1e-9  # points that are no difference
EDGE = 0.005  # share of the bar under which a criterion does not count any more


@dataclasses.dataclass(frozen=True)
class Must:
    """A criterion every candidate has to reach: at least, or at most, by which way of it is better."""

    criterion: str
    bound: float


@dataclasses.dataclass(frozen=True)
class Scored:
    """A criterion of one's own, scored by hand: 0 to 100 by candidate, and why."""

    name: str
    points: dict[str, float]
    note: str = ""


@dataclasses.dataclass(frozen=True)
class Part:
    """value: what was measured, None for what was scored by hand; points: 0 to 100; part: of the total."""

    criterion: str
    value: float | None
    points: float
    part: float


@dataclasses.dataclass(frozen=True)
class Lift:
    """The smallest change of one reading that lifts a candidate a place, if all else stays."""

    criterion: str
    now: float
    needed: float


@dataclasses.dataclass(frozen=True)
class Crossing:
    """The share of the bar a weight has, and the one from which a candidate is level with the one above it."""

    criterion: str
    share: float
    until: float


@dataclasses.dataclass(frozen=True)
class Place:
    """place: from 1, 0 for who is out; total with its interval; tied: with the one above, so far as can be told; same:
    nothing told of them differs. out: the must it missed.
    """

    candidate: str
    place: int
    total: float
    low: float
    high: float
    told: list[Part]
    tied: bool = False
    same: bool = False
    strength: str = ""
    weakness: str = ""
    cost: str = ""
    lift: Lift | None = None
    crossing: Crossing | None = None
    out: str = ""


@dataclasses.dataclass(frozen=True)
class Ranking:
    """aside: criteria with weight that do not count, as they cannot be told of these candidates. blocks: how many the
    interval rests on.
    """

    places: list[Place]
    aside: dict[str, list[str]]
    blocks: int


class Table:
    """Points of candidates by criterion, on the whole and in each draw of blocks; made once, ranked at will."""

    def __init__(self, measured: Measured, own: Sequence[Scored] = (), seed: int = SEED) -> None:
        self.candidates = measured.candidates
        self.keys = [*measured.criteria, *(one.name for one in own)]
        self.values = measured.array()
        self.blocks = self.values.shape[2]
        rng = np.random.default_rng(seed)
        draws = rng.integers(0, self.blocks, (DRAWS, self.blocks))
        counts = np.stack([(draws == b).sum(axis=1) for b in range(self.blocks)], axis=1).astype(float)
        there = ~np.isnan(self.values)
        plain = np.where(there, self.values, 0.0)
        told = np.einsum("db,ckb->dck", counts, there.astype(float))
        with np.errstate(invalid="ignore", divide="ignore"):
            drawn = np.einsum("db,ckb->dck", counts, plain) / told
            self.means = plain.sum(axis=2) / there.sum(axis=2)
        drawn = np.where(np.isnan(drawn), self.means[None], drawn)  # no block of a draw tells it
        criteria = [CRITERIA[key] for key in measured.criteria]
        by_hand = np.array([[one.points.get(c, np.nan) for one in own] for c in self.candidates], float)
        by_hand = by_hand.reshape(len(self.candidates), len(own))
        self.points = np.concatenate((_points(criteria, self.means), by_hand), axis=1)
        some = np.broadcast_to(by_hand, (DRAWS, *by_hand.shape))
        self.drawn = np.concatenate((_points(criteria, drawn), some), axis=2)


def points_of(measured: Measured) -> list[list[float | None]]:
    """Points of each candidate by criterion, None where it cannot be told."""
    return [[None if np.isnan(p) else float(p) for p in row] for row in Table(measured).points]


def _points(criteria: Sequence[Criterion], values: Floats) -> Floats:
    nothing, all_ = (np.array([getattr(c, end) for c in criteria]) for end in ("nothing", "all"))
    return np.asarray(100 * np.clip((values - nothing) / (all_ - nothing), 0, 1))


def rank(
    table: Table, weights: Mapping[str, float], musts: Sequence[Must] = (), among: Sequence[str] | None = None
) -> Ranking:
    """Rank candidates, or those `among` them. A criterion counts only where it can be told of each that is ranked:
    otherwise it is set aside for all, and said. Raises InputError for weights that sum to nothing and unknown names.
    """
    unknown = next((key for key in [*weights, *(m.criterion for m in musts)] if key not in table.keys), None)
    if unknown is not None:
        raise InputError(f"There is no criterion {unknown!r}. Choose among {', '.join(table.keys)}.", "weights")
    if not any(w > 0 for w in weights.values()):
        raise InputError("These weights sum to nothing. Give one of them a share.", "weights")
    here = [c for c, key in enumerate(table.candidates) if among is None or key in among]
    outs = {c: _missed(table, c, musts) for c in here}
    ranked = [c for c in here if not outs[c]]
    aside = {
        key: [table.candidates[c] for c in ranked if np.isnan(table.points[c, k])]
        for k, key in enumerate(table.keys)
        if weights.get(key, 0) > 0 and np.isnan(table.points[ranked, k]).any()
    }
    counted = [k for k, key in enumerate(table.keys) if weights.get(key, 0) > 0 and key not in aside]
    if not counted and ranked:
        raise InputError(
            "Nothing that has weight can be told of all of these. Give weight to another criterion, or group by kind.",
            "weights",
        )
    share = shares({table.keys[k]: weights[table.keys[k]] for k in counted}) if counted else {}
    w = np.array([share[table.keys[k]] for k in counted])
    totals = {c: float(table.points[c, counted] @ w) for c in ranked}
    order = sorted(ranked, key=lambda c: (-round(totals[c], 9), table.candidates[c]))
    drawn = table.drawn[:, :, counted] @ w if counted else np.zeros((DRAWS, len(table.candidates)))
    places = [_place(table, order, n, counted, w, totals, drawn) for n in range(len(order))]
    places += [_out(table, c, outs[c]) for c in here if outs[c]]
    return Ranking(places, aside, table.blocks)


def _missed(table: Table, c: int, musts: Sequence[Must]) -> str:
    """The first must a candidate misses, in words; "" for none. What cannot be told is not reached."""
    for must in musts:
        k = table.keys.index(must.criterion)
        known = CRITERIA.get(must.criterion)
        value = table.means[c, k] if known else table.points[c, k]
        less = known is not None and known.better == "less"
        if np.isnan(value):
            return f"{must.criterion} cannot be told, and must be {'at most' if less else 'at least'} {must.bound:g}"
        if (value > must.bound) if less else (value < must.bound):
            return f"{must.criterion} is {value:.3g}, and must be {'at most' if less else 'at least'} {must.bound:g}"
    return ""


def _expanded(at: float, drawn: Floats, blocks: int) -> tuple[float, float]:
    """An interval of a mean of so many blocks."""
    if blocks < 2:
        return -np.inf, np.inf
    grown = np.sqrt(blocks / (blocks - 1)) * special.stdtrit(blocks - 1, (1 + SURE) / 2) / special.ndtri((1 + SURE) / 2)
    low, high = np.percentile(drawn, (50 * (1 - SURE), 50 * (1 + SURE)))
    return float(at + grown * (low - at)), float(at + grown * (high - at))


def _tells(table: Table, c: int, k: int, part: float) -> Part:
    value = float(table.means[c, k]) if k < table.means.shape[1] else None
    return Part(table.keys[k], value, float(table.points[c, k]), part)


def _place(
    table: Table,
    order: Sequence[int],
    n: int,
    counted: Sequence[int],
    w: Floats,
    totals: Mapping[int, float],
    drawn: Floats,
) -> Place:
    c, above = order[n], order[n - 1] if n else None
    mine = table.points[c, counted]
    low, high = _expanded(totals[c], drawn[:, c], table.blocks)
    lead = w * (mine - table.points[np.ix_(order, counted)].mean(axis=0))
    keys = [table.keys[k] for k in counted]
    strength, weakness = int(np.argmax(lead)), int(np.argmin(lead))
    told = [_tells(table, c, k, float(w[i] * mine[i])) for i, k in enumerate(counted)]
    place = Place(table.candidates[c], n + 1, totals[c], max(0.0, low), min(100.0, high), told)
    place = dataclasses.replace(
        place,
        strength=keys[strength] if lead[strength] > SAME else "",
        weakness=keys[weakness] if lead[weakness] < -SAME else "",
    )
    if above is None:
        return place
    theirs = table.points[above, counted]
    lost = w * (theirs - mine)
    gap = totals[above] - totals[c]
    least, _ = _expanded(gap, drawn[:, above] - drawn[:, c], table.blocks)
    return dataclasses.replace(
        place,
        tied=bool(least <= SAME),
        same=bool(np.abs(theirs - mine).max() <= SAME),
        cost=keys[int(np.argmax(lost))] if lost.max() > SAME else "",
        lift=_lift(table, c, counted, w, gap),
        crossing=_crossing(keys, w, theirs - mine, gap),
    )


def _lift(table: Table, c: int, counted: Sequence[int], w: Floats, gap: float) -> Lift | None:
    """By the criterion of which the smallest share of its scale is missing; None where no single one suffices."""
    best: tuple[float, Lift] | None = None
    for i, k in enumerate(counted):
        known = CRITERIA.get(table.keys[k])
        if known is None or w[i] <= 0:
            continue
        now, needed = table.points[c, k], table.points[c, k] + gap / w[i]
        if needed > 100 + SAME or (best is not None and needed - now >= best[0]):
            continue
        best = needed - now, Lift(known.key, float(table.means[c, k]), known.value_at(min(100.0, needed)))
    return best[1] if best else None


def _crossing(keys: Sequence[str], w: Floats, leads: Floats, gap: float) -> Crossing | None:
    """The weight that has to move least until both are level, the others keeping theirs between them; None where none
    of them can do it short of being all or nothing.
    """
    best: tuple[float, Crossing] | None = None
    for i, key in enumerate(keys):
        # total of the lead with share s of this one: s * leads[i] + (1 - s) * rest
        rest = (gap - w[i] * leads[i]) / (1 - w[i]) if w[i] < 1 - SAME else 0.0
        if abs(leads[i] - rest) <= SAME:
            continue
        until = -rest / (leads[i] - rest)
        if not EDGE <= until <= 1 - EDGE or (best is not None and abs(until - w[i]) >= best[0]):
            continue
        best = abs(until - w[i]), Crossing(key, float(w[i]), float(until))
    return best[1] if best else None


def _out(table: Table, c: int, missed: str) -> Place:
    told = [_tells(table, c, k, 0.0) for k in range(len(table.keys)) if not np.isnan(table.points[c, k])]
    return Place(table.candidates[c], 0, 0.0, 0.0, 0.0, told, out=missed)


def pareto(points: Sequence[tuple[float, float]]) -> list[bool]:
    """Which are beaten by no other in both (more is better): at least as good in each, and better in one."""
    at = np.array(points, float).reshape(-1, 2)
    least, better = (at[None] >= at[:, None]).all(axis=2), (at[None] > at[:, None]).any(axis=2)
    return [not row.any() for row in np.asarray(least & better, bool)]

"""Tuning by choosing: which two to show next, and what the choices so far say.

Of the places that are liked best so far the two are shown whose answer tells most (Houlsby, Huszar, Ghahramani and
Lengyel, Bayesian active learning for classification and preference learning, 2011): it teaches where it counts. All of
it follows from the answers and a seed, so that a session can be left, gone back in and resumed.
"""

import dataclasses
from collections.abc import Callable, Sequence

import numpy as np
from scipy import special

from gray_quill.core.arrays import Floats
from gray_quill.core.lineup.preference import Judged, Likings, learnt

POOL = 128
LAPSE = 0.1  # share of answers that nothing foretells (Wichmann and Hill, 2001), for what an answer may tell
BEST_SHARE = 10  # of the places looked at, one in so many may be shown: those that are liked best
DRAWN, DRAWN_SHARE = np.polynomial.hermite_e.hermegauss(12)
DRAWN_SHARE = DRAWN_SHARE / DRAWN_SHARE.sum()
REPEATS_EVERY = 8  # questions, of which one is asked again, the other way round
SURE = 0.95  # from which a pen is named
NAMED = 1.0  # standard errors from which a direction is named
ENOUGH = 15


@dataclasses.dataclass(frozen=True)
class Pair:
    """repeats: the question this asks again, None for a new one."""

    one: tuple[float, ...]
    other: tuple[float, ...]
    repeats: int | None = None


@dataclasses.dataclass(frozen=True)
class GoesBy:
    """How far along a direction what is preferred lies, -1..1, and how many standard errors what is liked of it is."""

    direction: int
    by: float
    errors: float


@dataclasses.dataclass(frozen=True)
class Preferred:
    """at: the place liked best; sure: the chance that it is liked more than where the search began; consistent: share
    of questions asked twice that were answered alike, None before there was one; asked_twice: how many.
    """

    at: tuple[float, ...]
    sure: float
    goes_by: list[GoesBy]
    consistent: float | None
    asked_twice: int

    @property
    def told(self) -> bool:
        """Whether a pen is named: it is surely liked more, by something, and what was asked twice holds together."""
        holds = self.consistent is None or self.asked_twice < 2 or self.consistent >= 0.5
        return self.sure >= SURE and bool(self.goes_by) and holds


Allowed = Callable[[Sequence[float]], bool]
NEAR, NEAR_SD = 48, (0.35, 0.15)  # places round the best so far that are looked at too
MOST_ASKED = 12  # places of one pair of which it is asked
MOST_LOOKED = 24  # places of which it is asked whether they may be shown
CLOSER = (0.35, 0.2, 0.12, 0.07, 0.04)  # steps in which the best is looked for


def every(at: Sequence[float]) -> bool:
    """All places may be shown."""
    return True


def pool(directions: int, seed: int) -> Floats:
    """Places to choose among: where the search begins first, then spread evenly over the box (Sobol)."""
    # late: scipy.stats takes most of a second to import, which a start need not wait for
    from scipy.stats.qmc import Sobol

    spread = Sobol(directions, seed=np.random.default_rng(seed)).random(POOL) * 2 - 1
    near = spread[: POOL // 4] * 0.5
    return np.concatenate((np.zeros((1, directions)), near, spread)).round(3).astype(np.float64)


def _and_near(liking: Likings, places: Floats, rng: np.random.Generator) -> Floats:
    """Places, and some round the one that is liked best of them."""
    best = places[int(np.argmax(liking.at(places)[0]))]
    steps = np.repeat(NEAR_SD, NEAR // len(NEAR_SD))[:, None] * rng.normal(size=(NEAR, places.shape[1]))
    return np.concatenate((places, np.clip(best + steps, -1, 1).round(3)))


def next_pair(judged: Sequence[Judged], places: Floats, seed: int, allowed: Allowed = every) -> Pair:
    """The pair to be shown after these answers."""
    asked = len(judged)
    rng = np.random.default_rng([seed, asked])
    if asked and asked % REPEATS_EVERY == REPEATS_EVERY - 1:
        again = int(rng.integers(max(0, asked - REPEATS_EVERY), asked - 1))
        return Pair(judged[again].other, judged[again].one, again)
    if not asked:
        return _beside_the_start(places, rng, allowed)
    liking = learnt(judged)
    wider = _and_near(liking, places, rng)
    mean, cov = liking.at(wider)
    best = np.argsort(-mean, kind="stable")[: max(4, len(wider) // BEST_SHARE)]
    wider = wider[best]
    told = _told_by(mean[best], cov[np.ix_(best, best)])
    told[np.tril_indices(len(wider))] = -np.inf
    may: dict[int, bool] = {}  # asked of a few: it takes longer than all the rest

    def shown(k: int) -> bool:
        if k not in may and len(may) < MOST_ASKED:
            may[k] = allowed(wider[k].tolist())
        return may.get(k, False)

    for at in np.argsort(told, axis=None)[::-1]:
        a, b = divmod(int(at), len(wider))
        if told[a, b] == -np.inf:
            break
        if (wider[a] != wider[b]).any() and shown(a) and shown(b):
            return _shown(wider[a], wider[b], rng)
    return _beside_the_start(places, rng, allowed)  # none of the best is a pen of its kind


def _beside_the_start(places: Floats, rng: np.random.Generator, allowed: Allowed) -> Pair:
    order = rng.permutation(np.arange(1, len(places))).tolist()
    return _shown(places[0], places[next((k for k in order if allowed(places[k].tolist())), order[0])], rng)


def _told_by(mean: Floats, cov: Floats) -> Floats:
    """What an answer about each two is expected to tell, nats: how open it is, less how open it were if what is liked
    were known.
    """
    spread = np.sqrt(np.maximum(np.diag(cov)[:, None] + np.diag(cov)[None, :] - 2 * cov, 1e-12))
    lead = mean[:, None] - mean[None, :]
    open_, known = np.zeros_like(lead), np.zeros_like(lead)
    for at, share in zip(DRAWN, DRAWN_SHARE, strict=True):
        chance = LAPSE / 2 + (1 - LAPSE) * special.ndtr(lead + spread * at)
        open_ += share * chance
        known += share * _entropy(chance)
    return np.asarray(_entropy(open_) - known)


def _entropy(chance: Floats) -> Floats:
    return np.asarray(special.entr(chance) + special.entr(1 - chance))


def random_pair(places: Floats, asked: int, seed: int) -> Pair:
    """Any pair, to be compared with."""
    rng = np.random.default_rng([seed, asked, 1])
    a, b = rng.choice(len(places), 2, replace=False)
    return Pair(tuple(places[a].tolist()), tuple(places[b].tolist()))


def _shown(one: Floats, other: Floats, rng: np.random.Generator) -> Pair:
    """Either at either side."""
    if rng.random() < 0.5:
        one, other = other, one
    return Pair(tuple(one.tolist()), tuple(other.tolist()))


def preferred(
    judged: Sequence[Judged],
    places: Floats,
    repeats: Sequence[int | None] = (),
    seed: int = 1,
    allowed: Allowed = every,
) -> Preferred:
    """What is liked best of the places and round them, and what it seems to go by. repeats: of each answer, the
    question it answered again.
    """
    liking = learnt(judged)
    best = _best(liking, places, np.random.default_rng([seed, len(judged), 2]), allowed)
    start = np.zeros_like(best)
    sure, _ = liking.better(best, start) if (best != start).any() else (0.5, 0.0)
    twice = [(judged[k].answer, judged[again].answer) for k, again in enumerate(repeats) if again is not None]
    alike = float(np.mean([now == -before for now, before in twice])) if twice else None
    return Preferred(tuple(best.tolist()), sure, _goes_by(liking, best), alike, len(twice))


def _best(liking: Likings, places: Floats, rng: np.random.Generator, allowed: Allowed) -> Floats:
    """The place liked best, looked for round the best so far in ever smaller steps."""
    at = _first(places, liking, allowed, places[0])
    for step in CLOSER:
        near = np.clip(at + step * rng.normal(size=(NEAR, len(at))), -1, 1).round(3)
        at = _first(np.concatenate((at[None], near)), liking, allowed, at)
    return np.asarray(at, np.float64)


def _first(places: Floats, liking: Likings, allowed: Allowed, else_: Floats) -> Floats:
    """The place liked best that may be shown."""
    order = np.argsort(-liking.at(places)[0], kind="stable")
    return next((places[k] for k in order[:MOST_LOOKED] if allowed(places[k].tolist())), else_)


def _goes_by(liking: Likings, best: Floats) -> list[GoesBy]:
    """Of each direction: what going back in it alone would cost, in its standard errors; the surest first."""
    found = []
    for d, by in enumerate(best.tolist()):
        back = best.copy()
        back[d] = 0.0
        errors = liking.better(best, back)[1] if abs(by) > 1e-9 else 0.0
        if errors >= NAMED:
            found.append(GoesBy(d, by, errors))
    return sorted(found, key=lambda one: -one.errors)

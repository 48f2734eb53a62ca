"""Blind pairs: which two to show next, and what one judge's answers say, or several judges'.

Strengths are those of Bradley and Terry with ties (core/lineup/bradley_terry.py). The next pair is the one whose answer
teaches most about them (Glickman and Jensen, Adaptive paired comparison experimental design, Journal of Statistical
Planning and Inference 127, 2005): where what is not known of two, and how open the answer is, are both large. Now and
then the same is shown twice, as a check on the judge.
"""

import dataclasses
import math
from collections.abc import Sequence

import numpy as np
from scipy import special

from gray_quill.core.lineup.bradley_terry import Strengths, chances, fit, table

CHECK_EVERY = 8  # questions, of which one shows the same twice
PRIOR = 0.3  # precision of what is thought of a strength before anybody judged, for choosing pairs only
SURE = 0.95
Z = float(special.ndtri(0.5 + SURE / 2))
MOST_MORE = 200  # pairs that nobody would judge
EVERY_FIT, FITS_EVERY = 60, 6  # answers up to which each is foretold anew, and how often after


@dataclasses.dataclass(frozen=True)
class Answer:
    """The two that were shown, by number, and which was chosen: 1 the first, -1 the second, 0 no difference. Of one and
    the same the two numbers are equal.
    """

    first: int
    second: int
    answer: int

    @property
    def checks(self) -> bool:
        return self.first == self.second


@dataclasses.dataclass(frozen=True)
class PenJudged:
    """A revision of a pen that is judged."""

    pen_id: str
    revision: int


@dataclasses.dataclass(frozen=True)
class Pairs:
    """One judge's answers about some pens on the line of a sheet."""

    judge: str
    pens: list[PenJudged]
    sheet_id: str
    seed: int
    answers: list[Answer]

    @property
    def of(self) -> tuple[str, frozenset[PenJudged]]:
        """What belongs together: the same pens on the same line."""
        return self.sheet_id, frozenset(self.pens)

    def answers_by(self, pens: Sequence[PenJudged]) -> list[Answer]:
        """The answers with the pens numbered as in `pens`."""
        at = [pens.index(pen) for pen in self.pens]
        return [Answer(at[a.first], at[a.second], a.answer) for a in self.answers]


@dataclasses.dataclass(frozen=True)
class Ranked:
    """theta: ln strength, mean 0, with its interval; tied: not told apart from the one before."""

    candidate: int
    theta: float
    low: float
    high: float
    tied: bool


@dataclasses.dataclass(frozen=True)
class Judge:
    """How one judges. chance: at most that of answers at random to be so well foretold, None before there are two;
    agrees: share of pairs seen more than once that were answered alike, None before there was one, of how many;
    checked: share of checks in which the same was called no different.
    """

    answers: int
    chance: float | None
    agrees: float | None
    twice: int
    checked: float | None
    checks: int

    @property
    def at_random(self) -> bool:
        """Whether nothing tells these answers from such as were given at random."""
        return self.chance is None or self.chance > 1 - SURE


def next_pair(answers: Sequence[Answer], count: int, seed: int) -> tuple[int, int]:
    """The two of `count` candidates to show next, either at either side; twice the same for a check."""
    asked = len(answers)
    rng = np.random.default_rng([seed, asked])
    if asked % CHECK_EVERY == CHECK_EVERY - 1:
        one = int(rng.integers(count))
        return one, one
    wins, ties = table(count, [(a.first, a.second, a.answer) for a in answers if not a.checks])
    known = fit(wins, ties, PRIOR)
    gain = np.full((count, count), -np.inf)
    for a in range(count):
        for b in range(a + 1, count):
            up, down, _ = chances(known, a, b)
            open_ = ((up + down) - (up - down) ** 2) / 4
            unknown = known.cov[a, a] + known.cov[b, b] - 2 * known.cov[a, b]
            gain[a, b] = np.log1p(open_ * unknown) * (1 + 0.01 * rng.random())  # which of equals is left to the seed
    last = next((a for a in reversed(answers) if not a.checks), None)
    if last is not None and count > 2:
        gain[min(last.first, last.second), max(last.first, last.second)] = -np.inf  # not twice in a row
    one, other = divmod(int(np.argmax(gain)), count)
    return (one, other) if rng.random() < 0.5 else (other, one)


def strengths_of(answers: Sequence[Answer], count: int) -> Strengths:
    wins, ties = table(count, [(a.first, a.second, a.answer) for a in answers if not a.checks])
    return fit(wins, ties)


def ranked(known: Strengths) -> list[Ranked]:
    """The strongest first."""
    order = np.argsort(-known.theta, kind="stable")
    found: list[Ranked] = []
    for n, k in enumerate(order.tolist()):
        before = int(order[n - 1])
        theta, error = float(known.theta[k]), float(known.error[k])
        tied = n > 0 and abs(known.theta[before] - theta) <= Z * _apart(known, before, k)
        found.append(Ranked(k, theta, theta - Z * error, theta + Z * error, bool(tied)))
    return found


def _apart(known: Strengths, a: int, b: int) -> float:
    """Standard error of the difference of two strengths."""
    return float(np.sqrt(max(known.cov[a, a] + known.cov[b, b] - 2 * known.cov[a, b], 0.0)))


def more_needed(known: Strengths, asked: int) -> int | None:
    """How many more pairs would tell the first from the second, if they are as far apart as they seem: none where they
    are told apart, None where more than MOST_MORE.
    """
    first, second = np.argsort(-known.theta, kind="stable")[:2].tolist()
    lead, error = float(known.theta[first] - known.theta[second]), _apart(known, first, second)
    if asked and lead > Z * error:
        return 0
    if not asked or lead <= 0 or error == 0:
        return None
    more = int(np.ceil(asked * ((Z * error / lead) ** 2 - 1)))
    return max(1, more) if more <= MOST_MORE else None


def judge_of(answers: Sequence[Answer], count: int) -> Judge:
    """How one judges."""
    checks = [a for a in answers if a.checks]
    judged = [a for a in answers if not a.checks]
    seen: dict[tuple[int, int], list[int]] = {}
    for a in judged:
        key, turn = ((a.first, a.second), 1) if a.first < a.second else ((a.second, a.first), -1)
        seen.setdefault(key, []).append(turn * a.answer)
    again = [now == all_[0] for all_ in seen.values() for now in all_[1:]]
    return Judge(
        len(answers),
        _at_random(judged, count),
        float(np.mean(again)) if again else None,
        len(again),
        float(np.mean([a.answer == 0 for a in checks])) if checks else None,
        len(checks),
    )


def _at_random(judged: Sequence[Answer], count: int) -> float | None:
    """At most the chance that answers at random, whatever pairs they led to, would be foretold as well by those before
    them (Ville's inequality for the product of what each was given against evens; Shafer, Testing by betting, Journal
    of the Royal Statistical Society A 184, 2021).
    """
    wins, ties = np.zeros((count, count)), np.zeros((count, count))
    known, told, most, decided = None, 0.0, 0.0, 0
    for one in judged:
        if not one.answer:
            ties[one.first, one.second] += 1
            ties[one.second, one.first] += 1
            continue
        if decided and (decided < EVERY_FIT or decided % FITS_EVERY == 0):
            known = fit(wins, ties, PRIOR)
        if known is not None:
            told += math.log(2 * _given(known, one))
            most = max(most, told)
        decided += 1
        wins[(one.first, one.second) if one.answer > 0 else (one.second, one.first)] += 1
    return math.exp(-most) if decided > 1 else None


def _given(known: Strengths, one: Answer) -> float:
    """The chance a decided answer was given by what was known, drawn to evens by how little that is (MacKay, The
    evidence framework applied to classification networks, Neural Computation 4, 1992).
    """
    lead = float(known.theta[one.first] - known.theta[one.second])
    unknown = _apart(known, one.first, one.second) ** 2
    return float(special.expit(one.answer * lead / math.sqrt(1 + math.pi * unknown / 8)))


def agreement(judges: Sequence[Strengths]) -> float | None:
    """Mean of Kendall's tau-b between the strengths of each two judges, -1..1; None for fewer than two."""
    from scipy.stats import kendalltau  # late, as in choosing.py

    taus = [
        float(kendalltau(one.theta, other.theta).statistic) for n, one in enumerate(judges) for other in judges[n + 1 :]
    ]
    told = [tau for tau in taus if np.isfinite(tau)]
    return float(np.mean(told)) if told else None


def beside(known: Strengths, totals: Sequence[float]) -> tuple[float, float] | None:
    """Kendall's tau-b and Spearman's rho between judged strengths and measured totals; None where either is level."""
    if len(totals) < 3 or np.ptp(totals) == 0 or np.ptp(known.theta) == 0:
        return None
    from scipy.stats import kendalltau, spearmanr  # late, as in choosing.py

    tau, rho = kendalltau(known.theta, totals), spearmanr(known.theta, totals)
    return float(tau.statistic), float(rho.statistic)

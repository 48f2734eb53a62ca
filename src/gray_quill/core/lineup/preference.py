"""What somebody prefers, learnt from pairs: a Gaussian process of how much each place is liked, with probit choices.

Chu and Ghahramani, Preference learning with Gaussian processes, ICML 2005; inference by expectation propagation on the
differences that were judged (Rasmussen and Williams, Gaussian Processes for Machine Learning, 2006, algorithms 3.5 and
3.6, whose latent values are those differences here). What that leaves out where answers hang together is added to
second order (Opper, Paquet and Winther, Perturbative corrections for approximate inference in Gaussian latent variable
models, Journal of Machine Learning Research 14, 2013; formulas from memory, held by integrals in the tests). "No
difference" is a choice of its own: the differences within a threshold.
"""

import dataclasses
import math
from collections.abc import Sequence
from functools import cached_property

import numpy as np
from scipy import special

from gray_quill.core.arrays import Floats

ROUNDS, STILL = 30, 1e-6
JITTER = 1e-9
FARTHEST = 37.0  # standard errors beyond which chances are no numbers any more
WIDEST = 1e6  # variance of what nothing is known of
ROOT = math.sqrt(2 * math.pi)
SMALL = 0.1  # of ln evidence: a correction beyond is no correction, the series it is the head of does not end soon
REACH = 0.55  # how far from the middle of a direction an ideal may lie, standard deviation


@dataclasses.dataclass(frozen=True)
class Judged:
    """Two places, and which was chosen: 1 the first, -1 the second, 0 neither."""

    one: tuple[float, ...]
    other: tuple[float, ...]
    answer: int


@dataclasses.dataclass(frozen=True)
class Taste:
    """What is thought of a taste before anything is known. fall: how fast liking falls away from an ideal place
    (Coombs, A Theory of Data, 1964), in the judge's noise at a distance of a whole direction; spread: standard
    deviation of what no ideal explains; length: of a direction over which that changes.
    """

    fall: float
    spread: float
    length: float = 1.0

    def mean(self, a: Floats) -> Floats:
        """Of an ideal in the middle, which `cov` moves: -fall |x - ideal|^2, but for a constant."""
        return np.asarray(-self.fall * (a**2).sum(axis=1))

    def cov(self, a: Floats, b: Floats) -> Floats:
        apart = ((a[:, None, :] - b[None, :, :]) ** 2).sum(axis=2)
        moves = (2 * self.fall * REACH) ** 2 * (a @ b.T)
        return np.asarray(self.spread**2 * np.exp(-apart / (2 * self.length**2)) + moves)


TASTES = (
    Taste(0.0, 0.2),  # all much the same: answers at random
    *(Taste(fall, spread) for fall in (1.0, 3.0, 8.0, 20.0) for spread in (0.5, 1.5)),
    *(Taste(0.0, spread) for spread in (1.0, 3.0)),
)


INDIFFERENT = 0.5  # how likely the first of them is, before anything is known


def level_of(judged: Sequence[Judged]) -> float:
    """Threshold of "no difference" in the judge's noise: that of a judge to whom all is the same and who says so as
    often. Who never does is not thereby taken to like much.
    """
    ties = sum(one.answer == 0 for one in judged)
    share = (ties + 0.5) / (len(judged) + 1)
    return float(special.ndtri((1 + share) / 2))


class Liking:
    """The posterior of how much places are liked, up to a constant."""

    def __init__(self, judged: Sequence[Judged], taste: Taste, level: float) -> None:
        self.taste, self.level = taste, level
        self.one = np.array([j.one for j in judged], float)
        self.other = np.array([j.other for j in judged], float)
        self.answers = np.array([j.answer for j in judged])
        self._propagate()

    def _apart(self, a: Floats, b: Floats) -> Floats:
        """Covariance of differences (one - other) with the same of others."""
        k, (a1, a2), (b1, b2) = self.taste.cov, (a[0], a[1]), (b[0], b[1])
        return k(a1, b1) - k(a1, b2) - k(a2, b1) + k(a2, b2)

    def _propagate(self) -> None:
        """Sites exp(nu d - tau d^2 / 2) in place of the answers, each given the moments of its answer in turn."""
        n = len(self.answers)
        both = np.stack((self.one, self.other))
        self.prior = self._apart(both, both) + JITTER * np.eye(n)
        self.before = self.taste.mean(self.one) - self.taste.mean(self.other)
        self.tau, self.nu = np.zeros(n), np.zeros(n)
        self.cov, self.mean = self.prior.copy(), self.before.copy()
        self.holds = True
        for _ in range(ROUNDS):
            tau, nu = self.tau.copy(), self.nu.copy()
            for i in range(n):
                m, v = self._without(i)
                if not 0 < v < WIDEST:
                    continue
                _, slope, bend = _moments(m, v, int(self.answers[i]), self.level)
                told_v, told_m = max(v + v * v * bend, 1e-6 * v), m + v * slope
                change = 1 / told_v - 1 / v - self.tau[i]
                self.tau[i] += change
                self.nu[i] = told_m / told_v - m / v
                column = self.cov[:, i].copy()
                self.cov = self.cov - np.outer(column, column) * (change / (1 + change * column[i]))
                self.mean = self.before + self.cov @ (self.nu - self.tau * self.before)
            if not (np.abs(self.nu).max() < WIDEST and (np.diag(self.cov) > 0).all()):
                self.tau, self.nu = tau, nu  # as far as numbers hold: contradictions under a taste that knows none
                self.holds = False
            self._settle()
            if not self.holds or max(np.abs(self.tau - tau).max(), np.abs(self.nu - nu).max()) < STILL:
                break
        self._correct()

    def _settle(self) -> None:
        """The posterior of the differences anew from its sites, without what many updates lost."""
        widened = np.eye(len(self.tau)) + self.tau[:, None] * self.prior
        self.inner = np.linalg.solve(widened, np.diag(self.tau))  # (prior + 1 / tau) inverted, also where tau is 0
        self.ahead = np.linalg.solve(widened, self.nu - self.tau * self.before)
        cov = self.prior - self.prior @ self.inner @ self.prior
        self.cov = (cov + cov.T) / 2
        self.mean = self.before + self.prior @ self.ahead

    def _correct(self) -> None:
        """What the third to fifth cumulants of each answer's own posterior, by which it differs from its site, add to
        the means and to ln evidence where two differences go together.
        """
        self.more = 0.0
        apart = np.sqrt(np.diag(self.cov))
        if not self.holds or len(apart) < 2 or not np.isfinite(apart).all():
            return
        c3, c4, c5 = np.array([self._cumulants(i) for i in range(len(apart))]).T
        together = self.cov / np.outer(apart, apart) ** 2
        np.fill_diagonal(together, 0.0)
        third, fourth = together**3, together**4
        more = float(c3 @ third @ c3 / 12 + c4 @ fourth @ c4 / 48)
        if not abs(more) < SMALL:
            return
        moved = (c4 * (third @ c3) / 6 + c5 * (fourth @ c4) / 24) / apart**2
        self.more = more
        self.ahead = self.ahead + moved - self.inner @ (self.prior @ moved)

    def _cumulants(self, i: int) -> tuple[float, float, float]:
        """Third, fourth and fifth of a difference given its own answer and the sites of all others, by differences of
        the second slope of ln chance.
        """
        m, v = self._without(i)
        if not 0 < v < WIDEST:
            return 0.0, 0.0, 0.0
        h = 0.05 * math.sqrt(1 + v)
        b = [_moments(m + k * h, v, int(self.answers[i]), self.level)[2] for k in (-2, -1, 0, 1, 2)]
        first = (b[0] - 8 * b[1] + 8 * b[3] - b[4]) / (12 * h)
        second = (-b[0] + 16 * b[1] - 30 * b[2] + 16 * b[3] - b[4]) / (12 * h * h)
        third = (-b[0] + 2 * b[1] - 2 * b[3] + b[4]) / (2 * h**3)
        return v**3 * first, v**4 * second, v**5 * third

    def _without(self, i: int) -> tuple[float, float]:
        """Mean and variance of a difference as all answers but its own have it."""
        tau = 1 / self.cov[i, i] - self.tau[i]
        v = 1 / tau if tau > 0 else WIDEST
        return v * (self.mean[i] / self.cov[i, i] - self.nu[i]), v

    @cached_property
    def evidence(self) -> float:
        """ln of how likely the answers are under this taste: that of the sites, each scaled to its answer, and what
        `_correct` adds.
        """
        if not self.holds:
            return -math.inf
        told = 0.0
        for i, answer in enumerate(self.answers):
            m, v = self._without(i)
            tau, nu = self.tau[i], self.nu[i]
            site = -math.log1p(tau * v) / 2 + ((nu + m / v) ** 2 / (tau + 1 / v) - m * m / v) / 2
            told += _moments(m, v, int(answer), self.level)[0] - site
        widened = np.eye(len(self.tau)) + self.tau[:, None] * self.prior
        given = self.nu - self.tau * self.before
        there = self.before @ self.nu - self.before @ (self.tau * self.before) / 2
        plain = told + there + given @ self.cov @ given / 2 - np.linalg.slogdet(widened)[1] / 2
        return float(plain + self.more)

    def at(self, places: Floats) -> tuple[Floats, Floats]:
        """Mean and covariance of how much places are liked, shapes (n,) and (n, n)."""
        k = self.taste.cov
        cross = k(places, self.one) - k(places, self.other)
        cov = k(places, places) - cross @ self.inner @ cross.T
        return np.asarray(self.taste.mean(places) + cross @ self.ahead), np.asarray(cov)


def _moments(m: float, v: float, answer: int, level: float) -> tuple[float, float, float]:
    """ln of the chance of an answer where the difference is normal of mean m and variance v, and its first two slopes
    by m. The judge's own noise has a variance of 1.
    """
    s = math.sqrt(1 + v)
    if answer:
        z = min(max((answer * m - level) / s, -FARTHEST), FARTHEST)
        told, dens = float(special.ndtr(z)), math.exp(-z * z / 2) / ROOT
        slope, bend = answer * dens / s, -z * dens / (s * s)
    else:
        up, down = (min(max(v / s, -FARTHEST), FARTHEST) for v in (level - m, -level - m))
        told = float(special.ndtr(up) - special.ndtr(down))
        p, q = math.exp(-up * up / 2) / ROOT, math.exp(-down * down / 2) / ROOT
        slope, bend = (q - p) / s, (q * down - p * up) / (s * s)
    chance = max(told, 1e-300)
    slope, bend = slope / chance, bend / chance
    return math.log(chance), slope, bend - slope * slope


def learnt(judged: Sequence[Judged]) -> "Likings":
    """What is liked under each of TASTES, weighed by how likely the answers are under it."""
    level = level_of(judged)
    return Likings([Liking(judged, taste, level) for taste in TASTES])


class Likings:
    """Several posteriors, weighed by their evidence."""

    def __init__(self, each: Sequence[Liking]) -> None:
        self.each = each
        before = [INDIFFERENT, *[(1 - INDIFFERENT) / (len(each) - 1)] * (len(each) - 1)]
        told = np.array([liking.evidence for liking in each]) + np.log(before)
        told[~np.isfinite(told)] = -np.inf
        weights = np.exp(told - told.max())
        self.weights = weights / weights.sum()

    def at(self, places: Floats) -> tuple[Floats, Floats]:
        """Mean and covariance of how much places are liked, shapes (n,) and (n, n), each less its mean over places."""
        count = len(places)
        mean, second = np.zeros(count), np.zeros((count, count))
        for weight, liking in zip(self.weights, self.each, strict=True):
            if weight < 1e-3:
                continue
            m, c = liking.at(places)
            m = m - m.mean()
            mean += weight * m
            second += weight * (c + np.outer(m, m))
        return mean, second - np.outer(mean, mean)

    def better(self, one: Floats, other: Floats) -> tuple[float, float]:
        """The chance that a place is liked more than another, and by how many standard errors where that is normal."""
        chance = 0.0
        for weight, liking in zip(self.weights, self.each, strict=True):
            mean, cov = liking.at(np.stack((one, other)))
            error = math.sqrt(max(cov[0, 0] + cov[1, 1] - 2 * cov[0, 1], 1e-12))
            chance += weight * float(special.ndtr((mean[0] - mean[1]) / error))
        return chance, float(special.ndtri(min(max(chance, 1e-9), 1 - 1e-9)))

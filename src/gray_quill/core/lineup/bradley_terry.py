"""Strengths from pairs that were judged, with ties.

Bradley and Terry, Biometrika 39 (1952); with ties: Davidson, On extending the Bradley-Terry model to accommodate ties,
Journal of the American Statistical Association 65 (1970): a beats b in a share of s_a / (s_a + s_b + n sqrt(s_a s_b)),
and they tie in a share of n sqrt(s_a s_b) over the same; n says how often.
"""

import dataclasses
from collections.abc import Sequence

import numpy as np
from scipy import sparse
from scipy.sparse import csgraph

from gray_quill.core.arrays import Floats

PULL = 0.05  # of a judgement: half a win and half a loss against the field, so that who never loses has an end
NEVER = -40.0  # ln n where nothing tied
ROUNDS = 60


@dataclasses.dataclass(frozen=True, eq=False)
class Strengths:
    """theta: ln strength of each, mean 0; error: standard errors; cov: their covariance; tie: n of Davidson; log
    likelihood. pulled: somebody never lost or never won, or nobody links two of them: all are pulled to the middle.
    """

    theta: Floats
    error: Floats
    cov: Floats
    tie: float
    log_likelihood: float
    pulled: bool


def fit(wins: Floats, ties: Floats, pull: float | None = None) -> Strengths:
    """wins[a, b]: how often a was chosen before b; ties[a, b], symmetric: how often neither. pull: precision of a prior
    round 0, None for none where the estimate is finite, and PULL where it is not.
    """
    count = len(wins)
    pulled = pull is None and not _connected(wins, ties)
    a, b = np.triu_indices(count, 1)
    won, lost, even = wins[a, b], wins[b, a], ties[a, b]
    meets = won + lost + even
    design = np.zeros((len(a), count))
    design[np.arange(len(a)), a], design[np.arange(len(a)), b] = 1.0, -1.0
    tied, decided = float(even.sum()), float((won + lost).sum())
    size = count + 1 if tied else count
    precision = np.zeros((size, size))
    precision[:count, :count] = (PULL if pulled else (pull or 0.0)) * (np.eye(count) - 1 / count)
    if tied and not decided:
        precision[count, count] = 1.0  # nothing but ties: how often is without end too

    def logs(at: Floats) -> Floats:
        """ln of the shares in which the first is chosen, the second, or neither."""
        ahead = (at[a] - at[b]) / 2
        level = at[count] if tied else NEVER
        larger = np.maximum(np.abs(ahead), level)
        whole = larger + np.log(np.exp(ahead - larger) + np.exp(-ahead - larger) + np.exp(level - larger))
        return np.array((ahead - whole, -ahead - whole, level - whole))

    def told(log_shares: Floats) -> float:
        up, down, level = log_shares
        return float(won @ up + lost @ down + even @ level)

    def slopes(at: Floats, log_shares: Floats) -> tuple[Floats, Floats]:
        """First and second slopes: the shares are log-linear, so that the second are those that are expected."""
        up, down, level = np.exp(log_shares)
        first = np.zeros(size)
        second = np.zeros((size, size))
        first[:count] = design.T @ (won - lost - meets * (up - down)) / 2
        second[:count, :count] = design.T @ (design * (meets * ((up + down) - (up - down) ** 2) / 4)[:, None])
        if tied:
            first[count] = float((even - meets * level).sum())
            second[:count, count] = second[count, :count] = -design.T @ (meets * (up - down) * level) / 2
            second[count, count] = float((meets * level * (1 - level)).sum())
        return first - precision @ at, second + precision

    at = np.zeros(size)
    if tied:
        at[count] = np.log(tied / max(decided, 1.0))
    now = logs(at)
    for _ in range(ROUNDS):
        first, second = slopes(at, now)
        step = np.linalg.pinv(second, rcond=1e-12) @ first
        here = told(now) - at @ precision @ at / 2
        while True:
            there, then = at + step, logs(at + step)
            if told(then) - there @ precision @ there / 2 >= here - 1e-12 or np.abs(step).max() <= 1e-12:
                break
            step = step / 2
        at, now = there, then
        if np.abs(step).max() < 1e-11:
            break
    centre = np.eye(count) - 1 / count
    cov = np.linalg.pinv(slopes(at, now)[1], rcond=1e-10)[:count, :count]
    apart: Floats = np.asarray(centre @ cov @ centre, dtype=np.float64)
    theta = np.asarray(at[:count] - at[:count].mean(), np.float64)
    error = np.asarray(np.sqrt(np.maximum(np.diag(apart), 0)), dtype=np.float64)
    return Strengths(theta, error, apart, float(np.exp(at[count])) if tied else 0.0, told(now), pulled)


def _connected(wins: Floats, ties: Floats) -> bool:
    """Whether each can be led back to each by who was chosen before whom (Ford, The American Mathematical Monthly
    64, 1957): then strengths are finite. A tie leads both ways.
    """
    graph = sparse.csr_array(((wins + ties) > 0).astype(np.int64))
    return int(csgraph.connected_components(graph, connection="strong")[0]) == 1


def chances(strengths: Strengths, a: int, b: int) -> tuple[float, float, float]:
    """That a is chosen, b is, or neither."""
    s, t = np.exp(strengths.theta[[a, b]])
    level = strengths.tie * np.sqrt(s * t)
    whole = s + t + level
    return float(s / whole), float(t / whole), float(level / whole)


def table(count: int, judged: Sequence[tuple[int, int, int]]) -> tuple[Floats, Floats]:
    """Wins and ties of answers: the two that were shown, and 1, -1 or 0 for the first, the second or neither."""
    wins, ties = np.zeros((count, count)), np.zeros((count, count))
    for a, b, answer in judged:
        if answer:
            wins[(a, b) if answer > 0 else (b, a)] += 1
        else:
            ties[a, b] += 1
            ties[b, a] += 1
    return wins, ties

"""Which criteria somebody goes by who judged pairs blind: weights that explain the answers best.

A pen is chosen before another by the logistic of what its criteria have ahead, weighed (Bradley and Terry with
explanatory variables: Springall, Applied Statistics 22, 1973); "no difference" counts half for either. Before anything
is known every weight may be either way; intervals are of the normal that fits at the best weights (Laplace).
"""

import dataclasses
from collections.abc import Sequence

import numpy as np
from scipy import optimize, special

from gray_quill.core.arrays import Floats
from gray_quill.core.lineup.pairs import SURE, Answer, Z
from gray_quill.core.readings.reading import percent

SPREAD = 4.0  # of a weight before anything is known: its criterion's whole scale, in ln of the odds


@dataclasses.dataclass(frozen=True)
class Weight:
    """What the whole scale of a criterion, 0 to 100 points, does to the odds of being chosen, as ln, with its
    interval; told: the interval leaves nought out.
    """

    criterion: str
    weight: float
    low: float
    high: float

    @property
    def told(self) -> bool:
        return self.low > 0 or self.high < 0


def fitted_weights(answers: Sequence[Answer], keys: Sequence[str], points: Floats) -> list[Weight]:
    """points: 0 to 100, shape (candidates, criteria), none NaN. The surest first."""
    judged = [a for a in answers if not a.checks]
    if not judged or not keys:
        return []
    ahead = np.array([points[a.first] - points[a.second] for a in judged]) / 100
    chosen = np.array([(1 + a.answer) / 2 for a in judged])

    def cost(w: Floats) -> tuple[float, Floats]:
        odds = ahead @ w
        told = float((np.logaddexp(0.0, odds) - chosen * odds).sum()) + float((w**2).sum()) / (2 * SPREAD**2)
        return told, np.asarray(ahead.T @ (special.expit(odds) - chosen) + w / SPREAD**2)

    found = optimize.minimize(cost, np.zeros(len(keys)), jac=True, method="BFGS", options={"gtol": 1e-9})
    share = special.expit(ahead @ found.x)
    bend = (ahead.T * (share * (1 - share))) @ ahead + np.eye(len(keys)) / SPREAD**2
    error = np.sqrt(np.diag(np.linalg.inv(bend)))
    weights = [
        Weight(key, float(w), float(w - Z * e), float(w + Z * e))
        for key, w, e in zip(keys, found.x, error, strict=True)
    ]
    return sorted(weights, key=lambda one: -abs(one.weight) / (one.high - one.low))


def in_words(weights: Sequence[Weight], labels: Sequence[str], answers: int) -> str:
    """What somebody goes by, or that it cannot be told. labels: of the criteria, in the order of the weights."""
    told = [(one, label) for one, label in zip(weights, labels, strict=True) if one.told]
    if not told:
        return f"Which criteria these {answers} answers go by cannot be told yet (none is {percent(SURE)} sure)."
    parts = [f"{'more' if one.weight > 0 else 'less'} {label}" for one, label in told]
    return f"These answers go by {', '.join(parts)}."

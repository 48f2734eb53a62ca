"""Percentiles of samples that do not all count the same."""

from collections.abc import Sequence

import numpy as np

from gray_quill.core.arrays import Floats


def weighted_percentiles(values: Floats, weights: Floats, percents: Sequence[float]) -> Floats:
    """The values under which the given percents of the weight lie, interpolated between the middles of the weights."""
    order = np.argsort(values, kind="stable")
    v, w = values[order], weights[order]
    total = w.sum()
    if total <= 0:
        return np.percentile(values, percents)
    middle = (np.cumsum(w) - w / 2) / total
    return np.interp(np.asarray(percents) / 100, middle, v)

"""Intervals of a line-up against scipy's for the mean of few blocks."""

import unittest

import numpy as np
from scipy import stats

from gray_quill.core.lineup.criteria import CRITERIA
from gray_quill.core.lineup.measure import Measured
from gray_quill.core.lineup.ranking import Table, rank


class Expansion(unittest.TestCase):
    def test_the_interval_is_that_of_students_t_where_blocks_are_normal(self) -> None:
        """scipy.stats.t.interval of the block means, which the expanded percentile interval comes near (Hesterberg)."""
        ratios = []
        for seed in range(30):
            rng = np.random.default_rng([seed, 9])
            values = CRITERIA["drag"].value_at(50) + rng.normal(0, 2, (1, 1, 8))
            measured = Measured(["a"], ["drag"], values.tolist())
            place = rank(Table(measured), {"drag": 1}).places[0]
            points = 100 * (values[0, 0] - 40) / (0 - 40)
            low, high = stats.t.interval(0.95, 7, points.mean(), stats.sem(points))
            ratios.append((place.high - place.low) / (high - low))
        self.assertAlmostEqual(float(np.mean(ratios)), 1, delta=0.06)

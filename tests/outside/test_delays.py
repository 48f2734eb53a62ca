"""Sums of waits against scipy's trapezoidal law, and reading edges off frames against the rectangular
law of the GUM.
"""

import unittest

import numpy as np
from scipy import stats

from gray_quill.core.latency.stage import Stage, draw_totals, mean_ms, sd_ms


class Waits(unittest.TestCase):
    def test_two_waits_are_trapezoidal(self) -> None:
        """Sum of U(0, a) and U(0, b): scipy.stats.trapezoid; JCGM 100:2008, 4.3.9 (from memory). Values of 120 reports
        and 60 frames a second.
        """
        for report_hz, refresh_hz, p95 in (
            (120, 60, 21.273220),
            (240, 120, 10.636610),
            (360, 144, 8.333333),
            (60, 60, 28.062871),
        ):
            a, b = 1000 / report_hz, 1000 / refresh_hz
            law = stats.trapezoid(c=a / (a + b), d=b / (a + b), loc=0, scale=a + b)
            waits = (Stage("sampling", wait_ms=a), Stage("frame", wait_ms=b))
            self.assertAlmostEqual(mean_ms(waits), law.mean(), places=9)
            self.assertAlmostEqual(sd_ms(waits), law.std(), places=9)
            self.assertAlmostEqual(law.ppf(0.95), p95, places=5)
            drawn = draw_totals(waits, 3, 200_000)
            self.assertLess(stats.kstest(drawn[:20_000], law.cdf).statistic, 0.015)
            for q in (5, 50, 90, 95, 99):
                self.assertAlmostEqual(float(np.percentile(drawn, q)), law.ppf(q / 100), delta=0.12)

    def test_jitter_is_gamma(self) -> None:
        """Mean and deviation as asked, and scipy's gamma with shape (mean / sd)^2."""
        drawn = draw_totals((Stage("hand-over", jitter_ms=12, jitter_sd_ms=7),), 5, 100_000)
        law = stats.gamma((12 / 7) ** 2, scale=49 / 12)
        self.assertLess(stats.kstest(drawn[:20_000], law.cdf).statistic, 0.015)
        self.assertAlmostEqual(float(drawn.mean()), 12, delta=0.1)
        self.assertAlmostEqual(float(drawn.std()), 7, delta=0.1)

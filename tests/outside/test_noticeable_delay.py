"""A threshold from many answers against a maximum of the likelihood found by scipy."""

import unittest

import numpy as np
from scipy import optimize, stats

from gray_quill.core.latency.noticeable_delay import feel
from gray_quill.core.latency.staircase import CATCH, NOTICED, Turn


class Threshold(unittest.TestCase):
    def test_it_is_scipys_and_its_interval_that_of_the_information(self) -> None:
        """400 answers at eight delays (the method of constant stimuli) and 100 to nothing. The interval is compared
        with the normal one from the second derivative at the maximum.
        """
        rng = np.random.default_rng(44)
        for threshold, spread, mistake in ((40.0, 0.3, 0.05), (90.0, 0.5, 0.15)):
            added = np.repeat(np.geomspace(threshold / 3, threshold * 3, 8), 50)
            chance = mistake + (1 - mistake) * stats.norm.cdf(np.log(added / threshold) / spread)
            yes, by_mistake = rng.random(400) < chance, rng.random(100) < mistake
            turns = [
                Turn(NOTICED, round(a, 3), "slight" if y else "none", 20 + a, 60)
                for a, y in zip(added, yes, strict=True)
            ]
            turns += [Turn(CATCH, 0, "slight" if y else "none", 20, 60) for y in by_mistake]
            found = feel(turns).noticed

            def cost(v, added=added, yes=yes, by_mistake=by_mistake):  # type: ignore[no-untyped-def]
                g = 1 / (1 + np.exp(-v[2]))
                p = g + (1 - g) * stats.norm.cdf((np.log(added) - v[0]) / np.exp(v[1]))
                p = np.clip(np.concatenate((p, np.full(len(by_mistake), g))), 1e-9, 1 - 1e-9)
                said = np.concatenate((yes, by_mistake))
                return -np.log(np.where(said, p, 1 - p)).sum()

            best = optimize.minimize(cost, [np.log(50), np.log(0.4), -2], method="BFGS")
            assert found.added_ms
            assert found.low_ms
            assert found.high_ms
            half = 1.96 * np.sqrt(best.hess_inv[0, 0])
            self.assertAlmostEqual(np.log(found.added_ms), best.x[0], delta=0.4 * half)
            self.assertAlmostEqual(np.log(found.high_ms / found.low_ms) / 2 / half, 1, delta=0.3)
            self.assertTrue(found.low_ms < threshold < found.high_ms)


if __name__ == "__main__":
    unittest.main()

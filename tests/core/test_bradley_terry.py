"""Laws of strengths from judged pairs: no order of pens matters, a win raises, doubt shrinks with answers."""

import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from gray_quill.core.lineup.bradley_terry import chances, fit, table

SEEDS = st.integers(0, 100_000)


def drawn(seed: int, ties: bool = True) -> tuple[np.ndarray, np.ndarray]:
    """Wins and ties of some pens that all met."""
    rng = np.random.default_rng(seed)
    count = int(rng.integers(2, 7))
    wins = rng.integers(1, 6, (count, count)) * (1.0 - np.eye(count))
    level = np.triu(rng.integers(0, 4, (count, count)), 1).astype(float) * ties
    return wins, level + level.T


class Strengths(unittest.TestCase):
    @settings(max_examples=60, deadline=None)
    @given(SEEDS)
    def test_which_pen_is_named_first_changes_nothing(self, seed: int) -> None:
        wins, ties = drawn(seed)
        order = np.random.default_rng(seed + 1).permutation(len(wins))
        one, other = fit(wins, ties), fit(wins[np.ix_(order, order)], ties[np.ix_(order, order)])
        np.testing.assert_allclose(other.theta, one.theta[order], atol=1e-7)
        np.testing.assert_allclose(other.error, one.error[order], atol=1e-7)
        self.assertAlmostEqual(other.tie, one.tie, 6)

    @settings(max_examples=60, deadline=None)
    @given(SEEDS)
    def test_a_win_more_raises_who_won_and_lowers_who_lost(self, seed: int) -> None:
        wins, ties = drawn(seed)
        more = wins.copy()
        more[0, 1] += 1
        before, after = fit(wins, ties), fit(more, ties)
        self.assertGreater(after.theta[0] - after.theta[1], before.theta[0] - before.theta[1])

    @settings(max_examples=60, deadline=None)
    @given(SEEDS)
    def test_lost_for_won_turns_the_order_round(self, seed: int) -> None:
        wins, ties = drawn(seed)
        one, other = fit(wins, ties), fit(wins.T.copy(), ties)
        np.testing.assert_allclose(other.theta, -one.theta, atol=1e-7)

    @settings(max_examples=60, deadline=None)
    @given(SEEDS)
    def test_four_times_the_same_answers_halve_the_doubt(self, seed: int) -> None:
        wins, ties = drawn(seed)
        one, more = fit(wins, ties), fit(4 * wins, 4 * ties)
        np.testing.assert_allclose(more.theta, one.theta, atol=1e-6)
        np.testing.assert_allclose(more.error, one.error / 2, rtol=1e-5)

    @settings(max_examples=60, deadline=None)
    @given(SEEDS)
    def test_chances_sum_to_one_and_expected_wins_are_those_there_were(self, seed: int) -> None:
        """At the best strengths each pen wins, and ties half, as often as it did (the equations of the likelihood)."""
        wins, ties = drawn(seed)
        known = fit(wins, ties)
        count = len(wins)
        for a in range(count):
            expected = 0.0
            for b in range(count):
                if a != b:
                    up, down, level = chances(known, a, b)
                    self.assertAlmostEqual(up + down + level, 1, 12)
                    expected += (wins[a, b] + wins[b, a] + ties[a, b]) * (up + level / 2)
            self.assertAlmostEqual(expected, float(wins[a].sum() + ties[a].sum() / 2), 5)

    @settings(max_examples=40, deadline=None)
    @given(SEEDS)
    def test_a_prior_draws_to_the_middle_and_keeps_all_finite(self, seed: int) -> None:
        wins, ties = drawn(seed)
        free, drawn_in = fit(wins, ties), fit(wins, ties, 2.0)
        self.assertLessEqual(np.abs(drawn_in.theta).max(), np.abs(free.theta).max() + 1e-9)
        nothing = fit(np.zeros_like(wins), np.zeros_like(ties), 2.0)
        np.testing.assert_allclose(nothing.theta, 0, atol=1e-12)
        self.assertTrue(np.isfinite(nothing.error).all() and (nothing.error > drawn_in.error.min()).all())

    def test_answers_are_counted_by_side_and_ties_both_ways(self) -> None:
        wins, ties = table(3, [(0, 1, 1), (1, 0, 1), (2, 0, -1), (1, 2, 0)])
        self.assertEqual(wins.tolist(), [[0, 1, 1], [1, 0, 0], [0, 0, 0]])
        self.assertEqual(ties.tolist(), [[0, 0, 0], [0, 0, 1], [0, 1, 0]])

    def test_nothing_but_ties_has_an_end(self) -> None:
        level = 5.0 * (1 - np.eye(3))
        known = fit(np.zeros((3, 3)), level)
        np.testing.assert_allclose(known.theta, 0, atol=1e-9)
        self.assertTrue(np.isfinite([known.tie, *known.error]).all())

"""Strengths from judged pairs beside choix, a table of worked values, and a likelihood maximised by scipy."""

import unittest

import choix
import numpy as np
from scipy import optimize, stats

from gray_quill.core.lineup.bradley_terry import PULL, fit
from gray_quill.core.lineup.inferred_weights import fitted_weights
from gray_quill.core.lineup.pairs import Answer, agreement, beside

# Wins, row beats column, of four that met unequally often; strengths and standard errors (pseudo-inverse of the
# Hessian) from choix 0.4.1, an iteration of Zermelo's and scipy, which agree to 1e-9.
WINS = np.array([[0, 7, 9, 5], [3, 0, 6, 4], [1, 5, 0, 8], [2, 6, 3, 0]], float)
THETA = (0.950378962, -0.282688402, -0.236388443, -0.431302117)
ERRORS = (0.348497717, 0.285479301, 0.280071206, 0.303177197)


class JudgedPairs(unittest.TestCase):
    def test_strengths_errors_and_likelihood_of_a_worked_example(self) -> None:
        found = fit(WINS, np.zeros((4, 4)))
        np.testing.assert_allclose(found.theta, THETA, atol=1e-8)
        np.testing.assert_allclose(found.error, ERRORS, atol=1e-8)
        self.assertAlmostEqual(found.log_likelihood, -36.386541138, 8)
        self.assertFalse(found.pulled)
        two = fit(np.array([[0, 7.0], [3, 0]]), np.zeros((2, 2)))
        self.assertAlmostEqual(two.theta[0] - two.theta[1], np.log(7 / 3), 8)

    def test_without_ties_they_are_those_of_choix(self) -> None:
        rng = np.random.default_rng(4)
        for count in (3, 5, 8):
            wins = rng.integers(1, 9, (count, count)) * (1 - np.eye(count))
            games = [(i, j) for i in range(count) for j in range(count) for _ in range(int(wins[i, j]))]
            theirs = choix.ilsr_pairwise(count, games, alpha=0, tol=1e-13, max_iter=5000)
            np.testing.assert_allclose(fit(wins, np.zeros((count, count))).theta, theirs - theirs.mean(), atol=1e-8)

    def test_with_ties_they_maximise_the_published_likelihood(self) -> None:
        """Davidson, Journal of the American Statistical Association 65 (1970), equation 2.2, written out once more."""
        rng = np.random.default_rng(9)
        for count in (3, 5):
            wins = rng.integers(1, 7, (count, count)) * (1.0 - np.eye(count))
            ties = np.triu(rng.integers(1, 5, (count, count)), 1).astype(float)
            ties += ties.T

            def cost(at: np.ndarray, wins: np.ndarray = wins, ties: np.ndarray = ties, n: int = count) -> float:
                strong, tie, told = np.exp(np.append(0.0, at[:-1])), np.exp(at[-1]), 0.0
                for i in range(n):
                    for j in range(i + 1, n):
                        level = tie * np.sqrt(strong[i] * strong[j])
                        whole = strong[i] + strong[j] + level
                        told += wins[i, j] * np.log(strong[i] / whole) + wins[j, i] * np.log(strong[j] / whole)
                        told += ties[i, j] * np.log(level / whole)
                return -float(told)

            theirs = optimize.minimize(
                cost,
                np.zeros(count),
                method="Nelder-Mead",
                options={"xatol": 1e-9, "fatol": 1e-12, "maxiter": 20000, "maxfev": 40000},
            )
            found = fit(wins, ties)
            theta = np.append(0.0, theirs.x[:-1])
            np.testing.assert_allclose(found.theta, theta - theta.mean(), atol=1e-5)
            self.assertAlmostEqual(found.tie, float(np.exp(theirs.x[-1])), 4)
            self.assertAlmostEqual(found.log_likelihood, -theirs.fun, 7)

    def test_who_never_loses_is_drawn_to_the_middle_and_that_is_said(self) -> None:
        wins = np.array([[0, 5.0, 4], [0, 0, 3], [0, 2, 0]])
        with self.assertRaises(ValueError):
            choix.ilsr_pairwise(
                3, [(i, j) for i in range(3) for j in range(3) for _ in range(int(wins[i, j]))], alpha=0
            )
        found = fit(wins, np.zeros((3, 3)))
        self.assertTrue(found.pulled and np.isfinite(found.theta).all() and found.theta.argmax() == 0)
        games = [(i, j) for i in range(3) for j in range(3) for _ in range(int(wins[i, j]))]
        theirs = choix.opt_pairwise(3, games, alpha=PULL / 2)  # its penalty counts the square once, not by half
        np.testing.assert_allclose(found.theta, theirs - theirs.mean(), atol=1e-4)

    def test_agreement_is_kendalls_and_beside_the_measured_ranking_spearmans_too(self) -> None:
        one, other = (fit(w, np.zeros((4, 4))) for w in (WINS, WINS[::-1, ::-1].copy()))
        self.assertEqual(agreement([one, other]), stats.kendalltau(one.theta, other.theta).statistic)
        self.assertIsNone(agreement([one]))
        totals = [40.0, 55.0, 30.0, 55.0]
        tau, rho = stats.kendalltau(one.theta, totals).statistic, stats.spearmanr(one.theta, totals).statistic
        self.assertEqual(beside(one, totals), (tau, rho))

    def test_fitted_weights_of_two_pens_are_ln_odds(self) -> None:
        """Seven to three for the pen that has a criterion whole: a weight of ln(7/3), drawn to nought a little."""
        answers = [Answer(0, 1, 1)] * 7 + [Answer(1, 0, 1)] * 3
        (one,) = fitted_weights(answers, ["range"], np.array([[100.0], [0.0]]))
        self.assertAlmostEqual(one.weight, np.log(7 / 3), delta=0.03)
        self.assertLess(one.low, 0.0)
        self.assertGreater(one.high, 1.0)


if __name__ == "__main__":
    unittest.main()

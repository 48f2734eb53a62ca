"""Trees written out as plain numbers against scikit-learn, which grew them: the same odds for any look, told or not."""

import contextlib
import unittest
from unittest import mock

import numpy as np
from sklearn.ensemble import HistGradientBoostingClassifier

from gray_quill.core.palm import trees
from gray_quill.core.palm.features import NAMES
from tools.fit_palm_look import fitted, plain_trees


class Trees(unittest.TestCase):
    def grown(self, seed: int) -> tuple[HistGradientBoostingClassifier, np.ndarray]:
        """A model of made-up looks, a third of whose numbers are missing, and other looks to try it on."""
        rng = np.random.default_rng(seed)
        looks = rng.normal(0, 1, (2400, len(NAMES)))
        hands = looks[:, 0] + looks[:, 3] * looks[:, 6] + 0.5 * rng.normal(0, 1, 2400) > 0
        looks[rng.random(looks.shape) < 0.33] = np.nan
        model = fitted(looks[:1600], hands[:1600], np.ones(1600), trees=25, depth=4)
        return model, looks[1600:]

    def test_odds_as_scikit_learn_has_them(self) -> None:
        for seed in (1, 2):
            model, looks = self.grown(seed)
            plain = plain_trees(model)
            base = float(model._baseline_prediction.ravel()[0])
            grown = {"BASE": base, **{name: tuple(v) for name, v in plain.items()}}
            with contextlib.ExitStack() as patched:
                for name, value in grown.items():
                    patched.enter_context(mock.patch.object(trees, name, value))
                patched.enter_context(mock.patch.object(trees, "_COLUMNS", trees.columns()))
                ours = [trees.odds_of(look.tolist()) for look in looks]
                told = [sum(trees.terms_of(look.tolist()).values()) for look in looks[:50]]
                roots = base + sum(plain["MEANS"][r] for r in plain["ROOTS"])
                np.testing.assert_allclose(np.array(told) + roots, ours[:50], atol=1e-9)
                columns = trees.trees()
            # bounds keep five digits and leaves four, of each of 25 trees
            near = np.abs(np.array(ours) - model.decision_function(looks)) < 0.01
            self.assertGreater(near.mean(), 0.995)
            self.assertEqual(len(columns.numbers), len(columns.bounds))
            self.assertEqual(
                sum(n < 0 for n in columns.numbers), sum(p.get_n_leaf_nodes() for (p,) in model._predictors)
            )

    def test_a_chance_and_its_odds_are_one_another_s_inverse(self) -> None:
        for share in (0.01, 0.3, 0.5, 0.8, 0.999):
            self.assertAlmostEqual(trees.chance(trees.odds(share)), share, places=12)
        self.assertEqual((trees.odds(1), trees.odds(0)), (np.inf, -np.inf))

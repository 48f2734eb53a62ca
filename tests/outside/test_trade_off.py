"""Missed palms against refused fingers: the ROC curve against scikit-learn and a worked example, its area against the
Mann-Whitney statistic.
"""

import unittest

import numpy as np
from scipy.stats import mannwhitneyu
from sklearn.metrics import roc_auc_score, roc_curve

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.palm.drills import DRILLS, simulate
from gray_quill.core.palm.recommend import rule_curves
from gray_quill.core.palm.rules import RULES
from gray_quill.core.palm.scores import contacts_of, roc
from gray_quill.core.palm.zone import zone_of

# A worked example with a tie; computed once with scikit-learn 1.9.1, area 28.5 / 36
PALM = [0, 0, 1, 0, 1, 1, 0, 1, 0, 1, 1, 0]
SCORE = [0.1, 0.2, 0.25, 0.3, 0.35, 0.5, 0.5, 0.6, 0.62, 0.8, 0.9, 0.15]


class TradeOff(unittest.TestCase):
    def test_the_worked_example(self) -> None:
        rows, area = roc([bool(p) for p in PALM], SCORE)
        self.assertAlmostEqual(area, 0.791666667, places=9)
        self.assertAlmostEqual(
            mannwhitneyu(
                [s for p, s in zip(PALM, SCORE, strict=True) if p],
                [s for p, s in zip(PALM, SCORE, strict=True) if not p],
            ).statistic
            / 36,
            area,
        )
        sixths = [(round(6 * a), round(6 * b), t) for a, b, t in rows]
        self.assertEqual(
            sixths,
            [
                (0, 0, np.inf),
                (0, 1, 0.9),
                (0, 2, 0.8),
                (1, 2, 0.62),
                (1, 3, 0.6),
                (2, 4, 0.5),
                (2, 5, 0.35),
                (3, 5, 0.3),
                (3, 6, 0.25),
                (4, 6, 0.2),
                (5, 6, 0.15),
                (6, 6, 0.1),
            ],
        )

    def test_random_scores_with_ties_as_scikit_learn_has_them(self) -> None:
        for seed in range(40):
            rng = np.random.default_rng(seed)
            palm = rng.random(60) < rng.uniform(0.2, 0.8)
            score = np.round(rng.normal(palm * rng.uniform(-1, 2), 1), int(rng.integers(0, 3)))
            rows, area = roc(palm.tolist(), score.tolist())
            self.assertAlmostEqual(area, roc_auc_score(palm, score), places=12)
            fpr, tpr, thresholds = roc_curve(palm, score, drop_intermediate=False)
            np.testing.assert_allclose(rows, np.column_stack((fpr, tpr, thresholds)), atol=1e-12)
            self.assertAlmostEqual(roc(palm.tolist(), (-score).tolist())[1], 1 - area, places=12)
        self.assertTrue(np.isnan(roc([True], [1.0])[1]), "no curve without both")

    def test_the_areas_of_the_rules_on_the_same_scores(self) -> None:
        """What the trade-off shows for a hand on a device, from all contacts of its drills."""
        hand, device = SHIPPED_HANDS["left-steep"], SHIPPED_DEVICES["tablet-11"]
        sessions, zone = [simulate(hand, device, name, 9) for name in DRILLS], zone_of(hand)
        pairs = [(i in truth.palms, c) for stream, truth in sessions for i, c in contacts_of(stream, zone).items()]
        curves = {c.rule: c for c in rule_curves(sessions, zone)}
        for rule in RULES:
            values = np.nan_to_num([rule.score(c) for _, c in pairs], posinf=1e9, neginf=-1e9)
            area = curves[rule.name].area
            self.assertAlmostEqual(area or 0.0, roc_auc_score([p for p, _ in pairs], values), places=9)
        self.assertGreater(curves["contact size"].area or 0.0, 0.8)

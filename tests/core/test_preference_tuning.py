"""Tuning by choosing: what is liked is learnt rightly, pairs follow from answers, and answers at random name no pen."""

import unittest
from functools import partial

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.stats import norm

from gray_quill.core.advice.kinds import judge_kind
from gray_quill.core.lineup.axes import MOST, WASHES, WRITING, allowed, directions_for, gone
from gray_quill.core.lineup.preference import Judged, Liking, Taste, learnt, level_of
from gray_quill.core.lineup.preference_tuning import REPEATS_EVERY, next_pair, pool, preferred
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from tests.trials.preference_tuning import session


class Liked(unittest.TestCase):
    """Posteriors on a line against integrals over a grid of all that could be liked."""

    JUDGED = (Judged((-0.8,), (0.3,), 1), Judged((0.3,), (0.9,), -1), Judged((-0.8,), (0.9,), 1))
    AT = np.array([[-0.8], [0.3], [0.9], [-0.4], [0.6]])

    def integrated(self, taste: Taste, judged: tuple[Judged, ...], level: float) -> tuple[np.ndarray, float]:
        """Mean of how much places are liked more than the first, and ln evidence, by Gauss-Hermite quadrature."""
        points = np.unique([*(j.one for j in judged), *(j.other for j in judged)], axis=0)
        cov = taste.cov(points, points) + 1e-9 * np.eye(len(points))
        at, share = np.polynomial.hermite_e.hermegauss(60)
        grid = np.stack(np.meshgrid(*[at] * len(points), indexing="ij"), -1).reshape(-1, len(points))
        weight = np.prod(np.stack(np.meshgrid(*[share] * len(points), indexing="ij"), -1).reshape(grid.shape), axis=1)
        liked = taste.mean(points) + grid @ np.linalg.cholesky(cov).T
        for one in judged:
            k, m = (int(np.flatnonzero((points == p).all(axis=1))[0]) for p in (one.one, one.other))
            ahead = liked[:, k] - liked[:, m]
            told = (
                norm.cdf(one.answer * ahead - level)
                if one.answer
                else norm.cdf(level - ahead) - norm.cdf(-level - ahead)
            )
            weight = weight * told
        mean = (weight[:, None] * liked).sum(axis=0) / weight.sum()
        cross = taste.cov(self.AT, points)
        there = taste.mean(self.AT) + cross @ np.linalg.solve(cov, mean - taste.mean(points))
        return there - there[0], float(np.log(weight.sum() / np.sqrt(2 * np.pi) ** len(points)))

    def test_they_equal_brute_force_integration(self) -> None:
        cases = {
            "no answer ties": (self.JUDGED, 0.1),
            "some do": ((*self.JUDGED[:2], Judged((-0.8,), (0.9,), 0)), 0.5),
            "one pair again and again": (tuple(Judged((-0.8,), (0.6,), a) for a in (1, 1, 0, -1, 1, 1)), 0.3),
        }
        for name, (judged, level) in cases.items():
            for taste in (Taste(0.0, 1.5), Taste(2.0, 0.5), Taste(0.0, 1.0), Taste(1.0, 1.5)):
                with self.subTest(name, taste=taste):
                    whole = Liking(judged, taste, level)
                    mean = whole.at(self.AT)[0]
                    true, evidence = self.integrated(taste, judged, level)
                    np.testing.assert_allclose(mean - mean[0], true, atol=5e-4)
                    self.assertAlmostEqual(whole.evidence, evidence, delta=5e-4)

    def test_who_never_says_no_difference_is_not_thereby_sure(self) -> None:
        places = pool(4, 1)
        rng = np.random.default_rng(3)
        pairs = [tuple(tuple(p) for p in places[rng.choice(len(places), 2, replace=False)].tolist()) for _ in range(20)]
        coins = [Judged(a, b, int(rng.choice((1, -1)))) for a, b in pairs]
        self.assertGreater(learnt(coins).weights[0], 0.3, "that all is the same stays likely")
        self.assertLess(level_of(coins), level_of([Judged(a, b, 0) for a, b in pairs]))


class Choosing(unittest.TestCase):
    def test_what_is_asked_follows_from_the_answers_and_the_seed(self) -> None:
        places = pool(4, 7)
        judged: list[Judged] = []
        for n in range(REPEATS_EVERY):
            pair = next_pair(judged, places, 7)
            self.assertEqual(pair, next_pair(list(judged), places, 7))
            self.assertNotEqual(pair.one, pair.other)
            self.assertEqual(pair.repeats is not None, n == REPEATS_EVERY - 1)
            judged.append(Judged(pair.one, pair.other, (-1) ** n))
        again = next_pair(judged[:-1], places, 7)
        assert again.repeats is not None
        before = judged[again.repeats]
        self.assertEqual((again.one, again.other), (before.other, before.one), "the other way round")

    def test_a_taste_is_come_near_and_answers_at_random_name_nothing(self) -> None:
        """One session each; how often they hold is measured by the trial of judges."""
        for family in ("peaked", "ridge", "kinked"):
            one = session(family, 503, 4, 2.0, False)
            self.assertLess(one.regret, one.before, family)
        self.assertFalse(session("random", 503, 4, 2.0, False).told.told)

    def test_who_contradicts_himself_is_not_believed(self) -> None:
        places = pool(4, 2)
        judged: list[Judged] = []
        repeats: list[int | None] = []
        for _ in range(3 * REPEATS_EVERY):
            pair = next_pair(judged, places, 2)
            judged.append(Judged(pair.one, pair.other, 1))  # always the first, so a repeat is answered otherwise
            repeats.append(pair.repeats)
        found = preferred(judged, places, repeats, 2)
        self.assertEqual((found.consistent, found.asked_twice, found.told), (0.0, 3, False))


class Directions(unittest.TestCase):
    @settings(max_examples=30, deadline=None)
    @given(st.sampled_from(sorted(SHIPPED_PENS)), st.lists(st.floats(-1, 1), min_size=MOST, max_size=MOST))
    def test_a_pen_gone_anywhere_is_a_pen_and_nowhere_itself(self, pen_id: str, at: list[float]) -> None:
        recipe = SHIPPED_PENS[pen_id]
        directions = directions_for(recipe, MOST)
        self.assertEqual(gone(recipe, directions, [0.0] * len(directions)), recipe)
        self.assertIsInstance(gone(recipe, directions, at[: len(directions)]), Recipe)

    def test_each_direction_moves_what_it_says_and_nothing_of_another(self) -> None:
        for recipe, every in ((SHIPPED_PENS["fen-fountain"], WRITING), (SHIPPED_PENS["dusk-wash"], WASHES)):
            for k, direction in enumerate(every):
                at = np.zeros((2, len(every)))
                at[:, k] = 0.5, -0.5
                with self.subTest(direction.name):  # one way of it may be at its end already
                    self.assertTrue(any(gone(recipe, every, way.tolist()) != recipe for way in at))
        thin, broad = (gone(SHIPPED_PENS["fen-fountain"], WRITING, [0, 0, 0, w, 0, 0, 0, 0]) for w in (-1, 1))
        self.assertLess(thin.body.width_mm, broad.body.width_mm)

    def test_what_would_be_no_pen_of_its_kind_is_not_shown(self) -> None:
        recipe = SHIPPED_PENS["reed-ballpoint"]
        self.assertTrue(judge_kind(recipe).met)
        directions = directions_for(recipe, 4)
        keeps = partial(allowed, recipe, directions)
        places, judged = pool(4, 5), list[Judged]()
        self.assertFalse(all(keeps(p) for p in places.tolist()), "some places are none of a ballpoint's")
        for n in range(6):
            pair = next_pair(judged, places, 5, keeps)
            self.assertTrue(keeps(pair.one) and keeps(pair.other), n)
            judged.append(Judged(pair.one, pair.other, (-1) ** n))
        self.assertTrue(keeps(preferred(judged, places, seed=5, allowed=keeps).at))

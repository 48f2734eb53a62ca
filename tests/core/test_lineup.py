"""Line-up: what holds of any ranking, how sure it is, and that each criterion tells what its name says."""

import dataclasses
import itertools
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.lineup.case import Candidate, Ground, own_ground, simulated_ground
from gray_quill.core.lineup.criteria import CRITERIA
from gray_quill.core.lineup.measure import Measured, Values, measure
from gray_quill.core.lineup.presets import PRESETS, shares
from gray_quill.core.lineup.ranking import Must, Scored, Table, pareto, rank
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import changed
from tests.zoo import wave

KEYS = ["range", "drag", "legible", "open letters"]
PAPER = paper_from_spec("blank A5")


def made_up(rng: np.random.Generator, count: int, blocks: int = 8, spread: float = 0.1) -> tuple[Measured, np.ndarray]:
    """Measured values by chance round known truths, and the truths as shares of each criterion's scale."""
    truth = rng.uniform(0.2, 0.8, (count, len(KEYS)))
    noise = rng.normal(0, spread, (count, len(KEYS), blocks)) + rng.normal(0, spread, (1, len(KEYS), blocks))
    ends = np.array([(CRITERIA[k].nothing, CRITERIA[k].all) for k in KEYS])
    at = ends[:, 0] + (truth[..., None] + noise).transpose(0, 2, 1) * (ends[:, 1] - ends[:, 0])
    return Measured([f"pen {c}" for c in range(count)], KEYS, at.transpose(0, 2, 1).tolist()), truth


weights = st.dictionaries(st.sampled_from(KEYS), st.floats(0.05, 1), min_size=1)


class Rankings(unittest.TestCase):
    @settings(max_examples=40, deadline=None)
    @given(st.integers(0, 2**32 - 1), weights)
    def test_a_ranking_is_the_same_in_any_order_and_a_copy_ties(self, seed: int, given: dict[str, float]) -> None:
        rng = np.random.default_rng(seed)
        measured, _ = made_up(rng, 5)
        ranked = rank(Table(measured), given)
        mixed = rng.permutation(5)
        turned = Measured([measured.candidates[k] for k in mixed], KEYS, [measured.values[k] for k in mixed])
        again = rank(Table(turned), given)
        self.assertEqual([p.candidate for p in ranked.places], [p.candidate for p in again.places])
        np.testing.assert_allclose([p.total for p in ranked.places], [p.total for p in again.places])
        twin = Measured([*measured.candidates, "twin"], KEYS, [*measured.values, measured.values[2]])
        places = {p.candidate: p for p in rank(Table(twin), given).places}
        self.assertEqual(abs(places["twin"].place - places["pen 2"].place), 1)
        later = max((places["twin"], places["pen 2"]), key=lambda p: p.place)
        self.assertTrue(later.tied and later.same)

    @settings(max_examples=40, deadline=None)
    @given(st.integers(0, 2**32 - 1), weights, st.sampled_from(KEYS), st.floats(0.1, 5))
    def test_more_weight_never_lowers_the_best_of_a_criterion(
        self, seed: int, given: dict[str, float], key: str, more: float
    ) -> None:
        table = Table(made_up(np.random.default_rng(seed), 6)[0])
        best = table.candidates[int(np.argmax(table.points[:, KEYS.index(key)]))]
        before = {p.candidate: p.place for p in rank(table, given).places}[best]
        after = {p.candidate: p.place for p in rank(table, given | {key: given.get(key, 0) + more}).places}[best]
        self.assertLessEqual(after, before)

    @settings(max_examples=30, deadline=None)
    @given(st.integers(0, 2**32 - 1))
    def test_lifts_and_crossings_do_what_they_say(self, seed: int) -> None:
        measured, _ = made_up(np.random.default_rng(seed), 5)
        given = {"range": 0.4, "drag": 0.3, "legible": 0.2, "open letters": 0.1}
        ranked = rank(Table(measured), given)
        for k, place in enumerate(ranked.places[1:], 1):
            c = measured.candidates.index(place.candidate)
            if place.lift:
                values = np.array(measured.values, float)
                n = KEYS.index(place.lift.criterion)
                values[c, n] += place.lift.needed - values[c, n].mean()
                lifted = rank(Table(dataclasses.replace(measured, values=values.tolist())), given)
                totals = {p.candidate: p.total for p in lifted.places}
                self.assertAlmostEqual(totals[place.candidate], ranked.places[k - 1].total, delta=1e-6)
            if place.crossing:
                rest = {key: w for key, w in given.items() if key != place.crossing.criterion}
                moved = {key: (1 - place.crossing.until) * share for key, share in shares(rest).items()}
                totals = {
                    p.candidate: p.total
                    for p in rank(Table(measured), moved | {place.crossing.criterion: place.crossing.until}).places
                }
                self.assertAlmostEqual(totals[place.candidate], totals[ranked.places[k - 1].candidate], delta=1e-6)

    def test_intervals_cover_the_truth_and_ties_are_not_told_apart(self) -> None:
        """Seeds nothing was set by. A total is the mean of blocks whose truth is known."""
        given = shares({"range": 2, "drag": 1, "legible": 1})
        covered = wrong = ties = 0
        for seed in range(400, 500):
            measured, truth = made_up(np.random.default_rng(seed), 3, spread=0.06)
            known = {f"pen {c}": 100 * sum(w * truth[c, KEYS.index(k)] for k, w in given.items()) for c in range(3)}
            places = rank(Table(measured), given).places
            covered += places[0].low <= known[places[0].candidate] <= places[0].high
            same = np.random.default_rng([seed, 1]).normal(0, 0.05, (2, len(KEYS), 8))
            ends = np.array([(CRITERIA[k].nothing, CRITERIA[k].all) for k in KEYS])
            values = ends[None, :, :1] + (0.5 + same) * (ends[:, 1] - ends[:, 0])[None, :, None]
            ties += rank(Table(Measured(["a", "b"], KEYS, values.tolist())), given).places[1].tied
            for over, under in itertools.pairwise(places):
                wrong += not under.tied and known[over.candidate] < known[under.candidate]
        self.assertTrue(90 <= covered <= 99, covered)
        self.assertGreaterEqual(ties, 90, "alike is told alike")
        self.assertLessEqual(wrong, 6, "told apart the wrong way round")

    def test_musts_put_out_and_what_cannot_be_told_is_set_aside_for_all(self) -> None:
        values: list[Values] = [
            [[1.5] * 4, [10.0] * 4, [5.0] * 4, [None] * 4],
            [[2.5] * 4, [30.0] * 4, [5.0] * 4, [0.9] * 4],
        ]
        table = Table(Measured(["plain", "lively"], KEYS, values))
        ranked = rank(table, {"range": 1, "open letters": 3}, [Must("drag", 20)])
        self.assertEqual([(p.candidate, p.place) for p in ranked.places], [("plain", 1), ("lively", 0)])
        self.assertIn("drag is 30", ranked.places[1].out)
        both = rank(table, {"range": 1, "open letters": 3})
        self.assertEqual(both.aside, {"open letters": ["plain"]})
        self.assertEqual(both.places[0].candidate, "lively")
        for wrong in ({}, {"range": 0.0}, {"beauty": 1.0}, {"open letters": 1.0}):
            self.assertRaises(InputError, rank, table, wrong)
        own = Table(Measured(["plain", "lively"], KEYS, values), [Scored("grip", {"plain": 90, "lively": 10})])
        self.assertEqual(rank(own, {"range": 0.3, "grip": 0.7}).places[0].candidate, "plain")
        self.assertIsNone(rank(own, {"grip": 1}).places[0].told[0].value)

    def test_the_front_by_brute_force(self) -> None:
        rng = np.random.default_rng(3)
        for _ in range(50):
            at = rng.integers(0, 5, (8, 2)).tolist()
            slow = [not any(o[0] >= p[0] and o[1] >= p[1] and (o[0] > p[0] or o[1] > p[1]) for o in at) for p in at]
            self.assertEqual(pareto([tuple(p) for p in at]), slow)


class Criteria(unittest.TestCase):
    ground: Ground

    @classmethod
    def setUpClass(cls) -> None:
        cls.ground = simulated_ground(SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"], PAPER, blocks=2)

    def points(self, recipe: Recipe, key: str, ground: Ground | None = None) -> float:
        measured = measure([Candidate("a", "a", recipe), Candidate("b", "b", Recipe())], [ground or self.ground])
        return float(Table(measured).points[0, measured.criteria.index(key)])

    def test_each_criterion_answers_to_what_its_name_says(self) -> None:
        pen = SHIPPED_PENS["fen-fountain"]
        for key, path, worse, better in (
            ("range", "press.range", 1.2, 6.0),
            ("drag", "steady.amount", 6.0, 0.5),
            ("calm", "steady.amount", 0.5, 6.0),
            ("faithful", "steady.amount", 6.0, 0.5),
            ("corners", "steady.amount", 6.0, 0.5),
            ("tips", "ends.end_tip", 1.0, 0.1),
            ("legible", "body.colour", "#b8b4aa", "#101010"),
            ("hairlines", "body.width_mm", 0.06, 0.8),
            ("open letters", "body.width_mm", 2.6, 0.4),
            ("lag", "steady.amount", 8.0, 0.0),
        ):
            with self.subTest(key):
                low, high = (self.points(changed(pen, path, value), key) for value in (worse, better))
                self.assertGreater(high, low + 5)

    def test_anchors_count_nothing_and_all(self) -> None:
        for criterion in CRITERIA.values():
            self.assertEqual((criterion.points(criterion.nothing), criterion.points(criterion.all)), (0, 100))
            self.assertTrue(criterion.reason and criterion.help.endswith("."), criterion.key)
            self.assertAlmostEqual(criterion.points(criterion.value_at(37)), 37)
        self.assertLessEqual({key for weights in PRESETS.values() for key in weights}, set(CRITERIA))

    def test_what_cannot_be_told_is_not_nought(self) -> None:
        dots = Ground(self.ground.hand, self.ground.device, PAPER, ((wave(0.2),),), real=True)
        measured = measure([Candidate("a", "a", Recipe()), Candidate("b", "b", SHIPPED_PENS["fen-fountain"])], [dots])
        told = dict(zip(measured.criteria, measured.values[0], strict=True))
        self.assertEqual(told["open letters"], [None], "no letters")
        self.assertEqual(told["under wash"], [None], "no wash")
        self.assertEqual(told["taper"], [None], "no taper")

    def test_candidates_are_two_at_least_and_each_once(self) -> None:
        one = Candidate("a", "a", Recipe())
        for wrong in ([one], [one, one]):
            self.assertRaises(InputError, measure, wrong, [self.ground])

    def test_own_writing_is_cut_into_runs_of_about_the_same_length(self) -> None:
        traces = [wave(0.3 + 0.01 * k) for k in range(23)]
        ground = own_ground(traces, self.ground.hand, self.ground.device, PAPER)
        self.assertEqual([t for block in ground.blocks for t in block], traces)
        self.assertEqual(len(own_ground(traces[:1], self.ground.hand, self.ground.device, PAPER).blocks), 1)

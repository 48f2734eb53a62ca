"""Blind pairs judged by simulated judges: what is asked, what is told, and what is not."""

import itertools
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy import stats

from gray_quill.core.lineup.bradley_terry import fit
from gray_quill.core.lineup.inferred_weights import fitted_weights, in_words
from gray_quill.core.lineup.pairs import (
    CHECK_EVERY,
    Answer,
    Pairs,
    PenJudged,
    judge_of,
    more_needed,
    next_pair,
    ranked,
    strengths_of,
)

LIKED = np.array([1.5, 0.7, 0.0, -0.6, -1.6])


def judged(count: int, seed: int, liked: np.ndarray | None, tie: float = 0.3, by_chance: bool = False) -> list[Answer]:
    """A judge's answers by Davidson's shares, to pairs that teach or any; one without a taste answers at random."""
    rng = np.random.default_rng([seed, 77])
    answers: list[Answer] = []
    pens = len(LIKED) if liked is None else len(liked)
    for _ in range(count):
        a, b = (int(k) for k in rng.choice(pens, 2, replace=False)) if by_chance else next_pair(answers, pens, seed)
        if a == b:
            answer = int(rng.choice((0, 0, 0, 1) if liked is not None else (0, 1, -1)))
        elif liked is None:
            answer = int(rng.choice((1, -1)))
        else:
            s, t = np.exp(liked[[a, b]])
            shares = np.array([s, t, tie * np.sqrt(s * t)])
            answer = int(rng.choice((1, -1, 0), p=shares / shares.sum()))
        answers.append(Answer(a, b, answer))
    return answers


class Judging(unittest.TestCase):
    def test_the_order_of_a_judges_taste_is_found_and_the_judge_is_believed(self) -> None:
        inside = first = random = 0
        for seed in range(40):
            answers = judged(60, seed, LIKED)
            known = strengths_of(answers, len(LIKED))
            places = ranked(known)
            first += places[0].candidate == 0
            inside += sum(p.low <= LIKED[p.candidate] - LIKED.mean() <= p.high for p in places)
            random += judge_of(answers, len(LIKED)).at_random
        self.assertGreaterEqual(first, 36)
        self.assertTrue(0.9 <= inside / 200 <= 0.99, inside)
        self.assertLessEqual(random, 16, "most are told from chance after 60 pairs")

    def test_a_judge_who_answers_at_random_is_said_to_be_one(self) -> None:
        believed = sum(not judge_of(judged(40, seed, None), len(LIKED)).at_random for seed in range(100))
        self.assertLessEqual(believed, 5, "five in a hundred, by chance, whatever pairs the answers led to")

    def test_pairs_that_teach_find_the_order_sooner_than_pairs_at_random(self) -> None:
        found = np.zeros((2, 2))
        for seed in range(40):
            liked = np.random.default_rng([seed, 8]).normal(0, 1.2, 8)
            for row, by_chance in enumerate((False, True)):
                theta = strengths_of(judged(48, seed, liked, by_chance=by_chance), 8).theta
                found[row] += (stats.kendalltau(theta, liked).statistic, theta.argmax() == liked.argmax())
        self.assertGreater(found[0, 1], found[1, 1], "the first is the first more often, though some pairs are checks")
        self.assertGreater(found[0, 0], found[1, 0] - 1, "and the whole order no worse")

    @settings(max_examples=25, deadline=None)
    @given(st.integers(0, 10_000), st.integers(2, 6), st.lists(st.sampled_from((-1, 0, 1)), max_size=20))
    def test_what_is_asked_follows_from_the_answers_and_the_seed(self, seed: int, count: int, told: list[int]) -> None:
        answers: list[Answer] = []
        for n, answer in enumerate(told):
            a, b = next_pair(answers, count, seed)
            self.assertEqual((a, b), next_pair(list(answers), count, seed))
            self.assertEqual(a == b, n % CHECK_EVERY == CHECK_EVERY - 1, "a check now and then")
            self.assertTrue(0 <= a < count and 0 <= b < count)
            answers.append(Answer(a, b, answer))
        if count > 2:
            shown = [frozenset((a.first, a.second)) for a in answers if not a.checks]
            self.assertTrue(all(one != other for one, other in itertools.pairwise(shown)))

    def test_sides_are_drawn(self) -> None:
        sides = [next_pair([Answer(0, 1, 0)] * (n % 5), 4, n) for n in range(200)]
        left = sum(a < b for a, b in sides if a != b)
        self.assertTrue(70 <= left <= 130, left)

    def test_how_many_more_pairs_shrinks_as_they_come_and_is_none_in_the_end(self) -> None:
        near = np.array([[0, 12.0], [8, 0]])
        asked = more_needed(fit(near, np.zeros((2, 2))), 20)
        assert asked is not None
        self.assertTrue(20 < asked < 120, asked)
        scaled = near * (20 + asked) / 20
        self.assertEqual(more_needed(fit(scaled, np.zeros((2, 2))), 20 + asked), 0, "so many more do tell")
        self.assertGreater(more_needed(fit(scaled * 0.95, np.zeros((2, 2))), 19 + asked) or 0, 0)
        even = np.array([[0, 10.0], [10, 0]])
        self.assertIsNone(more_needed(fit(even, np.zeros((2, 2))), 20), "alike: nobody would judge so many")

    def test_pairs_seen_again_and_the_same_shown_twice_check_the_judge(self) -> None:
        answers = [Answer(0, 1, 1), Answer(1, 0, -1), Answer(0, 1, -1), Answer(2, 2, 0), Answer(1, 1, 1)]
        told = judge_of(answers, 3)
        self.assertEqual((told.twice, told.agrees, told.checks, told.checked), (2, 0.5, 2, 0.5))
        none = judge_of([], 3)
        self.assertEqual((none.chance, none.agrees, none.checked), (None, None, None))
        self.assertTrue(none.at_random)

    def test_another_judges_numbers_are_put_in_order(self) -> None:
        pens = [PenJudged("a", 1), PenJudged("b", 2)]
        theirs = Pairs("moss", pens[::-1], "s", 1, [Answer(0, 1, 1)])
        self.assertEqual(theirs.answers_by(pens), [Answer(1, 0, 1)])
        self.assertEqual(theirs.of, Pairs("fen", pens, "s", 9, []).of)


class GoesBy(unittest.TestCase):
    """Judges who weigh three criteria of four, on pens nothing was set by."""

    KEYS = ("range", "drag", "tips", "calm")
    PLANTED = np.array([3.0, 0.0, 1.5, -1.0])

    def fitted(self, seed: int, count: int = 120, pens: int = 8) -> list[tuple[float, float, float, float]]:
        rng = np.random.default_rng([seed, 31])
        points = rng.uniform(0, 100, (pens, 4))
        worth = points / 100 @ self.PLANTED
        answers = []
        for _ in range(count):
            a, b = rng.choice(pens, 2, replace=False)
            chosen = rng.random() < 1 / (1 + np.exp(worth[b] - worth[a]))
            answers.append(Answer(int(a), int(b), 1 if chosen else -1))
        found = {w.criterion: w for w in fitted_weights(answers, self.KEYS, points)}
        return [(t, found[k].low, found[k].weight, found[k].high) for k, t in zip(self.KEYS, self.PLANTED, strict=True)]

    def test_planted_weights_lie_in_their_intervals(self) -> None:
        told = [one for seed in range(100) for one in self.fitted(seed)]
        inside = sum(low <= true <= high for true, low, _, high in told) / len(told)
        self.assertTrue(0.9 <= inside <= 0.99, inside)
        by_key = np.array([w for _, _, w, _ in told]).reshape(-1, 4).mean(axis=0)
        np.testing.assert_allclose(by_key, self.PLANTED, atol=0.35)

    def test_few_answers_name_nothing(self) -> None:
        points = np.array([[90.0, 10], [10, 90], [50, 50]])
        answers = [Answer(0, 1, 1), Answer(1, 2, -1), Answer(0, 2, 0)]
        weights = fitted_weights(answers, ("range", "drag"), points)
        self.assertFalse(any(w.told for w in weights))
        self.assertIn("cannot be told", in_words(weights, ["range", "drag"], 3))
        self.assertEqual(fitted_weights([Answer(1, 1, 0)], ("range",), points[:, :1]), [])

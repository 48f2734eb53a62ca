"""What moved between two measurings of a line-up, and what is noise."""

import dataclasses
import unittest

import numpy as np
from hypothesis import given, settings
from hypothesis import strategies as st

from gray_quill.core.lineup.criteria import CRITERIA
from gray_quill.core.lineup.measure import Measured
from gray_quill.core.lineup.retest import moved

KEYS = ("drag", "range")
BLOCKS = 8


def measured(rng: np.random.Generator, candidates: int, shift: float = 0.0) -> Measured:
    """Blocks that differ by far more than a candidate does from one measuring to the next."""
    values = rng.normal(20, 6, (candidates, len(KEYS), BLOCKS)) + shift
    return Measured([f"pen {k}" for k in range(candidates)], list(KEYS), values.tolist())


def again(before: Measured, by: np.ndarray) -> Measured:
    return dataclasses.replace(before, values=(np.array(before.values) + by).tolist())


class Retest(unittest.TestCase):
    def test_the_same_again_moved_nothing(self) -> None:
        before = measured(np.random.default_rng(1), 3)
        self.assertEqual(moved(before, again(before, np.zeros(1))), [])

    def test_a_small_even_step_is_sure_however_much_blocks_differ(self) -> None:
        before = measured(np.random.default_rng(2), 2)
        step = np.zeros((2, len(KEYS), BLOCKS))
        step[1, 0] = 0.5 + np.random.default_rng(3).normal(0, 0.1, BLOCKS)
        (one,) = moved(before, again(before, step))
        self.assertEqual((one.candidate, one.criterion, one.sure), (1, "drag", True))
        self.assertFalse(one.better, "more drag is worse")
        self.assertAlmostEqual(one.by, one.now - one.before)
        (back,) = moved(again(before, step), before)
        self.assertEqual((back.by, back.low, back.high, back.better), (-one.by, -one.high, -one.low, True))

    def test_noise_is_called_noise_ninety_five_times_of_a_hundred(self) -> None:
        sure = told = 0
        for seed in range(200):
            rng = np.random.default_rng([seed, 7])
            before = measured(rng, 2)
            found = moved(before, again(before, rng.normal(0, 1, (2, len(KEYS), BLOCKS))))
            told += len(found)
            sure += sum(m.sure for m in found)
        self.assertEqual(told, 800)
        self.assertTrue(0.03 <= sure / told <= 0.07, sure / told)

    def test_the_interval_holds_what_it_moved_by(self) -> None:
        inside = 0
        for seed in range(200):
            rng = np.random.default_rng([seed, 8])
            before = measured(rng, 1)
            step = np.zeros((1, len(KEYS), BLOCKS))
            step[0, 0] = 2 + rng.normal(0, 3, BLOCKS)
            (one,) = moved(before, again(before, step))
            inside += one.low <= 2 <= one.high
        self.assertTrue(180 <= inside <= 198, inside)

    def test_what_cannot_be_told_in_either_says_nothing(self) -> None:
        before = measured(np.random.default_rng(4), 1)
        blind = dataclasses.replace(before, values=[[[None] * BLOCKS, before.values[0][1]]])
        self.assertEqual(moved(before, blind), [])
        one_block = Measured(["pen"], ["drag"], [[[3.0]]])
        (found,) = moved(one_block, again(one_block, np.ones(1)))
        self.assertFalse(found.sure, "one block alone is never sure")

    @settings(max_examples=60, deadline=None)
    @given(st.integers(0, 10_000), st.floats(-5, 5))
    def test_the_surest_come_first_and_the_way_is_the_criterions(self, seed: int, by: float) -> None:
        rng = np.random.default_rng(seed)
        before = measured(rng, 3)
        found = moved(before, again(before, by + rng.normal(0, 1, (3, len(KEYS), BLOCKS))))
        self.assertEqual([m.sure for m in found], sorted((m.sure for m in found), reverse=True))
        for one in found:
            self.assertEqual(one.better, (one.by > 0) == (CRITERIA[one.criterion].better == "more"))
            self.assertLessEqual(one.low, one.by)
            self.assertLessEqual(one.by, one.high)

"""Small writing beside writing made small: as even where both are of one size, calmer the larger it was written."""

import dataclasses
import unittest
from collections.abc import Sequence

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_intents
from gray_quill.core.hand.hand import SHIPPED_HANDS, Hand
from gray_quill.core.hand.intent import text_intents
from gray_quill.core.readings.calmer import calmer, feet_off_line
from gray_quill.core.trace import Trace

SMALL_MM = 1.5
TEXT = "seven moths on the sheet, two of them pale, none that was named, and rain after midnight"


def written(hand: Hand, times: float, seed: int, tremor_mm: float = 0.1) -> list[Trace]:
    """A line written so many times larger than it is to be, and made small."""
    rng = np.random.default_rng(seed)
    large = dataclasses.replace(hand, x_height_mm=SMALL_MM * times, tremor_mm=tremor_mm)
    traces = write_intents(text_intents(TEXT, large, 10, 40, 4000, rng), large, SHIPPED_DEVICES["tablet-11"], rng)
    return [dataclasses.replace(t, x_mm=t.x_mm / times, y_mm=t.y_mm / times) for t in traces]


def rms(traces: Sequence[Trace]) -> float:
    off = feet_off_line(traces)
    assert off is not None
    return float(np.sqrt((off**2).mean()))


class SmallWriting(unittest.TestCase):
    def test_alike_is_told_alike_and_larger_is_told_calmer(self) -> None:
        """Seeds and hands that nothing was set by; of twelve quotients of alike writing at most two may miss one."""
        alike, twice = [], []
        for name, hand in SHIPPED_HANDS.items():
            for seed in (101, 202, 303):
                small = written(hand, 1, seed)
                same = calmer(written(hand, 1, seed + 7), small)
                large = calmer(written(hand, 3, seed + 7), small)
                assert same.low is not None
                assert same.high is not None
                assert large.calmer is not None
                alike.append(same.low <= 1 <= same.high)
                twice.append((name, round(large.calmer, 2)))
        self.assertGreaterEqual(sum(alike), 10)
        self.assertTrue(all(times > 1.1 for _, times in twice), twice)

    def test_more_tremor_is_more_uneven_and_a_slope_is_not(self) -> None:
        hand = SHIPPED_HANDS["right-firm"]
        readings = [rms(written(hand, 1, 11, tremor)) for tremor in (0.0, 0.1, 0.2, 0.4)]
        self.assertEqual(readings, sorted(readings))
        level = written(hand, 1, 11)
        sloped = [dataclasses.replace(t, y_mm=t.y_mm + 0.02 * t.x_mm) for t in level]
        self.assertAlmostEqual(rms(sloped), rms(level), delta=0.01)
        doubled = [dataclasses.replace(t, x_mm=2 * t.x_mm, y_mm=2 * t.y_mm) for t in level]
        self.assertAlmostEqual(rms(doubled), rms(level), delta=0.02)

    def test_too_little_writing_tells_nothing(self) -> None:
        few = written(SHIPPED_HANDS["right-firm"], 1, 5)[:6]
        told = calmer(few, written(SHIPPED_HANDS["right-firm"], 1, 6))
        self.assertIsNone(told.strip)
        self.assertIsNone(told.calmer)
        self.assertIsNone(calmer([], []).elsewhere)

"""Pens beside each other: readings in which two differ, and ladders of one quantity."""

import unittest

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.ladder import LADDERS, STEPS, ladder
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.readings.differences import differences
from gray_quill.core.readings.ink_readings import read_ink

TABLET = SHIPPED_DEVICES["tablet-11"]
FEN = SHIPPED_PENS["fen-fountain"]


def line(hand: str = "right-firm") -> list:
    return write_text("Hawk-moth on the white sheet,", SHIPPED_HANDS[hand], TABLET, 7)


class Compare(unittest.TestCase):
    def test_differences_are_listed_largest_first_and_a_pen_differs_not_from_itself(self) -> None:
        traces = line()[:10]
        one, other = read_ink(traces, FEN), read_ink(traces, SHIPPED_PENS["reed-ballpoint"])
        self.assertEqual(differences(one, one), [])
        rows = differences(one, other)
        sizes = [abs(row.one - row.other) / max(abs(row.one), abs(row.other)) for row in rows]
        self.assertEqual(sizes, sorted(sizes, reverse=True))
        self.assertIn("range_ratio", [row.reading for row in rows])

    def test_ladders_rise(self) -> None:
        for over in LADDERS:
            pixels, values = ladder(FEN, over, 840, 336, "#ffffff")
            self.assertEqual((len(values), values), (STEPS, sorted(values)))
            rows = pixels[..., 3].astype(float).reshape(STEPS, 56, 840).sum(axis=(1, 2))
            if over == "width":
                self.assertTrue(np.all(np.diff(rows) > 0))

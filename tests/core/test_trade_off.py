"""Shake left against drag for every steadying method, and wishes solved on it."""

import dataclasses
import unittest

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.readings.trade_off import calmest_under, smallest_below, trade_curves, trade_point

TABLET = SHIPPED_DEVICES["tablet-11"]
FEN = SHIPPED_PENS["fen-fountain"]


def line(hand: str = "right-firm") -> list:
    return write_text("Hawk-moth on the white sheet,", SHIPPED_HANDS[hand], TABLET, 7)


class TradeOff(unittest.TestCase):
    def test_what_is_solved_is_what_was_asked_and_no_point_of_the_curves_does_better(self) -> None:
        traces, steady = line(), FEN.steady
        curves = trade_curves(traces, steady)
        for most in (6.0, 15.0, 40.0):
            point = calmest_under(traces, steady, most)
            self.assertLessEqual(point.drag_ms, most)
            self.assertLessEqual(point.shake_left, min(p.shake_left for p in curves if p.drag_ms <= most) + 1e-3)
        self.assertEqual(trade_point(traces, dataclasses.replace(steady, method="none")).shake_left, 1)
        for most in (0.8, 0.5):
            found = smallest_below(traces, steady, most)
            self.assertLessEqual(found.shake_left, most)
            self.assertLessEqual(found.drag_ms, min(p.drag_ms for p in curves if p.shake_left <= most) + 1)
        self.assertIsNone(smallest_below(traces, steady, 0.0))

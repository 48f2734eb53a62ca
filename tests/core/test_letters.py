"""Height of letters and whether the ink leaves them open."""

import dataclasses
import unittest

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.settle import settle
from gray_quill.core.pen.recipe import read_recipe
from gray_quill.core.readings.ink_readings import read_ink
from gray_quill.core.readings.letters import OPEN_MM, letters_of, open_share
from gray_quill.core.trace import Trace, make_trace

TABLET = SHIPPED_DEVICES["tablet-11"]


def rings(diameters_mm: list[float]) -> list[Trace]:
    """Circles in a row, each drawn one and a bit times around."""
    u = np.linspace(0, 2 * np.pi + 0.3, 240)
    return [
        make_trace(u / 10, 20 + 8 * k + d / 2 * np.cos(u), 30 + d / 2 * np.sin(u), 0 * u + 0.5)
        for k, d in enumerate(diameters_mm)
    ]


class Letters(unittest.TestCase):
    def test_the_height_of_letters_is_the_hands(self) -> None:
        for key, hand in SHIPPED_HANDS.items():
            for height in (1.2, 2.5, 6.0):
                traces = write_text(
                    "wings folded, three dark bars", dataclasses.replace(hand, x_height_mm=height), TABLET, 4
                )
                found = letters_of(tuple(traces)).x_height_mm
                assert found is not None
                self.assertAlmostEqual(found / height, 1, delta=0.1, msg=f"{key} {height}")
        self.assertIsNone(letters_of(tuple(rings([3.0]))).x_height_mm)

    def test_a_ring_stays_open_as_long_as_white_shows_in_it(self) -> None:
        """Of a ring the ink leaves its diameter less the width, to a ninth of it."""
        diameters = [2.0, 2.1, 2.2, 2.3, 2.0, 2.1, 2.2, 2.3]
        traces = rings(diameters)
        for width in (0.3, 1.0, 1.6, 1.75, 1.95, 2.2, 2.6):
            inks = [settle(t, read_recipe({"body": {"width_mm": width}})) for t in traces]
            share = open_share(letters_of(tuple(traces)), inks)
            surely, perhaps = (np.mean([d - width >= OPEN_MM + slack for d in diameters]) for slack in (0.25, -0.01))
            assert share is not None
            self.assertTrue(surely <= share <= perhaps, (width, share, surely, perhaps))

    def test_open_letters_close_as_the_pen_grows(self) -> None:
        traces = write_text("Hawk-moth on the white sheet,", SHIPPED_HANDS["right-firm"], TABLET, 7)
        shares = [read_ink(traces, read_recipe({"body": {"width_mm": w}})).open_share for w in (0.3, 0.8, 1.2, 2.4)]
        self.assertEqual((shares[0], shares[-1]), (1.0, 0.0))
        self.assertEqual(shares, sorted(shares, reverse=True))
        wash = read_ink(traces, read_recipe({"kind": "highlighter", "body": {"width_mm": 5}}))
        self.assertIsNone(wash.open_share, "a highlighter writes no letters")

    def test_variation_inside_and_between_strokes_is_told_apart(self) -> None:
        t = np.arange(0, 0.6, 1 / 240)
        pen = read_recipe({"press": {"range": 4}})
        inside = [make_trace(t, 20 + 40 * t, 0 * t + 30 + k, 0.5 + 0.3 * np.sin(30 * t)) for k in range(4)]
        between = [make_trace(t, 20 + 40 * t, 0 * t + 30 + k, 0 * t + 0.2 + 0.2 * k) for k in range(4)]
        self.assertGreater(read_ink(inside, pen).inside_share or 0, 0.99)
        self.assertLess(read_ink(between, pen).inside_share or 1, 0.01)
        self.assertIsNone(read_ink(inside, read_recipe({})).inside_share)

"""What a ring is meant to hold: whole words with their dots, and nothing of the line above that it touches."""

import unittest

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.hit_test import closes, strokes_met
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.readings.ringed import held_by
from gray_quill.core.trace import Trace, make_trace

TABLET, PEN = SHIPPED_DEVICES["tablet-11"], SHIPPED_PENS["fen-fountain"]
Box = tuple[float, float, float, float]


def box_of(traces: list[Trace]) -> Box:
    x, y = (np.concatenate([getattr(t, k) for t in traces]) for k in ("x_mm", "y_mm"))
    return float(x.min()), float(y.min()), float(x.max()), float(y.max())


def drawn_round(box: Box, room_mm: float, seed: int) -> np.ndarray:
    """A ring as a hand draws it: a wavering rounded rectangle that ends near where it began."""
    rng = np.random.default_rng(seed)
    u = np.linspace(0, 2 * np.pi, 60)
    rx, ry = (box[2] - box[0]) / 2 + room_mm, (box[3] - box[1]) / 2 + room_mm
    c, s = np.cos(u), np.sin(u)
    x = (box[0] + box[2]) / 2 + rx * np.sign(c) * abs(c) ** 0.4
    y = (box[1] + box[3]) / 2 + ry * np.sign(s) * abs(s) ** 0.4
    way = np.column_stack([x, y])
    return np.asarray(way + rng.normal(0, 0.15, way.shape))


class Ringed(unittest.TestCase):
    def test_a_ring_takes_its_words_with_their_dots_and_nothing_of_the_line_it_touches(self) -> None:
        touching = 0
        for key, hand in SHIPPED_HANDS.items():
            for seed in (3, 8, 21):
                high = write_text("quietly flying by", hand, TABLET, seed, baseline_mm=30)
                below_mm = 30 + 3.2 * hand.x_height_mm
                low = write_text("inside it, tiny bits", hand, TABLET, seed + 100, baseline_mm=below_mm)
                traces = [*high, *low]
                inks = settle_all(traces, PEN)
                ring = drawn_round(box_of(low), 1.4, seed)
                self.assertTrue(closes(ring))
                with self.subTest(key, seed=seed):
                    touching += bool(set(strokes_met(inks, ring)) & set(range(len(high))))
                    self.assertEqual(held_by(inks, traces, ring), set(range(len(high), len(traces))))

        self.assertGreater(touching, 1.5 * len(SHIPPED_HANDS), "most rings touch the line above")

    def test_one_letter_of_a_word_can_be_ringed_and_takes_its_dot(self) -> None:
        line = np.linspace(0, 1, 20)

        def stroke(x0: float, y0: float, x1: float, y1: float) -> Trace:
            return make_trace(line, x0 + (x1 - x0) * line, y0 + (y1 - y0) * line, 0 * line + 0.5)

        stems = [stroke(20 + 1.6 * k, 30, 20 + 1.6 * k, 34) for k in range(6)]
        dots = [stroke(20 + 1.6 * k, 28.4, 20.2 + 1.6 * k, 28.5) for k in range(6)]
        traces = [*stems, *dots]
        inks = settle_all(traces, PEN)
        around = drawn_round((21.4, 29.4, 21.8, 34.6), 0.4, 1)  # the second letter, not its dot
        self.assertEqual(held_by(inks, traces, around), {1, 7})
        four = drawn_round((19, 28, 25, 34.6), 0.6, 1)  # four of six: the larger part of the word
        self.assertEqual(held_by(inks, traces, four), set(range(12)))
        above = drawn_round((19, 28, 29, 29), 0.4, 1)  # all of the dots, and no letter
        self.assertEqual(held_by(inks, traces, above), set())

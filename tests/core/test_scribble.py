"""Scribbles are told from writing, for every hand; and what goes is what lies under them."""

import dataclasses
import unittest

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_intents, write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.hand.intent import Intent
from gray_quill.core.ink.scribble import is_scribble, scribbled
from gray_quill.core.ink.settle import settle
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.trace import Trace, moved

TABLET = SHIPPED_DEVICES["tablet-11"]
WORDS = """moth seen wings minimum hollow sedge lamp eyespot willow million mmm lll www xxx hill 1111 zigzag hatch fen
trap nine bars 0888 aluminium""".split()
SEED = 40  # the bounds were set on others


def zigzag(rng: np.random.Generator) -> np.ndarray:
    """To and fro 7 to 15 times in any direction, going on by a quarter of a swing and less from turn to turn."""
    n, swing, turn = int(rng.integers(7, 16)), rng.uniform(6, 30), rng.uniform(0, np.pi)
    on = np.linspace(0, min(rng.uniform(4, 40), 0.12 * swing * (n - 1)), n)
    across = np.where(np.arange(n) % 2, 1, -1) * swing / 2 * rng.uniform(0.75, 1.1, n)
    c, s = np.cos(turn), np.sin(turn)
    return np.asarray(np.column_stack((across, on)) @ np.array([[c, s], [-s, c]]) + 60)


def drawn(way: np.ndarray, hand: str, rng: np.random.Generator) -> Trace:
    return write_intents([Intent(way, None, 2.0)], SHIPPED_HANDS[hand], TABLET, rng)[0]


class Scribbles(unittest.TestCase):
    def test_they_are_told_from_words_of_every_hand(self) -> None:
        for name, hand in SHIPPED_HANDS.items():
            rng = np.random.default_rng(SEED)
            ways = [drawn(zigzag(rng), name, rng) for _ in range(60)]
            self.assertGreaterEqual(sum(is_scribble(t.x_mm, t.y_mm) for t in ways), 57, name)
            for size in (1.0, 2.2):
                large = dataclasses.replace(hand, x_height_mm=hand.x_height_mm * size)
                for word in WORDS:
                    for t in write_text(word, large, TABLET, SEED):
                        self.assertFalse(is_scribble(t.x_mm, t.y_mm), (name, word, size))

    def test_what_lies_under_one_goes_and_what_it_only_touches_stays(self) -> None:
        rng = np.random.default_rng(SEED + 1)
        way = np.column_stack((np.where(np.arange(14) % 2, 70.0, 40.0), np.linspace(28, 38, 14)))
        scribble = drawn(way, "right-firm", rng)
        line = drawn(np.array([[42.0, 33], [68, 33.5]]), "right-firm", rng)
        through = drawn(np.array([[55.0, 5], [55, 33], [55, 90]]), "right-firm", rng)
        inks = [settle(t, SHIPPED_PENS["reed-ballpoint"]) for t in (line, through, moved(line, 0, 30))]
        self.assertTrue(is_scribble(scribble.x_mm, scribble.y_mm))
        self.assertEqual(scribbled(inks, scribble.x_mm, scribble.y_mm), [0])

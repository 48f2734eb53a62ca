"""What is found by eye: thresholds of simulated eyes lie inside their intervals, guessing says nothing, and the record
of the screen is written from it.
"""

import unittest

import numpy as np

from gray_quill.core.errors import RecordError
from gray_quill.core.screen.by_eye import (
    FULL_GREYS,
    LADDERS,
    EyeSees,
    Looked,
    looked_at,
    matched,
    next_level,
    panel_greys,
)
from gray_quill.core.screen.small_words import ALIKE, like_words, small_writing

EYES = 60


def looking(kind: str, sees, rng: np.random.Generator) -> tuple[EyeSees, int]:  # type: ignore[no-untyped-def]
    """An eye that sees a level with some chance, guesses else, and is careless now and then."""
    looks: list[Looked] = []
    while not (found := looked_at(kind, looks)).done:
        right = rng.random() < sees(found.level) if rng.random() > 0.03 else False
        looks.append(Looked(found.level, bool(right or rng.random() < 0.25)))
    return found, len(looks)


def told_inside(kind: str, sees, truth: float, seed: int) -> tuple[int, int]:  # type: ignore[no-untyped-def]
    """How many of EYES are told something, and how many of these have the truth in their interval."""
    rng = np.random.default_rng(seed)
    found = [looking(kind, sees, rng)[0] for _ in range(EYES)]
    told = [f for f in found if f.value is not None]
    return len(told), sum((f.low or 0) <= truth <= (f.high or 1e9) for f in told)


class Thresholds(unittest.TestCase):
    def test_thresholds_of_simulated_eyes_lie_inside(self) -> None:
        """Of eyes whose seeing fades quickly or slowly."""
        for steep, least in ((5.0, 0.85), (12.0, 0.85), (2.5, 0.8)):
            for kind, truth in (("lines", 2.0), ("print", 0.9), ("writing", 1.5)):

                def sees(level: float, truth: float = truth, steep: float = steep) -> float:
                    return 1 / (1 + (truth / level) ** steep)

                told, inside = told_inside(kind, sees, truth, round(10 * steep))
                self.assertGreater(told, 0.9 * EYES, (kind, steep))
                self.assertGreaterEqual(inside / told, least, (kind, steep))

    def test_greys_of_a_panel_are_found(self) -> None:
        """The panel itself: ground and square are toned to its greys, and are seen where they then differ."""
        for greys in (4, 8, 16, 32):
            rng = np.random.default_rng(greys)
            right = inside = 0
            for _ in range(EYES):

                def sees(step: float, greys: int = greys, rng: np.random.Generator = rng) -> float:
                    ground = rng.integers(0, 256 - int(step))
                    one, other = (round(v * (greys - 1) / 255) for v in (ground, ground + step))
                    return float(one != other)

                found, _ = looking("greys", sees, rng)
                if found.value is not None:
                    right += panel_greys(found.value) == greys
                    inside += (found.low or 0) <= greys <= (found.high or 1e9)
            self.assertGreaterEqual(right / EYES, 0.75, greys)
            self.assertGreaterEqual(inside / EYES, 0.85, greys)

    def test_nothing_is_said_that_cannot_be_told(self) -> None:
        rng = np.random.default_rng(3)
        for kind in LADDERS:
            told, _ = told_inside(kind, lambda _: 0.0, 1.0, 11)
            self.assertLessEqual(told, 2, f"{kind}: answers at random")
        found, _ = looking("greys", lambda _: 1.0, rng)
        self.assertIsNone(found.value)
        self.assertIn(str(FULL_GREYS), found.words)
        found, _ = looking("print", lambda _: 1.0, rng)
        self.assertIsNone(found.value)
        self.assertIn("down to 0.4", found.words)
        few = looked_at("print", [Looked(3.0, True)] * 5)
        self.assertEqual((few.value, few.done, "7 more" in few.words), (None, False, True))
        with self.assertRaises(RecordError):
            looked_at("smells", [])

    def test_it_goes_on_harder_while_it_is_seen(self) -> None:
        ladder = LADDERS["lines"]
        self.assertEqual(next_level(ladder, []), ladder.levels[0])
        down = [Looked(1, True)] * 3
        self.assertEqual(next_level(ladder, down), ladder.levels[3])
        erred = [*down, Looked(1, False)]
        self.assertEqual(next_level(ladder, erred), ladder.levels[2])
        self.assertEqual(next_level(ladder, [*erred, Looked(1, True)]), ladder.levels[2], "two right ones are needed")
        self.assertEqual(next_level(ladder, [*erred, Looked(1, True), Looked(1, True)]), ladder.levels[3])
        self.assertEqual(next_level(ladder, [Looked(1, True)] * 50), ladder.levels[-1])

    def test_settings_that_look_the_same_have_an_interval(self) -> None:
        """Student's t for three: 4.303 (any table of it) times the spread over the root of three."""
        self.assertIsNone(matched([0.1, 0.1]))
        found = matched([0.08, 0.1, 0.12])
        assert found is not None
        self.assertAlmostEqual(found.value, 0.1)
        self.assertAlmostEqual(found.off, 4.303 * 0.02 / np.sqrt(3), places=4)


class Words(unittest.TestCase):
    def test_four_words_are_alike_and_writing_is_as_high_as_asked(self) -> None:
        for four in ALIKE:
            self.assertEqual(len({len(w) for w in four} | {len(four)}) <= 3 and len(set(four)), 4)
        self.assertEqual(sorted(like_words(np.random.default_rng(1))) in [sorted(f) for f in ALIKE], True)
        for height in (0.8, 2.0):
            made = small_writing("oxo" if height else "", height, 40.0)
            rows = np.flatnonzero((made < 128).any(axis=1))
            self.assertAlmostEqual((rows[-1] - rows[0]) / 40, height, delta=0.35 * height)
        thin, bold = (float((small_writing("moor", 1.0, 40.0, b) < 128).mean()) for b in (False, True))
        self.assertGreater(bold, 1.2 * thin)


if __name__ == "__main__":
    unittest.main()

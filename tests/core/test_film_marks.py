"""Films marked by hand."""

import dataclasses
import unittest

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.errors import InputError
from gray_quill.core.latency.film import film
from gray_quill.core.latency.film_marks import Mark, read_marks
from gray_quill.core.latency.film_reader import read_film
from gray_quill.core.pen.shipped import SHIPPED_PENS

TABLET, CLAMSHELL = SHIPPED_DEVICES["tablet-11"], SHIPPED_DEVICES["clamshell-11"]
FEN, REED = SHIPPED_PENS["fen-fountain"], SHIPPED_PENS["reed-ballpoint"]


class Marks(unittest.TestCase):
    def test_marks_find_the_delay_the_film_shows(self) -> None:
        """Marked where the reader found nib and ink, by a hand that is off by a pixel or so."""
        frames, truth = film(CLAMSHELL, FEN, 240, 4)
        read = read_film(frames, 240, truth.mm_per_px)
        rng = np.random.default_rng(3)
        marks = [
            Mark(
                int(read.frames_at[k]),
                (read.nib_mm[k] / truth.mm_per_px + dx, 72 + dy),
                (read.front_mm[k] / truth.mm_per_px + dx2, 73),
            )
            for k, (dx, dy, dx2) in zip(range(4, len(read.frames_at), 6), rng.normal(0, 1, (200, 3)), strict=False)
        ]
        got = read_marks(marks, 240, truth.mm_per_px)
        self.assertLessEqual(abs(got.delay_ms - truth.delay_ms), got.ci95_ms)
        self.assertAlmostEqual(got.gap_mm / truth.gap_mm, 1, delta=0.1)
        slanted = [dataclasses.replace(m, nib_px=m.nib_px[::-1], front_px=m.front_px[::-1]) for m in marks]
        self.assertAlmostEqual(read_marks(slanted, 240, truth.mm_per_px).delay_ms, got.delay_ms, delta=1e-6)

    def test_marks_that_tell_nothing_are_refused(self) -> None:
        good = [Mark(k, (100 + 10 * k, 50), (80 + 10 * k, 50)) for k in range(4)]
        for marks, why in (
            (good[:2], "3 frames or more; 2 are marked"),
            ([good[0]] * 5, "1 is marked"),
            ([dataclasses.replace(m, nib_px=(100, 50)) for m in good], "0.0 mm between"),
            ([dataclasses.replace(m, front_px=(900, 50)) for m in good], "ahead of the nib"),
        ):
            with self.assertRaisesRegex(InputError, why):
                read_marks(marks, 240, 0.1)
        self.assertAlmostEqual(
            read_marks(good, 100, 0.1).delay_ms, 20, places=6, msg="20 px behind at 10 px a frame: two frames"
        )

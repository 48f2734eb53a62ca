"""What kernels are given, and the simulated camera's quick picture against one drawn plainly."""

import unittest

import numpy as np

from gray_quill.core.arrays import plain
from gray_quill.core.latency import film
from gray_quill.core.latency.film_camera import bow_px


class Plain(unittest.TestCase):
    def test_whatever_comes_is_of_one_kind_and_what_is_so_already_is_not_copied(self) -> None:
        table = np.arange(12.0).reshape(6, 2)
        frozen = np.arange(6.0)
        frozen.flags.writeable = False
        for values in (table[:, 1], table.T, frozen, np.arange(6), [1, 2, 3]):
            found = plain(values)
            self.assertTrue(found.flags.c_contiguous and found.flags.writeable and found.dtype == np.float64)
            np.testing.assert_array_equal(found, values)
        self.assertIs(plain(table), table)


class Pictures(unittest.TestCase):
    def test_a_frame_is_the_mean_of_moments_drawn_one_by_one(self) -> None:
        """Paper, on it the ink's share of each pixel, on both the pen's; straight and bowed, with ink and without."""
        pens = film._pen_phases()
        for bow_mm in (0.0, -3.0):
            ink = film._ink_band(bow_mm)
            for nib, front in ((12.0, 5.0), (30.0, 21.3), (30.0, 31.0), (57.9, 55.0)):
                nibs, fronts = plain(nib + 0.07 * np.arange(4)), plain(front + 0.05 * np.arange(4))
                each = [self.moment(pens, ink, *at, bow_mm) for at in zip(nibs, fronts, strict=True)]
                picture = film._picture(pens, ink, nibs, fronts, bow_mm)
                np.testing.assert_allclose(picture, np.mean(each, axis=0), atol=1e-3)

    def moment(self, pens: list, ink: film._Ink, nib_mm: float, front_mm: float, bow_mm: float) -> np.ndarray:
        columns = np.arange(ink.grey.shape[1])
        starts, ends = film.START_MM * film.PX_PER_MM - columns, front_mm * film.PX_PER_MM - columns
        across = np.clip(ends, 0, 1) - np.clip(starts, 0, 1) if front_mm > film.START_MM else 0 * columns
        picture = np.full((round(film.HEIGHT_MM * film.PX_PER_MM), len(columns)), film.PAPER)
        picture[ink.rows] += ink.grey * across
        step = round((nib_mm - 0.5) * film.PX_PER_MM * film.PHASES)
        left, pen = step // film.PHASES, pens[step % film.PHASES]
        if bow_mm:
            low = bow_px(bow_mm, nib_mm, film.START_MM, film.END_MM, film.PX_PER_MM)
            pen = film._lowered(pen, float(low))
        part = picture[:, left : left + pen.shape[1]]
        part += (film.PEN - part) * pen[:, : part.shape[1]]
        return picture

"""Frames put right before they are read: strokes told apart, dark sheets turned over, shake and slope taken out."""

import unittest

import numpy as np
from scipy.ndimage import shift

from gray_quill.core.errors import InputError
from gray_quill.core.latency.film_camera import Camera, bow_px, filmed_by
from gray_quill.core.latency.film_frames import (
    as_dark_on_light,
    check_order,
    steadied,
    straightened,
    strokes_of,
    without_still_marks,
)

SHEET, INK = 214, 40
HEIGHT, WIDTH = 96, 512


def lined(count: int = 30, row: float = 72, slope: float = 0.0) -> np.ndarray:
    """Frames in which a line of ink grows to the right, from column 60 on; no pen."""
    out = np.full((count, HEIGHT, WIDTH), SHEET, np.uint8)
    for k in range(count):
        end = 120 + round(360 * k / count)
        for x in range(60, end):
            y = round(row + slope * (x - WIDTH / 2))
            out[k, y - 2 : y + 3, x] = INK
    return out


def row_of(frame: np.ndarray, column: int) -> float:
    dark = SHEET - frame[:, column].astype(float)
    return float((dark * np.arange(len(dark))).sum() / dark.sum())


class Strokes(unittest.TestCase):
    def test_a_film_is_cut_where_the_pen_goes_back(self) -> None:
        there = np.linspace(50, 450, 60)
        back = np.linspace(450, 50, 12)
        once = there + np.random.default_rng(1).normal(0, 0.5, 60)
        self.assertEqual(strokes_of(once, 60, 12), [slice(0, 60)])
        twice = np.concatenate([there, back, there, back, there])
        found = strokes_of(twice, 60, 12)
        self.assertEqual(len(found), 3)
        for k, part in enumerate(found):
            self.assertAlmostEqual(part.start, 72 * k, delta=13)
            self.assertGreater(twice[part][-1] - twice[part][0], 380)
        leftward = 500 - twice
        self.assertEqual(len(strokes_of(leftward, 60, 12)), 3)

    def test_frames_out_of_order_are_no_strokes(self) -> None:
        there = np.linspace(50, 450, 60)
        for seed in range(20):
            mixed = np.random.default_rng(seed).permutation(there)
            self.assertEqual(strokes_of(mixed, 60, 12), [slice(0, 60)])
            with self.assertRaisesRegex(InputError, "order they were taken"):
                check_order(mixed)
        check_order(there)


class Sheets(unittest.TestCase):
    def test_a_dark_sheet_is_turned_over_and_a_light_one_stays(self) -> None:
        light = lined(12)
        self.assertTrue((as_dark_on_light(light) == light).all())
        self.assertTrue((as_dark_on_light(255 - light) == light).all())

    def test_what_stands_still_goes_and_what_moves_stays(self) -> None:
        frames = lined(40)
        marked = frames.copy()
        marked[:, 20:24, 300:420] = 90  # a printed rule
        bare = without_still_marks(marked, SHEET)
        self.assertLess(np.abs(bare[:, 20:24, 300:420].astype(int) - SHEET).max(), 3)
        # ink that was there from the first frame on stands still; the end that grows does not
        self.assertTrue((bare[-1][70:75, 400:470] < 60).all())


class Lines(unittest.TestCase):
    def test_a_sloping_line_comes_to_lie_level(self) -> None:
        for slope in (-0.1, 0.05, 0.15):
            level = straightened(lined(slope=slope, row=60), SHEET, 40, WIDTH, 0.125)
            rows = [row_of(level[-1], x) for x in (100, 200, 300, 400)]
            self.assertLess(np.ptp(rows), 1.0, f"{slope}: {rows}")
        with self.assertRaisesRegex(InputError, "aslant"):
            frames = np.full((20, 300, 300), SHEET, np.uint8)
            for x in range(40, 290):
                y = 150 + round(0.45 * (x - 150))
                frames[:, y - 2 : y + 3, x] = INK
            straightened(frames, SHEET, 40, 300, 0.125)

    def test_a_shaken_camera_is_held_still_to_a_quarter_of_a_pixel(self) -> None:
        frames = lined(30)
        rng = np.random.default_rng(3)
        moves = rng.normal(0, 2, (30, 2))
        shaken = np.array(
            [shift(f.astype(float), m, order=1, mode="nearest").round() for f, m in zip(frames, moves, strict=True)],
            np.uint8,
        )
        where = np.linspace(200, 500, 30)
        still, known = steadied(shaken, SHEET, 40, where, 0.125)
        self.assertEqual(known, 0)
        rows = [row_of(f, 90) for f in still]
        begins = [int(np.flatnonzero(f[70:75].min(axis=0) < 127)[0]) for f in still]
        self.assertLess(np.std(rows), 0.3)
        self.assertLessEqual(np.ptp(begins), 1)
        untouched, _ = steadied(frames, SHEET, 40, where, 0.125)
        self.assertIs(untouched, frames, "what is still is not drawn again")


class Cameras(unittest.TestCase):
    def test_a_still_camera_changes_nothing_and_a_negative_all(self) -> None:
        frames = list(lined(3))
        for seen, frame in zip(filmed_by(frames, Camera(), 240, 8, 1), frames, strict=True):
            self.assertTrue((seen == frame).all())
        for seen, frame in zip(filmed_by(frames, Camera(negative=True), 240, 8, 1), frames, strict=True):
            self.assertTrue((seen == 255 - frame).all())

    def test_shake_is_as_large_as_it_says_and_repeats(self) -> None:
        frames = list(lined(60))
        seen = filmed_by(frames, Camera(shake_mm=0.4), 240, 8, 5)
        again = filmed_by(frames, Camera(shake_mm=0.4), 240, 8, 5)
        self.assertTrue(all((a == b).all() for a, b in zip(seen, again, strict=True)))
        rows = np.array([row_of(f, 90) for f in seen])
        self.assertAlmostEqual(float(np.sqrt(np.mean((rows - 72) ** 2))), 0.4 * 8, delta=2)

    def test_a_bow_starts_and_ends_on_the_line(self) -> None:
        places = np.array([6.0, 32.0, 58.0])
        np.testing.assert_allclose(bow_px(-2.0, places, 6.0, 58.0, 8.0), [0, -16, 0], atol=1e-9)

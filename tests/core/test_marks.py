"""Marks that are not an even band: sprays, wet edges, own grains."""

import itertools
import unittest

import numpy as np

from gray_quill.core.errors import InputError, RecordError
from gray_quill.core.ink.grain import surface
from gray_quill.core.ink.grain_tile import grain_tile
from gray_quill.core.ink.page import ink_pixels
from gray_quill.core.ink.settle import settle
from gray_quill.core.ink.view import View
from gray_quill.core.pen.highlighter import WET_LOSS, wet_rim_mm
from gray_quill.core.pen.recipe import read_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.readings.tone import evenness
from gray_quill.core.trace import Trace, make_trace

VIEW = View(0, 0, 8, 640, 320)
SPRAY = read_recipe({"kind": "spray", "body": {"width_mm": 10}, "wash": {"flow": 3, "tip": {"shape": "spray"}}})


def opacity(trace: Trace, recipe) -> np.ndarray:  # type: ignore[no-untyped-def]
    return ink_pixels([settle(trace, recipe)], VIEW)[..., 3] / 255


def walk(seconds: float, report_hz: float = 240, length: float = 50) -> Trace:
    n = int(seconds * report_hz) + 1
    t = np.linspace(0, seconds, n)
    return make_trace(t, 15 + length * t / seconds, np.full(n, 20.0), np.full(n, 0.5))


class Spray(unittest.TestCase):
    def test_standing_still_builds_up_as_time_says(self) -> None:
        """A dose of flow x time (and the puff it lands with) marks 1 - exp(-dose)."""
        middles = []
        for seconds in (0.2, 0.5, 1.0, 2.0):
            rest = make_trace([0, seconds], [30, 30], [20, 20], [0.5, 0.5])
            plane = opacity(rest, SPRAY)
            self.assertAlmostEqual(plane[160, 240], 1 - np.exp(-3 * (seconds + 0.12)), delta=0.01)
            middles.append(plane[160, 240])
            row = plane[160, 240 : 240 + 40]
            self.assertTrue((np.diff(row) <= 0).all() and row[-1] < 0.01, "softer and softer to the edge")
            np.testing.assert_allclose(row[:39], plane[160 : 160 + 39, 240], atol=0.01, err_msg="round")
        self.assertTrue(all(b > a for a, b in itertools.pairwise(middles)))

    def test_the_tone_does_not_depend_on_the_report_rate(self) -> None:
        fine, coarse = opacity(walk(1, 480), SPRAY), opacity(walk(1, 20), SPRAY)
        np.testing.assert_allclose(fine, coarse, atol=0.01)
        self.assertGreater(fine[160, 300], 1.5 * opacity(walk(0.4), SPRAY)[160, 300], "slower lays more")

    def test_a_second_pass_darkens_and_the_opacity_caps_it(self) -> None:
        thrice = make_trace(
            np.linspace(0, 3, 400), 30 + 10 * np.sin(np.linspace(0, 20, 400)), np.full(400, 20.0), np.full(400, 0.5)
        )
        capped = read_recipe(
            {"body": {"width_mm": 10, "opacity": 0.4}, "wash": {"flow": 20, "tip": {"shape": "spray"}}}
        )
        self.assertAlmostEqual(opacity(thrice, capped).max(), 0.4, delta=0.005)


class WetEdge(unittest.TestCase):
    def test_the_rim_keeps_its_tone_and_the_middle_loses_it(self) -> None:
        wet = read_recipe({"body": {"width_mm": 6, "opacity": 0.8}, "wash": {"wet_edge": 0.5}})
        plane = opacity(walk(1), wet)
        column = plane[:, 320]
        rim_px = round(wet_rim_mm(6) * 8)
        first = int(np.flatnonzero(column > 0.7)[0])
        self.assertAlmostEqual(column[first + 1 : first + rim_px - 1].mean(), 0.8, delta=0.01)
        self.assertAlmostEqual(column[160], 0.8 * (1 - 0.5 * WET_LOSS), delta=0.01)
        self.assertLess(evenness(plane[148:172, 160:480], 8), 0.01, "flat in the middle")
        self.assertLess(
            opacity(walk(1), SHIPPED_PENS["clover-marker"])[160, 320], SHIPPED_PENS["clover-marker"].body.opacity - 0.1
        )


class OwnGrain(unittest.TestCase):
    def picture(self, side: int = 400, period: float = 14.0) -> np.ndarray:
        """Bumps about `period` px apart under light from the left, whose edges do not meet."""
        rng = np.random.default_rng(3)
        fy, fx = np.meshgrid(np.fft.fftfreq(side), np.fft.fftfreq(side), indexing="ij")
        band = np.exp(-(np.log2(np.maximum(np.hypot(fx, fy), 1e-9) * period) ** 2) / 0.2)
        bumps = np.fft.ifft2(np.fft.fft2(rng.standard_normal((side, side))) * band).real
        return np.clip(0.5 + 0.1 * bumps[:, : side - 37] / bumps.std() + np.linspace(-0.25, 0.25, side - 37), 0, 1)

    def test_a_picture_becomes_an_even_tile_without_seam_or_lighting(self) -> None:
        tile = grain_tile(self.picture()).astype(float)
        np.testing.assert_array_equal(np.bincount(tile.astype(int).ravel(), minlength=256), 64)
        for axis in (0, 1):
            inside = np.abs(np.diff(tile, axis=axis)).mean(axis=1 - axis)
            seam = np.abs(np.take(tile, 0, axis) - np.take(tile, -1, axis)).mean()
            self.assertTrue(inside.min() * 0.6 <= seam <= inside.max(), "neither a line nor a fold")
            thirds = [part.mean() for part in np.array_split(tile, 3, axis=axis)]
            self.assertLess(max(thirds) - min(thirds), 12, "light from one side is gone")

    def test_its_grains_are_as_large_as_those_that_ship(self) -> None:
        def wavelength(tile: np.ndarray) -> float:
            power = np.abs(np.fft.fft2(tile - tile.mean())) ** 2
            f = np.hypot(np.fft.fftfreq(len(tile))[:, None], np.fft.fftfreq(len(tile))[None])
            f[0, 0] = 1
            return float(np.exp(-np.average(np.log(f), weights=power)))

        shipped = wavelength(surface("cold-pressed").astype(float))
        for period in (10, 20):
            self.assertAlmostEqual(
                wavelength(grain_tile(self.picture(500, period)).astype(float)) / shipped, 1, delta=0.3
            )

    def test_what_shows_no_grain_is_refused(self) -> None:
        for picture, why in ((np.full((200, 200), 0.5), "flat"), (np.zeros((20, 900)), "at least")):
            with self.assertRaisesRegex(InputError, why):
                grain_tile(picture)
        for own, why in (("", "Bring in a picture"), ("AAAA", "characters"), ("!" * 21848, "not a grain")):
            with self.assertRaisesRegex(RecordError, why):
                read_recipe({"tooth": {"grain": "own", "own": own}})

"""Tooth: tone follows force and grade, stays the same at any density, and grain has no seam."""

import itertools
import unittest

import numpy as np

from gray_quill.core.ink.grain import surface
from gray_quill.core.ink.page import ink_pixels
from gray_quill.core.ink.settle import settle
from gray_quill.core.ink.view import box_view
from gray_quill.core.pen.recipe import read_recipe
from gray_quill.core.pen.tooth import GRADES, SURFACES, TILE
from gray_quill.core.readings.tone import evenness, mean_tone
from gray_quill.core.trace import make_trace
from gray_quill.core.units import px_per_mm

PATCH = (22, 22, 58, 38)


def pencil(**tooth: object):  # type: ignore[no-untyped-def]
    return read_recipe(
        {
            "body": {"width_mm": 2.5},
            "press": {"floor": 0, "ceiling": 1, "opacity_range": 6},
            "tooth": {"grain": "cold-pressed", "scale_mm": 0.35, "grade": "2B", **tooth},
        }
    )


def patch(recipe, force: float, dpi: float = 200, seed: int = 0) -> np.ndarray:  # type: ignore[no-untyped-def]
    """Opacity of an even patch: one zigzag of rows closer than the pen is wide."""
    rows = np.arange(20, 40, 1.2)
    ends = np.array([[(18.0, 62.0)[i % 2], y] for i, y in enumerate(rows)])
    t = np.arange(0, len(rows) - 1, 0.02)
    x, y = np.interp(t, np.arange(len(rows)), ends[:, 0]), np.interp(t, np.arange(len(rows)), ends[:, 1])
    jitter = np.random.default_rng(seed).normal(0, 0.02, (2, len(t)))
    ink = settle(make_trace(t, x + jitter[0], y + jitter[1], np.full(len(t), force)), recipe)
    return ink_pixels([ink], box_view(PATCH, px_per_mm(dpi)))[..., 3] / 255


class Tone(unittest.TestCase):
    def test_it_rises_with_force_on_every_surface(self) -> None:
        for grain in SURFACES:
            for seed in range(2):
                for crisp in (True, False):
                    tones = [
                        mean_tone(patch(pencil(grain=grain, crisp=crisp), f, 120, seed)) for f in (0.05, 0.3, 0.6, 1.0)
                    ]
                    self.assertTrue(all(b > a + 0.01 for a, b in itertools.pairwise(tones)), (grain, tones))

    def test_it_rises_from_4h_to_8b(self) -> None:
        for force in (0.3, 0.9):
            tones = [mean_tone(patch(pencil(grade=g), force, 120)) for g in GRADES]
            self.assertTrue(all(b > a for a, b in itertools.pairwise(tones)), tones)
            self.assertGreater(tones[-1], 2 * tones[0])

    def test_density_does_not_change_it(self) -> None:
        for grain in ("smooth", "cold-pressed", "rough"):
            for crisp in (True, False):
                tones = [mean_tone(patch(pencil(grain=grain, crisp=crisp), 0.5, dpi)) for dpi in (150, 300, 600)]
                self.assertLess((max(tones) - min(tones)) / tones[0], 0.02, (grain, crisp, tones))

    def test_a_marker_lies_flat_and_a_rough_pencil_does_not(self) -> None:
        flat = read_recipe({"kind": "marker", "body": {"width_mm": 2.5, "opacity": 0.9}})
        self.assertLessEqual(evenness(patch(flat, 0.5), px_per_mm(200)), 0.03)
        rough = evenness(patch(pencil(grain="rough", scale_mm=0.8), 0.4), px_per_mm(200))
        self.assertGreater(rough, 0.08)

    def test_crisp_grit_survives_the_export_and_soft_grain_has_middle_tones(self) -> None:
        shares = {
            crisp: float(((0.1 < (p := patch(pencil(crisp=crisp, depth=1.0), 0.5, 600))) & (p < 0.9)).mean())
            for crisp in (True, False)
        }
        self.assertLess(shares[True], 0.15)
        self.assertGreater(shares[False], 2 * shares[True] + 0.1)


class Grain(unittest.TestCase):
    def test_tiles_repeat_without_a_seam_and_are_even(self) -> None:
        for grain in SURFACES:
            tile = surface(grain).astype(float)
            np.testing.assert_allclose(np.sort(tile.ravel()), (np.arange(TILE * TILE) + 0.5) / TILE**2, atol=1e-6)
            for axis in (0, 1):
                inside = np.abs(np.diff(tile, axis=axis)).mean(axis=1 - axis)
                seam = np.abs(np.take(tile, 0, axis) - np.take(tile, -1, axis)).mean()
                self.assertTrue(inside.min() <= seam <= inside.max(), grain)
            np.testing.assert_array_equal(surface(grain), tile.astype(np.float32))

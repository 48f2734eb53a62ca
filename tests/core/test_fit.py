"""Press curves fitted to a hand."""

import dataclasses
import unittest

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import fill_prompts
from gray_quill.core.errors import GrayQuillError
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.fit import cubic_bezier, cubic_form, fit_press
from gray_quill.core.pen.pressure_curve import Press, press_share
from gray_quill.core.pen.recipe import read_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.readings.press_use import press_use

TABLET = SHIPPED_DEVICES["tablet-11"]
FEN = SHIPPED_PENS["fen-fountain"]


def strip_force(hand: str) -> np.ndarray:
    traces = fill_prompts(paper_from_spec("blank A5"), SHIPPED_HANDS[hand], TABLET, 3, "strip")
    return np.concatenate([t.force for t in traces])


class Fit(unittest.TestCase):
    def test_it_ends_clipping_and_widens_what_is_used_for_both_hands(self) -> None:
        for hand in SHIPPED_HANDS:
            force = strip_force(hand)
            for press in (Press(0.25, 0.5, ((0, 0), (1, 1)), 4, 1), Press(0.0, 1.0, ((0, 0), (1, 1)), 4, 1)):
                before, after = press_use(force, press), press_use(force, fit_press(force, press, 0.6))
                self.assertLess(after.floor_share + after.ceiling_share, 0.05)
                if before.floor_share + before.ceiling_share < 0.05:
                    self.assertGreater(after.width_ratio, before.width_ratio)

    def test_the_curve_never_loses_order_and_blend_nought_is_the_straight_line(self) -> None:
        for seed in range(12):
            rng = np.random.default_rng(seed)
            force = np.clip(rng.beta(rng.uniform(0.4, 6), rng.uniform(0.4, 6), 400) * rng.uniform(0.3, 1), 0, 1)
            if np.ptp(force) < 0.02:
                continue
            for blend in (0, 0.5, 1):
                fitted = fit_press(force, FEN.press, blend)
                read_recipe(
                    {
                        "press": {
                            "floor": fitted.floor,
                            "ceiling": fitted.ceiling,
                            "points": [list(p) for p in fitted.points],
                        }
                    }
                )
                self.assertTrue(np.all(np.diff(press_share(fitted, np.sort(force))) >= -1e-12))
                if blend == 0:
                    np.testing.assert_allclose(
                        press_share(dataclasses.replace(fitted, floor=0, ceiling=1), force), force, atol=2e-3
                    )

    def test_full_equalisation_spreads_the_samples_evenly(self) -> None:
        force = strip_force("right-firm")
        share = press_share(fit_press(force, FEN.press, 1.0), force)
        np.testing.assert_allclose(np.quantile(share, [0.2, 0.4, 0.6, 0.8]), [0.2, 0.4, 0.6, 0.8], atol=0.03)

    def test_too_little_force_is_refused(self) -> None:
        for force in (np.full(500, 0.5), np.linspace(0, 1, 20)):
            with self.assertRaisesRegex(GrayQuillError, "too little force"):
                fit_press(force, FEN.press, 0.5)

    def test_the_two_point_form_says_how_far_off_it_is(self) -> None:
        x = np.linspace(0, 1, 101)
        for points in (((0, 0), (1, 1)), ((0, 0), (0.4, 0.3), (1, 1)), ((0, 0), (0.2, 0.6), (0.7, 0.7), (1, 1))):
            press = Press(0, 1, points, 4, 1)
            form = cubic_form(press)
            error = np.abs(cubic_bezier((form.x1, form.y1, form.x2, form.y2), x) - press_share(press, x)).max()
            self.assertAlmostEqual(error, form.largest_error, places=6)
        self.assertLess(cubic_form(Press(0.2, 0.7, ((0, 0), (1, 1)), 4, 1)).largest_error, 1e-4)

"""Pages: the order strokes are laid in, what washes do to ink, and what may be left out without being seen."""

import dataclasses
import unittest

import numpy as np

from gray_quill.core.ink.page import draw_order, ink_pixels, page_pixels
from gray_quill.core.ink.settle import settle
from gray_quill.core.ink.view import View
from gray_quill.core.paper import Paper, paper_from_spec
from gray_quill.core.pen.recipe import read_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.trace import make_trace
from tests.zoo import wave, zoo

VIEW = View(0, 0, 8, 800, 480)


def bar(colour: str, **wash: object):  # type: ignore[no-untyped-def]
    """A broad level stroke across the wave."""
    t = np.linspace(0, 1, 60)
    recipe = read_recipe({"body": {"width_mm": 14, "colour": colour, "opacity": 0.7}, "wash": wash})
    return settle(make_trace(t, 10 + 70 * t, np.full(60, 40.0), np.full(60, 0.5)), recipe)


def page(inks: list, paper: str = "blank A6 landscape white") -> np.ndarray:
    return page_pixels(inks, paper_from_spec(paper), VIEW).astype(int)


class Washes(unittest.TestCase):
    def setUp(self) -> None:
        self.line = settle(wave(), read_recipe({"body": {"width_mm": 1.2, "colour": "#202020"}}))
        self.inked = page([self.line])[..., 0] == 0x20

    def test_under_the_ink_it_leaves_every_pixel_of_full_ink_alone(self) -> None:
        for blend in ("normal", "multiply", "screen"):
            for order in ([0, 1], [1, 0]):
                strokes = [self.line, bar("#f2c14e", place="under", blend=blend)]
                after = page([strokes[i] for i in order])
                np.testing.assert_array_equal(after[self.inked], page([self.line])[self.inked])

    def test_over_the_ink_multiply_never_lightens_and_screen_never_darkens(self) -> None:
        before = page([self.line])
        self.assertTrue((page([self.line, bar("#f2c14e", blend="multiply")]) <= before).all())
        self.assertTrue((page([self.line, bar("#f2c14e", blend="screen")]) >= before).all())
        self.assertTrue(
            (page([self.line, bar("#f2c14e")])[self.inked] > before[self.inked]).any(),
            "laid over plainly it dims words",
        )

    def test_auto_multiplies_on_light_paper_and_screens_on_dark(self) -> None:
        for paper, blend in (("blank A6 landscape cream", "multiply"), ("blank A6 landscape black", "screen")):
            auto, named = (page([bar("#9ccb86", blend=b)], paper) for b in ("auto", blend))
            np.testing.assert_array_equal(auto, named)

    def test_washes_come_first_and_all_else_keeps_its_order(self) -> None:
        over = [settle(zoo()["dot"], SHIPPED_PENS[n]) for n in ("fen-fountain", "reed-ballpoint")]
        under = [settle(zoo()["dot"], SHIPPED_PENS[n]) for n in ("dusk-wash", "fern-wash")]
        mixed = [over[0], under[0], over[1], under[1]]
        self.assertEqual(draw_order(mixed), [*under, *over])


class Views(unittest.TestCase):
    def test_ink_outside_the_view_costs_and_shows_nothing(self) -> None:
        far = settle(wave(), read_recipe({"body": {"width_mm": 1}}))
        self.assertEqual(int(ink_pixels([far], View(500, 500, 8, 80, 80)).sum()), 0)

    def test_ruling_has_its_weight_at_every_density(self) -> None:
        paper = dataclasses.replace(paper_from_spec("ruled 7mm A6 white"), rule_colour="#000000", weight_mm=0.3)
        for scale in (4.0, 9.7, 20.0):
            view = View(10, 14, scale, 40, int(14 * scale))
            dark = (255 - page_pixels([], paper, view).astype(float)[:, 20, 0]) / 255
            self.assertAlmostEqual(dark.sum() / scale, 2 * 0.3, delta=0.02, msg=str(scale))

    def test_margin_lines_and_staves_are_drawn_on_dark_paper_too(self) -> None:
        for spec in ("wide ruled A5 black", "staves A5 dusk"):
            paper: Paper = paper_from_spec(spec)
            pixels = page_pixels([], paper, View(0, 0, 4, 590, 840)).astype(int)
            lighter = (pixels.sum(axis=2) > pixels[2, 2].sum() + 30).mean()
            self.assertTrue(0.005 < lighter < 0.2, (spec, lighter))

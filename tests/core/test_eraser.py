"""Rubbing out and placing ink: what is left is what geometry says, and nothing is lost."""

import dataclasses
import itertools
import unittest

import numpy as np
import shapely

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.errors import InputError
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.eraser import rubbed, sweep_of, touched
from gray_quill.core.ink.outline import ink_area
from gray_quill.core.ink.page import ink_pixels, opacity_plane
from gray_quill.core.ink.placement import IDENTITY, Placement, after, check_placement, inverse, placed
from gray_quill.core.ink.settle import Ink, settle
from gray_quill.core.ink.stroke_edits import UNEDITED, StrokeEdits, shown, to_settle
from gray_quill.core.ink.view import View, box_view
from gray_quill.core.pen.recipe import Recipe, read_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.trace import Trace
from tests.zoo import wave, zoo

SCALE = 14.0


def ink_of(trace: Trace, recipe: Recipe, edits: StrokeEdits = UNEDITED) -> Ink:
    return shown(trace, settle(to_settle(trace, edits), recipe), edits)[1]


def pixel_area(inks: list[Ink], box: tuple[float, float, float, float]) -> float:
    """Area that any of these cover."""
    planes = [opacity_plane([ink], box_view(box, SCALE)) for ink in inks]
    return float(np.maximum.reduce(planes).sum()) / 255 / SCALE**2 if planes else 0.0


def some_way(ink: Ink, rng: np.random.Generator) -> np.ndarray:
    """Across the ink, along it or a rub to and fro, near one of its points."""
    k = rng.integers(len(ink.x_mm))
    angle, length = rng.uniform(0, 2 * np.pi), rng.uniform(0, 6)
    turns = np.cumsum(np.concatenate(([angle], rng.normal(0, 1.2, 6))))
    steps = np.column_stack((np.cos(turns), np.sin(turns))) * length / 7
    return np.array((ink.x_mm[k], ink.y_mm[k])) + rng.normal(0, 0.4, 2) + np.cumsum(steps, axis=0)


class Rubbing(unittest.TestCase):
    def test_what_is_left_is_the_ink_without_what_the_eraser_went_over(self) -> None:
        """Areas by pixels of the pieces together, against shapely's difference of the whole: twice, one rub on what the
        other left.
        """
        rng = np.random.default_rng(5)
        words = write_text("moth", SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"], 2)
        pens = [SHIPPED_PENS[n] for n in ("reed-ballpoint", "fen-fountain", "sedge-nib")]
        cut = parts = 0
        for case, (trace, recipe) in enumerate(itertools.product([*words, *(zoo()[n] for n in ("cusp", "dot"))], pens)):
            ink = settle(trace, recipe)
            whole = ink_area(ink)
            for _ in range(4):
                edits_by_id, expected = [UNEDITED], whole
                for _ in range(2):
                    sweep = sweep_of(some_way(ink, rng), float(rng.choice([0.15, 0.5, 1.5])))
                    before = [ink_of(trace, recipe, s) for s in edits_by_id]
                    meets = touched(before, sweep)
                    lefts = [rubbed(before[k], s, sweep) if k in meets else [s] for k, s in enumerate(edits_by_id)]
                    edits_by_id = [s for left in lefts for s in left]
                    expected = expected.difference(sweep.area)
                    cut += len(meets) > 0
                inks = [ink_of(trace, recipe, s) for s in edits_by_id]
                parts = max(parts, len(inks))
                box = tuple(np.array(ink.box_mm) + (-1, -1, 1, 1))
                got = pixel_area(inks, box)
                self.assertAlmostEqual(got, expected.area, delta=max(0.01 * whole.area, 0.006), msg=case)
        self.assertGreater(cut, 30)
        self.assertGreater(parts, 2)

    def test_no_taper_begins_where_a_stroke_was_cut_and_its_outline_is_what_is_seen(self) -> None:
        trace, recipe = wave(), SHIPPED_PENS["fen-fountain"]
        ink = settle(trace, recipe)
        middle = len(ink.x_mm) // 2
        at = np.array([ink.x_mm[middle], ink.y_mm[middle]])
        left = rubbed(ink, UNEDITED, sweep_of([tuple(at + (0, -2)), tuple(at + (0, 2))], 0.6))
        self.assertEqual(len(left), 2)
        for edits in left:
            piece = ink_of(trace, recipe, edits)
            widths = np.interp(piece.at + np.floor(edits.span[0]), ink.at, ink.long_mm)
            np.testing.assert_allclose(widths, piece.long_mm)
            box = tuple(np.array(ink.box_mm) + (-1, -1, 1, 1))
            self.assertAlmostEqual(pixel_area([piece], box) / ink_area(piece).area, 1, delta=0.01)

    def test_rubbed_ink_is_gone_in_every_kind_of_pen(self) -> None:
        trace = zoo()["straight"]
        for name, recipe in SHIPPED_PENS.items():
            ink = settle(trace, recipe)
            x, y = (float((c[0] + c[-1]) / 2) for c in (ink.x_mm, ink.y_mm))
            sweep = sweep_of([(x, y - 9), (x, y + 9)], 1.5)
            view = View(x - 1, y - 1, 20, 40, 40)
            pieces = [ink_of(trace, recipe, s) for s in rubbed(ink, UNEDITED, sweep)]
            self.assertEqual(len(pieces), 2, name)
            self.assertEqual(int(ink_pixels(pieces, view)[..., 3].max()), 0, name)
            whole, halves = (int((ink_pixels(i, box_view(ink.box_mm, 8))[..., 3] > 0).sum()) for i in ([ink], pieces))
            self.assertLess(halves, whole, name)
            self.assertGreater(halves, whole * 0.3, name)

    def test_rubbing_all_of_it_leaves_nothing_and_beside_it_everything(self) -> None:
        for name in ("dot", "straight", "cusp", "self-crossing", "wedge"):
            trace = zoo()[name]
            for pen in ("reed-ballpoint", "sedge-nib", "mist-spray"):
                ink = settle(trace, SHIPPED_PENS[pen])
                way = np.column_stack((ink.x_mm, ink.y_mm))
                self.assertEqual(rubbed(ink, UNEDITED, sweep_of(way, float(ink.long_mm.max()) * 2)), [], (name, pen))
                beside = sweep_of([(ink.box_mm[2] + 3, ink.box_mm[1])], 1)
                self.assertEqual(touched([ink], beside), [], name)
                self.assertEqual(rubbed(ink, UNEDITED, beside), [UNEDITED], name)

    def test_a_piece_carries_only_what_came_near_it(self) -> None:
        trace, recipe = zoo()["straight"], SHIPPED_PENS["reed-ballpoint"]
        ink = settle(trace, recipe)
        x, y = (float((c[0] + c[-1]) / 2) for c in (ink.x_mm, ink.y_mm))
        k = np.arange(4000)
        way = np.column_stack((x + 4 * np.sin(k / 7), y - 60 + 0.03 * k))
        left = rubbed(ink, UNEDITED, sweep_of(way, 0.5))
        self.assertEqual(len(left), 2)
        self.assertLess(sum(len(rub.path_mm) for edits in left for rub in edits.rubs), 400)


class Placing(unittest.TestCase):
    def test_placements_compose_and_invert(self) -> None:
        rng = np.random.default_rng(3)
        for _ in range(200):
            made: list[Placement] = []
            for _ in range(3):
                turn, scale, flip = rng.uniform(0, 7), np.exp(rng.uniform(-2, 2)), rng.choice([-1, 1])
                a, b = scale * np.cos(turn), scale * np.sin(turn)
                made.append((a, b, -flip * b, flip * a, *rng.uniform(-90, 90, 2), 0.0, 0.0))
                check_placement(made[-1])
            pulled = (*made[0][:6], *rng.uniform(-0.001, 0.001, 2))
            one, two, three = (pulled, *made[1:]) if rng.random() < 0.5 else made
            np.testing.assert_allclose(after(one, inverse(one)), IDENTITY, atol=1e-9)
            np.testing.assert_allclose(after(after(one, two), three), after(one, after(two, three)), atol=1e-8)

    def test_ink_moved_scaled_and_turned_is_the_same_ink_there(self) -> None:
        """Area grows with the square of the scale where widths go along; with its first power at most where not."""
        trace = wave()
        for name in ("reed-ballpoint", "fen-fountain", "sedge-nib", "stitch-reed"):
            recipe = SHIPPED_PENS[name]
            whole = settle(trace, recipe)
            a, b = 1.5 * np.cos(0.7), 1.5 * np.sin(0.7)
            for placement, scale in (
                ((1.0, 0.0, 0.0, 1.0, 12.0, -4.0, 0.0, 0.0), 1),
                ((a, b, -b, a, 3.0, 5.0, 0.0, 0.0), 1.5),
            ):
                ink = ink_of(trace, recipe, StrokeEdits(placement=placement))
                x, y = whole.x_mm, whole.y_mm
                np.testing.assert_allclose(ink.x_mm, placement[0] * x + placement[2] * y + placement[4])
                np.testing.assert_allclose(ink.y_mm, placement[1] * x + placement[3] * y + placement[5])
                self.assertAlmostEqual(ink_area(ink).area / ink_area(whole).area / scale**2, 1, delta=2e-3, msg=name)
                kept = ink_of(trace, recipe, StrokeEdits(placement=placement, wider=False))
                if name == "reed-ballpoint":
                    self.assertAlmostEqual(float(kept.long_mm.max()), float(whole.long_mm.max()))

    def test_a_placement_without_size_is_refused(self) -> None:
        for bad in ((0, 0, 0, 0, 1, 1), (1, 0, 0, 0, 0, 0), (1, 1, 1, 1, 0, 0), (np.nan, 0, 0, 1, 0, 0)):
            with self.subTest(bad), self.assertRaises(InputError):
                check_placement((*map(float, bad), 0.0, 0.0))  # type: ignore[arg-type]

    def test_stretched_and_slanted_ink_keeps_the_pens_widths(self) -> None:
        """A trace placed unevenly is inked as if written so; there and back again gives the ink as it was."""
        recipe = read_recipe({"body": {"width_mm": 0.8}})
        for name in ("straight", "sharp"):
            trace = zoo()[name] if name in zoo() else wave()
            whole = ink_of(trace, recipe, UNEDITED)
            for placement in (
                (2.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0),
                (1.0, 0.0, 0.5, 1.0, -3.0, 0.0, 0.0, 0.0),
                (1.0, 0.2, 0.1, 1.1, -3.0, 0.0, 0.002, -0.001),
            ):
                ink = ink_of(trace, recipe, StrokeEdits(placement=placement))
                x, y = placed(trace.x_mm, trace.y_mm, placement)
                first, last = (float(x[0]), float(y[0])), (float(x[-1]), float(y[-1]))
                np.testing.assert_allclose((ink.x_mm[0], ink.y_mm[0]), first, atol=1e-6)
                np.testing.assert_allclose((ink.x_mm[-1], ink.y_mm[-1]), last, atol=1e-6)
                self.assertAlmostEqual(float(ink.long_mm.max()), float(whole.long_mm.max()), places=6)
                back = StrokeEdits(placement=after(placement, inverse(placement)))
                again = ink_of(trace, recipe, back)
                np.testing.assert_allclose(again.x_mm, whole.x_mm, atol=1e-9)

    def test_what_was_rubbed_goes_along_when_it_is_moved(self) -> None:
        trace, recipe = zoo()["straight"], read_recipe({"body": {"width_mm": 2}})
        ink = settle(trace, recipe)
        x, y = (float(np.mean(c)) for c in (ink.x_mm, ink.y_mm))
        (nicked,) = rubbed(ink, UNEDITED, sweep_of([(x, y - 1)], 0.8))
        away = dataclasses.replace(nicked, placement=(0.0, 1.0, -1.0, 0.0, 90.0, 7.0, 0.0, 0.0))
        self.assertAlmostEqual(
            ink_area(ink_of(trace, recipe, nicked)).area, ink_area(ink_of(trace, recipe, away)).area, places=4
        )
        self.assertLess(ink_area(ink_of(trace, recipe, nicked)).area, ink_area(ink).area - 0.5)
        self.assertTrue(shapely.is_valid(ink_area(ink_of(trace, recipe, away))))

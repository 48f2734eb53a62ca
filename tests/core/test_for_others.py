"""A pen in forms that others take over: written and read back, each within what it says."""

import dataclasses
import unittest

import numpy as np

from gray_quill.core.advice.on_device import not_done
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.errors import FormatError, GrayQuillError, InputError, RecordError, TooLarge
from gray_quill.core.pen.for_others import STEPS, curve_table, response
from gray_quill.core.pen.pressure_curve import press_share
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.pen.steady import METHODS, Steady
from gray_quill.core.quantities import changed
from gray_quill.core.readings.recipe_changes import recipe_changes
from gray_quill.formats.pen_forms import FORMS, read_form

BENT = changed(
    changed(
        SHIPPED_PENS["heron-brush"], "press.points", ((0.0, 0.0), (0.2, 0.5), (0.45, 0.55), (0.8, 0.6), (1.0, 1.0))
    ),
    "press.floor",
    0.11,
)


def back(form: str, pen: Recipe) -> tuple[Recipe, float | None]:
    """A pen written in a form and read onto a plain pen of its kind."""
    found = read_form(FORMS[form], FORMS[form].write(pen), dataclasses.replace(Recipe(), kind=pen.kind))
    return found.recipe, found.largest_error


class Forms(unittest.TestCase):
    def test_a_press_curve_comes_back_within_what_is_said(self) -> None:
        force = np.linspace(0, 1, STEPS)
        for name, pen in {**SHIPPED_PENS, "bent": BENT}.items():
            with self.subTest(name):
                table = curve_table(pen)
                read, error = back("press-curve", pen)
                np.testing.assert_allclose(curve_table(read)[:, 2], table[:, 2], rtol=0.03)
                np.testing.assert_allclose(curve_table(read)[:, 3], table[:, 3], rtol=0.03)
                if pen.press.widening > 1:
                    assert error is not None
                    apart = np.abs(press_share(read.press, force) - press_share(pen.press, force)).max()
                    self.assertLessEqual(apart, error + 1e-3, "what is said is what it is")
                    self.assertLess(error, 0.02)
                self.assertAlmostEqual(read.body.width_mm, pen.body.width_mm, delta=0.002 * pen.body.width_mm)

    def test_a_cubic_comes_back_as_near_as_it_could_hold_the_curve(self) -> None:
        force = np.linspace(0, 1, STEPS)
        for name, pen in {**SHIPPED_PENS, "bent": BENT}.items():
            with self.subTest(name):
                written = FORMS["press-cubic"].write(pen).decode()
                held = float(written.split('"largest_error": ')[1].split("\n")[0])
                read, error = back("press-cubic", pen)
                assert error is not None
                apart = np.abs(press_share(read.press, force) - press_share(pen.press, force)).max()
                self.assertLessEqual(apart, held + error + 2e-3)
        self.assertGreater(held, 0.03, "two bends are more than a cubic holds, and it says so")

    def test_a_steadying_comes_back_as_what_the_tip_does(self) -> None:
        for method in METHODS:
            for amount in (1.0, 4.0, 8.0):
                with self.subTest(method, amount=amount):
                    pen = dataclasses.replace(Recipe(), steady=Steady(method=method, amount=amount))
                    read, error = back("steadying", pen)
                    assert error is not None
                    apart = np.abs(response(read.steady)[:, 2] - response(pen.steady)[:, 2]).max()
                    self.assertAlmostEqual(apart, error, delta=1e-4)
                    self.assertLess(error, 0.02, "of 5 mm")
        read, _ = back("steadying", Recipe())
        self.assertEqual(read.steady.method, "none")

    def test_a_brush_tells_width_colour_and_opacity(self) -> None:
        pen = changed(SHIPPED_PENS["survey-marker"], "body.opacity", 0.9)
        read, _ = back("brush", pen)
        self.assertEqual(
            (read.body.width_mm, read.body.colour, read.body.opacity),
            (pen.body.width_mm, pen.body.colour, pen.body.opacity),
        )
        self.assertEqual(back("brush", SHIPPED_PENS["reed-ballpoint"])[0].press.range, 1)

    def test_what_is_no_such_file_is_refused_with_what_to_do(self) -> None:
        head = b"step,force,share,width_mm,opacity\n"
        level = head + b"".join(f"{k},{k / 9},0.5,{1 + k},1\n".encode() for k in range(10))
        cases: list[tuple[str, bytes, type[GrayQuillError], str]] = [
            ("press-curve", b"", FormatError, "needs the columns"),
            ("press-curve", b"\xff\xfe\x00", FormatError, "no CSV file"),
            ("press-curve", head + b"0,0,0,1\n" * 9, FormatError, "no number"),
            ("press-curve", head + b"0,nan,0,1,1\n" * 9, FormatError, "no number"),
            ("press-curve", head + b"0,0,0,1,1\n" * 9, InputError, "force rises"),
            ("press-curve", head + b"0,0,0,1,1\n" * 5000, TooLarge, "rows"),
            ("press-curve", level, InputError, "level"),
            ("press-curve", level.replace(b",10,1", b",100,1"), InputError, "20 times"),
            ("press-cubic", b"{}", FormatError, "no press curve"),
            ("press-cubic", b'{"format": "gray-quill/press-cubic@1"}', FormatError, "four numbers"),
            (
                "press-cubic",
                b'{"format": "gray-quill/press-cubic@1", "floor": 0.9, "ceiling": 0.1, "cubic_bezier": [0, 0, 1, 1]}',
                InputError,
                "above its floor",
            ),
            ("steadying", b"t_ms,hand_mm,tip_mm\n0,0,0\n", InputError, "256 rows"),
            ("brush", b"<ink/>", FormatError, "no brush"),
            ("brush", b"<!DOCTYPE x><ink/>", FormatError, "DTD"),
            ("brush", b"<ink><brush><brushProperty name='width' value='-3'/></brush></ink>", RecordError, "width_mm"),
            ("brush", b"<ink><brush><brushProperty name='width' value='x'/></brush></ink>", FormatError, "no numbers"),
            ("brush", b" " * 300_000, TooLarge, "kilobytes"),
        ]
        for form, data, kind, words in cases:
            with self.subTest(form, words=words), self.assertRaises(kind) as refused:
                read_form(FORMS[form], data, SHIPPED_PENS["fen-fountain"])
            self.assertIn(words, refused.exception.message)


class OnDevice(unittest.TestCase):
    def test_it_says_what_does_not_come_out_and_nothing_of_what_does(self) -> None:
        tablet, plain = SHIPPED_DEVICES["tablet-11"], SHIPPED_PENS["fen-fountain"]
        self.assertEqual(not_done(plain, tablet), [])
        dull = changed(changed(tablet, "digitiser.tilt", False), "panel.colour", False)
        blunt = changed(changed(tablet, "digitiser.levels", 16), "digitiser.activation", 0.2)
        cases = [
            (SHIPPED_PENS["alder-charcoal"], dull, "leans"),
            (changed(plain, "body.colour", "#2e5e5a"), dull, "no colour"),
            (SHIPPED_PENS["heron-brush"], blunt, "steps"),
            (SHIPPED_PENS["heron-brush"], blunt, "lightest strokes"),
            (SHIPPED_PENS["heron-brush"], changed(tablet, "digitiser.levels", 2), "one width"),
            (SHIPPED_PENS["needle-liner"], changed(tablet, "panel.ppi", 90.0), "paler"),
            (SHIPPED_PENS["dusk-wash"], changed(tablet, "panel.greys", 16), "16 greys"),
        ]
        for pen, device, words in cases:
            with self.subTest(words):
                self.assertIn(words, " ".join(not_done(pen, device)))
                self.assertNotIn(words, " ".join(not_done(pen, tablet)))


class Changes(unittest.TestCase):
    def test_every_field_that_differs_is_told_once_with_its_unit(self) -> None:
        was = SHIPPED_PENS["fen-fountain"]
        now = changed(changed(changed(was, "body.width_mm", 0.7), "press.on", False), "press.points", ((0, 0), (1, 1)))
        told = {c.field: c.words for c in recipe_changes(was, now)}
        self.assertEqual(
            told,
            {
                "body.width_mm": "0.5 to 0.7 mm",
                "press.on": "off",
                "press.points": "through 0.40, 0.30 to through a straight line",
            },
        )
        self.assertEqual(recipe_changes(was, was), [])
        back_again = {c.field: c.words for c in recipe_changes(now, was)}
        self.assertEqual(list(back_again), list(told), "there and back is told of the same fields")

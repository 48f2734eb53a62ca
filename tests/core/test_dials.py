"""Plain dials and the scales under them: what is turned moves, what is not stays, and back is back."""

import dataclasses
import unittest

from gray_quill.core.errors import RecordError
from gray_quill.core.ink.settle import settle
from gray_quill.core.pen.dials import DIALS, dials_of, standing, turned
from gray_quill.core.pen.pressure_curve import Press
from gray_quill.core.pen.recipe import GROUPS, Recipe, recipe_fields, write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import changed, quantities, share_at, value_at
from gray_quill.core.readings.ink_readings import read_ink
from tests.zoo import wave

FEN = SHIPPED_PENS["fen-fountain"]


class Dials(unittest.TestCase):
    def test_a_dial_left_where_it_stands_changes_nothing(self) -> None:
        for pen in SHIPPED_PENS.values():
            for dial in DIALS:
                self.assertIs(turned(pen, dial.name, standing(dial, pen)), pen)

    def test_a_dial_goes_where_it_is_turned_and_moves_nothing_else(self) -> None:
        for pen in SHIPPED_PENS.values():
            for told, dial in zip(dials_of(pen), DIALS, strict=True):
                for to in (0.0, 0.37, 1.0):
                    now = turned(pen, dial.name, to)
                    self.assertAlmostEqual(standing(dial, now), to, delta=0.03, msg=f"{pen.name}, {dial.name}")
                    still = now
                    for path in (*told.moves, *(dial.starts or ())[:1]):
                        group, _, name = path.rpartition(".")
                        old = pen
                        for part in path.split("."):
                            old = getattr(old, part)
                        still = changed(still, f"{group}.{name}", old)
                    self.assertEqual(still, pen, f"{pen.name}, {dial.name}")

    def test_what_was_set_finely_stays_in_proportion(self) -> None:
        """A taper set to an odd length moves from there, and the other way round gives it back."""
        odd = changed(changed(FEN, "ends.end_mm", 3.3), "body.width_mm", 0.47)
        thicker = turned(odd, "width", standing(DIALS[0], odd) + 0.1)
        self.assertGreater(thicker.ends.end_mm, 3.3)
        back = turned(thicker, "width", standing(DIALS[0], odd))
        self.assertAlmostEqual(back.ends.end_mm, 3.3, delta=0.11)
        self.assertAlmostEqual(back.body.width_mm, 0.47, delta=0.011)

    def test_readings_follow_the_words(self) -> None:
        trace = wave()
        for name, reading in (("width", "width_p50_mm"), ("life", "range_ratio"), ("calm", "drag_ms")):
            seen = [getattr(read_ink([trace], turned(FEN, name, to)), reading) for to in (0.1, 0.4, 0.7)]
            self.assertEqual(seen, sorted(seen), name)
            self.assertLess(seen[0], seen[-1], name)
        self.assertTrue(turned(FEN, "grit", 0.5).tooth.toothed)
        with self.assertRaisesRegex(RecordError, "width"):
            turned(FEN, "mood", 0.5)


class Scales(unittest.TestCase):
    def test_every_scale_rises_from_its_low_to_its_high_and_back(self) -> None:
        for record in GROUPS.values():
            for name, q in quantities(record).items():
                if q.kind not in ("number", "integer"):
                    continue
                values = [value_at(q, k / 20) for k in range(21)]
                self.assertEqual(values, sorted(values), name)
                self.assertAlmostEqual(values[0], q.low)
                self.assertAlmostEqual(values[-1], q.high)
                for k, value in enumerate(values):
                    self.assertAlmostEqual(share_at(q, value), k / 20, msg=name)
                self.assertGreater(q.notice, 0, name)

    def test_a_scale_that_spans_decades_gives_each_its_room(self) -> None:
        width = quantities(GROUPS["body"])["width_mm"]
        self.assertAlmostEqual(value_at(width, 0.5), (0.05 * 20) ** 0.5, delta=0.001)

    def test_what_a_control_needs_is_there(self) -> None:
        for group, fields in recipe_fields().items():
            names = {f.name: f for f in fields}
            for f in fields:
                if not f.needs:
                    continue
                on, _, values = f.needs.partition("=")
                self.assertIn(on, names, f"{group}.{f.name}")
                self.assertTrue(set(values.split(",")) <= set(names[on].options) or not values, f.needs)


class PressAndEnds(unittest.TestCase):
    def test_press_off_draws_as_if_force_were_one_and_keeps_its_settings(self) -> None:
        off = changed(FEN, "press.on", False)
        flat = dataclasses.replace(FEN, press=Press())
        self.assertEqual(settle(wave(), off).short_mm.tolist(), settle(wave(), flat).short_mm.tolist())
        self.assertEqual(off.press.range, FEN.press.range)
        self.assertEqual(write_recipe(off)["press"]["range"], FEN.press.range)

    def test_tapers_in_widths_are_as_gentle_on_a_thicker_pen(self) -> None:
        """Twice the width tapers over twice the length, so the slope of its edge is the same."""
        pen = changed(changed(Recipe(), "ends.end_widths", 6.0), "ends.end_tip", 0.1)
        for width in (0.4, 1.6):
            ends = changed(pen, "body.width_mm", width).ends.for_width(width)
            self.assertAlmostEqual(ends.end_mm / width, 6)
        slopes = [read_ink([wave()], changed(pen, "body.width_mm", w)).max_taper_slope for w in (0.4, 1.2)]
        self.assertAlmostEqual(slopes[1] / slopes[0], 1, delta=0.1)
        plain = changed(Recipe(), "ends.end_mm", 2.4)
        self.assertEqual(plain.ends.for_width(9), plain.ends)

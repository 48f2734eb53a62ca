"""Readings are declared once: every record, note and piece of advice speaks of them by that declaration."""

import dataclasses
import unittest

import numpy as np

from gray_quill.core.advice.diagnosis import ADVICE_READINGS
from gray_quill.core.advice.proposals import advise
from gray_quill.core.catalogue import READINGS
from gray_quill.core.colour.srgb import hex_of, is_dark, rgb
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.pen.ends import taper
from gray_quill.core.pen.recipe import read_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.pen.steady import Steady
from gray_quill.core.readings.differences import differences
from gray_quill.core.readings.ink_readings import HEAVY_MS, LOST_CORNER_MM, Readings, read_ink
from gray_quill.core.readings.notes import NOTES, effort_word, notes_of
from gray_quill.core.readings.reading import BETTER, SHARE, Reading, in_words, readings_of
from gray_quill.core.trace import make_trace

LINE = write_text("moth on the lamp, wing", SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"], 3)


class Tapers(unittest.TestCase):
    def test_the_steepest_taper_is_the_formulas_at_every_speed_and_rate(self) -> None:
        """w (tip + (1 - tip) ease(s / length)), its derivative by small steps; slow and fast, at any report rate."""
        for length, tip, ease in ((0.5, 0.0, 0.0), (1.5, 0.2, 0.6), (4.0, 0.5, 1.0)):
            ends = {"start_mm": length, "start_tip": tip, "ease": ease}
            recipe = read_recipe({"body": {"width_mm": 1.2}, "ends": ends})
            s = np.linspace(0, length, 4001)
            slopes = np.abs(np.diff(1.2 * taper(s, length, tip, ease))) / (s[1] - s[0])
            steep = float(slopes.reshape(20, 200).mean(axis=1).max())  # over a twentieth of the taper
            for speed, hz in ((8, 240), (60, 60), (60, 240), (200, 240)):
                t = np.arange(0, 30 / speed, 1 / hz)
                line = make_trace(t, 20 + speed * t, 0 * t + 30, 0 * t + 0.5)
                self.assertAlmostEqual(read_ink([line], recipe).max_taper_slope / steep, 1, delta=0.12, msg=f"{ends}")


class Declared(unittest.TestCase):
    def test_every_reading_has_words_and_a_way_where_it_has_a_bound(self) -> None:
        for group, readings in READINGS.items():
            for key, r in readings.items():
                self.assertTrue(r.label and r.help and r.help[0].isupper() and r.help.endswith("."), f"{group}.{key}")
                self.assertIn(r.better, BETTER, f"{group}.{key}")
                self.assertTrue(r.attention is None or r.better, f"{group}.{key} has a bound and no worse side")
        self.assertEqual(set(readings_of(Readings)), {f.name for f in dataclasses.fields(Readings)})

    def test_values_are_said_with_their_unit(self) -> None:
        for unit, digits, value, words in (
            ("mm", None, 0.523, "0.52 mm"),
            ("mm", None, 0.0123, "0.012 mm"),
            ("ms", 1, 12.04, "12.0 ms"),
            (SHARE, None, 0.034, "3.4 %"),
            (SHARE, None, 0.5, "50 %"),
            ("×", None, 3.1, "×3.10"),
            (":1", None, 4.5, "4.50:1"),
            ("", 0, 7, "7"),
            ("mm", None, None, "–"),
        ):
            self.assertEqual(in_words(Reading("l", unit, "h", digits), value), words)

    def test_attention_begins_beyond_the_bound_on_the_worse_side(self) -> None:
        for better, value, calls in (
            ("less", 2.1, True),
            ("less", 2.0, False),
            ("more", 1.9, True),
            ("more", 2.0, False),
        ):
            self.assertEqual(Reading("l", "", "h", better=better, attention=2.0).calls_for_attention(value), calls)
        self.assertFalse(Reading("l", "", "h", better="less").calls_for_attention(9))


class Notes(unittest.TestCase):
    def readings(self, **changes: float | None) -> Readings:
        plain = read_ink(LINE, SHIPPED_PENS["reed-ballpoint"])
        return dataclasses.replace(plain, **changes)  # type: ignore[arg-type]

    def test_notes_speak_of_declared_readings_in_their_words(self) -> None:
        self.assertEqual({key for kind in NOTES.values() for key in kind.of} - set(readings_of(Readings)), set())
        notes = {n.key: n for n in notes_of(self.readings(width_p05_mm=0.21, width_p95_mm=0.65, range_ratio=3.1))}
        self.assertEqual(list(notes), list(NOTES))
        self.assertEqual(notes["light and firm"].words, "0.21 to 0.65 mm, ×3.10")
        self.assertIn("The thinnest your pen drew", notes["widths"].help)

    def test_a_note_calls_for_attention_where_one_of_its_readings_does(self) -> None:
        for key, changes, calls in (
            ("drag", {"drag_ms": HEAVY_MS + 0.1}, True),
            ("drag", {"drag_ms": HEAVY_MS}, False),
            ("corners", {"corner_loss_mm": LOST_CORNER_MM + 0.01}, True),
            ("corners", {"corner_loss_mm": LOST_CORNER_MM}, False),
            ("force", {"ceiling_share": 0.2, "floor_share": 0.0}, True),
            ("lost force", {"ceiling_share": 0.0, "floor_share": 0.0}, False),
        ):
            note = next(n for n in notes_of(self.readings(**changes)) if n.key == key)
            self.assertEqual(note.attention, calls, f"{key} {changes}")
        for ms, word in ((0, "light"), (8.9, "light"), (9, "easy"), (39, "noticeable"), (HEAVY_MS, "heavy")):
            self.assertEqual(effort_word(ms), word)

    def test_what_steadying_costs_is_said_only_where_there_is_any(self) -> None:
        notes = {n.key: n.words for n in notes_of(self.readings(drag_ms=0.0, wobble_in_mm=None, corner_loss_mm=0.0))}
        self.assertEqual(notes["drag"], "none, no effort")
        self.assertEqual((notes["wobble"], notes["corners"]), ("cannot be told from this", "all kept"))

    def test_advice_and_notes_share_their_bounds(self) -> None:
        """The pen is called heavy by the margin exactly when advice, on a line without corners, says so."""
        t = np.arange(0, 2, 1 / 240)
        line, seen = [make_trace(t, 20 + 30 * t, 0 * t + 30, 0 * t + 0.5)], set()
        for amount in (0.0, 2.0, 3.5, 4.0, 4.5, 5.0, 8.0):
            pen = dataclasses.replace(SHIPPED_PENS["reed-ballpoint"], steady=Steady("window", amount))
            advised = any(a.reading == "drag_ms" for a in advise(line, pen))
            noted = next(n for n in notes_of(read_ink(line, pen)) if n.key == "drag")
            self.assertEqual((advised, noted.words.startswith("heavy")), (noted.attention, noted.attention), amount)
            seen.add(noted.attention)
        self.assertEqual(seen, {False, True})

    def test_every_piece_of_advice_reads_something_declared(self) -> None:
        known = set(readings_of(Readings)) | set(ADVICE_READINGS)
        for pen in SHIPPED_PENS.values():
            for a in advise(LINE[:6], pen):
                self.assertLessEqual({a.reading, *(c.reading for c in a.price)}, known)

    def test_differences_leave_out_what_no_pen_can_change(self) -> None:
        one, other = (read_ink(LINE, SHIPPED_PENS[p]) for p in ("reed-ballpoint", "heron-brush"))
        found = differences(one, dataclasses.replace(other, force_p50=0.9, samples=1))
        self.assertTrue(found and not {d.reading for d in found} & {"force_p50", "samples"})
        self.assertEqual(differences(one, one), [])


class Colours(unittest.TestCase):
    def test_dark_grounds_are_known_from_light_ones(self) -> None:
        """By luminance: full green is light though its channels add up to little."""
        for colour, dark in (("#ffffff", False), ("#2b3036", True), ("#00ff00", False), ("#0000ff", True)):
            self.assertEqual(is_dark(colour), dark, colour)
        self.assertEqual(hex_of(rgb("#2e5e5a")), "#2e5e5a")

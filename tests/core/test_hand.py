"""The simulated hand and digitiser."""

import dataclasses
import unittest

import numpy as np
from shapely import LineString, unary_union

from gray_quill.core.colour.srgb import decode_srgb
from gray_quill.core.digitiser.device import SHIPPED_DEVICES, Digitiser
from gray_quill.core.digitiser.sampling import sample_motions
from gray_quill.core.digitiser.writer import fill_prompts, write_intents, write_text
from gray_quill.core.errors import GrayQuillError
from gray_quill.core.generated.letterforms import FACES
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.hand.intent import Intent, text_intents
from gray_quill.core.hand.letters import line_strokes
from gray_quill.core.hand.motion import MOTION_HZ, perform, power_law_speed, tremor
from gray_quill.core.hand.prompts import prompts_for
from gray_quill.core.panel.dither import DITHERS, reduce_greys
from gray_quill.core.panel.proof import Toning, proof_sheet
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.readings.panel_readings import panel_readings
from gray_quill.core.trace import bounds_mm
from tests.zoo import zoo

RIGHT, LEFT = SHIPPED_HANDS["right-firm"], SHIPPED_HANDS["left-steep"]
TABLET = SHIPPED_DEVICES["tablet-11"]


class Writer(unittest.TestCase):
    def test_a_seed_repeats_exactly_and_another_differs(self) -> None:
        one, same, other = (write_text("moth 3", RIGHT, TABLET, seed) for seed in (4, 4, 5))
        self.assertTrue(
            all(
                np.array_equal(a.x_mm, b.x_mm) and np.array_equal(a.force, b.force)
                for a, b in zip(one, same, strict=True)
            )
        )
        self.assertFalse(np.array_equal(one[0].x_mm[:20], other[0].x_mm[:20]))

    def test_every_ascii_character_is_written_inside_its_column(self) -> None:
        text = "".join(chr(c) for c in range(33, 127))
        for hand in SHIPPED_HANDS.values():
            traces = write_text(" ".join(text[i : i + 8] for i in range(0, len(text), 8)), hand, TABLET, 1, 20, 30, 100)
            left, top, right, _ = bounds_mm(traces)
            self.assertTrue(left > 14 and right < 128 and top > 18, bounds_mm(traces))
        with self.assertRaisesRegex(GrayQuillError, "ASCII"):
            write_text("naïve", RIGHT, TABLET, 1)
        with self.assertRaisesRegex(GrayQuillError, "1 to 4000"):
            write_text("  ", RIGHT, TABLET, 1)

    def test_hands_press_move_and_lean_as_they_say(self) -> None:
        for hand in (RIGHT, LEFT):
            traces = write_text("hollow sedge and a lamp in the fen", hand, TABLET, 2)
            force = np.concatenate([t.force for t in traces])
            self.assertAlmostEqual(np.median(force), hand.force, delta=0.15)
            length = sum(np.hypot(np.diff(t.x_mm), np.diff(t.y_mm)).sum() for t in traces)
            self.assertAlmostEqual(
                length / sum(t.t_s[-1] for t in traces), hand.speed_mm_s, delta=hand.speed_mm_s * 0.25
            )
            self.assertAlmostEqual(
                np.degrees(np.median(np.concatenate([t.altitude for t in traces]))), hand.altitude_deg, delta=4
            )
        mean = {
            hand.side: np.degrees(np.median(np.concatenate([t.azimuth for t in write_text("moth", hand, TABLET, 2)])))
            for hand in (RIGHT, LEFT)
        }
        self.assertLess(mean["right"], 90)
        self.assertGreater(mean["left"], 90)

    def test_hands_take_their_time_as_people_do(self) -> None:
        """Half-cycles about 100 ms and the pen down for half to three quarters of the time: from memory."""
        text = "Hawk-moth on the white sheet, minimum at trap nine, wings folded 12.6"
        for key, hand in SHIPPED_HANDS.items():
            calm, rng = dataclasses.replace(hand, tremor_mm=0), np.random.default_rng(3)
            motions = perform(calm, text_intents(text, calm, 0, 0, 500, rng), rng)
            turns = [np.flatnonzero(np.diff(np.sign(np.gradient(m.y_mm))) != 0) for m in motions]
            half_ms = float(np.median(np.concatenate([np.diff(t) for t in turns]))) * 1000 / MOTION_HZ
            down = sum(m.t_s[-1] for m in motions) / (motions[-1].start_s + motions[-1].t_s[-1])
            low, high = (180, 300) if "shaky" in key else (85, 130)
            self.assertTrue(low < half_ms < high, (key, half_ms))
            self.assertTrue(0.5 < down < 0.8, (key, down))
            self.assertGreaterEqual(min(m.t_s[-1] for m in motions), 0.069, key)

    def test_letters_are_one_line_and_joined_where_a_hand_joins(self) -> None:
        for word, script, plain in (("minimum", 3, 9), ("wings", 2, 6), ("0123", 4, 4), ("56789", 5, 5), ("add", 1, 3)):
            for face, strokes in (("script", script), ("plain", plain)):
                self.assertEqual(len(line_strokes(word, face)), strokes, (word, face))
        for face in FACES:
            for digit in "0123456789":  # a stroke that doubles another fills the figure as soon as ink has a width
                lines = [LineString(s) for s in line_strokes(digit, face)]
                ink = unary_union([s.buffer(0.5) for s in lines]).area
                self.assertGreater(ink, 0.9 * sum(s.length for s in lines), (face, digit))

    def test_downstrokes_are_heavier(self) -> None:
        down: list[float] = []
        up: list[float] = []
        for t in write_text("ill lit hill", RIGHT, TABLET, 3):
            vy = np.gradient(t.y_mm, t.t_s) if len(t) > 30 else np.zeros(0)
            middle = slice(12, -12)
            down += t.force[middle][vy[middle] > 30].tolist() if len(vy) else []
            up += t.force[middle][vy[middle] < -30].tolist() if len(vy) else []
        self.assertGreater(np.mean(down), np.mean(up) + 0.1)

    def test_tremor_has_the_asked_size(self) -> None:
        shake = tremor(0.2, int(30 * MOTION_HZ), np.random.default_rng(1))
        np.testing.assert_allclose(np.sqrt((shake**2).mean(axis=1)), 0.2, rtol=0.1)

    def test_the_test_sheet_fills_every_prompt(self) -> None:
        for spec in ("dotted A5", "blank A4 landscape"):
            paper = paper_from_spec(spec)
            traces = fill_prompts(paper, LEFT, TABLET, 1)
            for prompt in prompts_for(paper):
                left, top, right, bottom = prompt.box_mm
                inside = [
                    t for t in traces if left - 3 < t.x_mm.mean() < right + 3 and top - 3 < t.y_mm.mean() < bottom + 3
                ]
                self.assertTrue(inside, (spec, prompt.name))
            wedge = traces[0]
            self.assertTrue(wedge.force[0] < 0.06 and wedge.force[-1] > 0.94)


class Motion(unittest.TestCase):
    def test_speed_follows_curvature(self) -> None:
        u = np.linspace(0, 2 * np.pi, 20_000)
        x, y = 30 * np.cos(u), 10 * np.sin(u)
        along = np.concatenate(([0], np.cumsum(np.hypot(np.diff(x), np.diff(y)))))
        even = np.linspace(0, along[-1], 4000)
        x, y = np.interp(even, along, x), np.interp(even, along, y)
        speed = power_law_speed(x, y, 5.0)[400:-400]
        dx, dy = np.gradient(x), np.gradient(y)
        curvature = (np.abs(dx * np.gradient(dy) - dy * np.gradient(dx)) / np.hypot(dx, dy) ** 3)[400:-400]
        self.assertAlmostEqual(np.polyfit(np.log(curvature), np.log(speed), 1)[0], -1 / 3, delta=0.03)

    def test_a_digitiser_reports_as_it_says(self) -> None:
        rng = np.random.default_rng(2)
        hand = dataclasses.replace(RIGHT, tremor_mm=0)
        line = Intent(np.array([[10.0, 20], [110, 20]]), (0.5, 0.5))
        motions = perform(hand, [line], rng)
        rough = Digitiser(200, 64, 0.2, 0.1, 0.05, 0.1, tilt=False)
        trace = sample_motions(motions, rough, rng)[0]
        self.assertLessEqual(len(np.unique(np.round(trace.force * 63))), 64)
        np.testing.assert_allclose(trace.force * 63, np.round(trace.force * 63), atol=1e-9)
        self.assertAlmostEqual(trace.y_mm.std(), 0.1, delta=0.02)
        expected = motions[0].t_s[-1] * 200
        self.assertAlmostEqual(len(trace) / expected, 0.9, delta=0.05)
        self.assertEqual(trace.absent, {"tilt"})
        self.assertEqual(sample_motions(perform(hand, [Intent(line.path, (0.1, 0.1))], rng), rough, rng), [])


class Panels(unittest.TestCase):
    def test_reduced_greys_are_the_panels_own_and_keep_the_mean(self) -> None:
        field = np.full((128, 128), 97, np.uint8)
        for method in DITHERS:
            for greys in (2, 4, 16):
                out = reduce_greys(field, greys, method)
                self.assertTrue(set(np.unique(out)) <= {round(k * 255 / (greys - 1)) for k in range(greys)})
                if method != "none":
                    self.assertAlmostEqual(decode_srgb(out / 255).mean(), float(decode_srgb(97 / 255)), delta=0.008)
            np.testing.assert_array_equal(reduce_greys(field, 256, method), field)

    def test_a_thin_grey_line_is_said_to_vanish_on_paper_slates_only_when_it_does(self) -> None:
        from gray_quill.core.ink.settle import settle
        from gray_quill.core.pen.recipe import read_recipe

        paper, panel = paper_from_spec("blank A6 white"), SHIPPED_DEVICES["paper-slate-10"].panel
        shares = []
        for width, colour in ((0.6, "#000000"), (0.08, "#b0b0b0")):
            inks = [settle(zoo()["straight"], read_recipe({"body": {"width_mm": width, "colour": colour}}))]
            shares.append(panel_readings(inks, paper, panel, proof_sheet(inks, paper, panel)).hairline_share)
        self.assertEqual(shares, [0.0, 1.0])

    def test_ink_is_judged_against_the_paper_as_the_panel_shows_it(self) -> None:
        """Cream is white on 16 greys and grey on 4: the same ink shows on one and not on the other."""
        from gray_quill.core.ink.settle import settle
        from gray_quill.core.pen.recipe import read_recipe

        paper = dataclasses.replace(paper_from_spec("blank A6"), colour="#f3ead2")
        inks = [settle(zoo()["straight"], read_recipe({"body": {"width_mm": 0.6, "colour": "#7c7c7c"}}))]
        panel = SHIPPED_DEVICES["paper-pad-8"].panel
        for greys, paper_grey in ((16, 238), (4, 255), (2, 255)):
            proof = proof_sheet(inks, paper, panel, Toning(greys=greys))
            self.assertAlmostEqual(proof.ground, float(decode_srgb(np.array(paper_grey / 255))), places=6)
            darkest = float(decode_srgb(np.array(proof.pixels.min() / 255)))
            told = panel_readings(inks, paper, panel, proof)
            self.assertAlmostEqual(told.best_contrast, (proof.ground + 0.05) / (darkest + 0.05), places=4)

    def test_what_dither_mixes_counts_by_its_light(self) -> None:
        """A flat grey that rounding misses by a whole step is met by a mix; a picture without change has no error."""
        paper = dataclasses.replace(paper_from_spec("blank A6"), colour="#bababa")
        panel = SHIPPED_DEVICES["paper-pad-8"].panel
        errors = {}
        for method in DITHERS:
            proof = proof_sheet([], paper, panel, Toning(method, 16))
            errors[method] = panel_readings([], paper, panel, proof).grey_error
        self.assertAlmostEqual(errors["none"], 1 / 255, places=4)  # 0xba is 186, the grey 187 is there
        self.assertLess(max(e for method, e in errors.items() if method != "none"), 1 / 255)
        whole = proof_sheet([], paper, SHIPPED_DEVICES["tablet-11"].panel)
        self.assertEqual(panel_readings([], paper, SHIPPED_DEVICES["tablet-11"].panel, whole).grey_error, 0)

    def test_dots_of_a_hard_pencil_show_on_every_panel(self) -> None:
        from gray_quill.core.ink.settle import settle
        from gray_quill.core.pen.shipped import SHIPPED_PENS

        paper = paper_from_spec("blank A6 white")
        for name, device in SHIPPED_DEVICES.items():
            rng = np.random.default_rng(2)
            dots = [Intent(np.array([[10.0 + 8 * i, 20.0]]), (f, f)) for i, f in enumerate((0.3, 0.5, 0.7, 0.9))]
            inks = [settle(t, SHIPPED_PENS["lichen-pencil-2h"]) for t in write_intents(dots, RIGHT, device, rng)]
            pixels = proof_sheet(inks, paper, device.panel).pixels
            px = device.panel.ppi / 25.4
            for i in range(len(dots)):
                rows, columns = (slice(int((c - 1) * px), int((c + 1) * px)) for c in (20, 10 + 8 * i))
                self.assertLess(int(pixels[rows, columns].min()), 210, f"{name} {i}")  # 1.5 to 1 on white paper

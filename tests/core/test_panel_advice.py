"""What helps on a panel: every prediction is what is read when the change is tried, over all shipped pens and panels;
what is marked is what was counted; a page sent out beside the panel's look; colours through a filter.
"""

import dataclasses
import unittest

import numpy as np

from gray_quill.core.advice.fit_panel import WIDER, with_change
from gray_quill.core.advice.on_panel import OnPanel, advise_on_panel, surface_advice
from gray_quill.core.colour.srgb import decode_srgb, encode_srgb
from gray_quill.core.digitiser.device import SHIPPED_DEVICES, Panel
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.errors import NoInk
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.latency.pen_path import path_advice
from gray_quill.core.latency.trial import model_lag, takes_fast_path
from gray_quill.core.panel.colour_filter import through_filter
from gray_quill.core.panel.light import room_of, seen_luminance
from gray_quill.core.panel.proof import PLAIN, Toning, proof_sheet
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.readings.exported import exported, softest
from gray_quill.core.readings.on_panel import alike, vanishing_share
from gray_quill.core.readings.panel_readings import VANISHING, panel_readings, vanishing_runs

PAPER = paper_from_spec("dotted A7 white")
LINE = write_text("moa", SHIPPED_HANDS["left-steep"], SHIPPED_DEVICES["tablet-11"], 3)
DEVICES = SHIPPED_DEVICES
PAD, SLATE = DEVICES["paper-pad-8"].panel, DEVICES["paper-slate-10"].panel


def on(panel: Panel, light: str = "no glare") -> OnPanel:
    return OnPanel(lambda pen: settle_all(LINE, pen, PAPER), LINE, PAPER, panel, room_of(light))


def faint(pen: Recipe, width_mm: float, colour: str) -> Recipe:
    return dataclasses.replace(pen, body=dataclasses.replace(pen.body, width_mm=width_mm, colour=colour))


class Advice(unittest.TestCase):
    def test_each_prediction_is_what_is_read_when_it_is_tried(self) -> None:
        """Within 10 %; pens as they shipped, and one that is faint everywhere, in an office's light."""
        told: dict[str, int] = {}
        pens = [*SHIPPED_PENS.values(), faint(SHIPPED_PENS["reed-ballpoint"], 0.12, "#9a9a9a")]
        for pen in pens:
            for name, device in DEVICES.items():
                sheet = on(device.panel, "office" if pen is pens[-1] else "no glare")
                for a in advise_on_panel(sheet, pen):
                    tried, toned = a.recipe or pen, a.toning or PLAIN
                    inks = settle_all(LINE, tried, PAPER)
                    proof = proof_sheet(inks, PAPER, device.panel, toned, sheet.room)
                    if a.reading == ("pen on panel", "alike"):
                        then: float = len(alike([tried], PAPER.colour, device.panel, toned, sheet.room))
                    else:
                        then = getattr(panel_readings(inks, PAPER, device.panel, proof), a.reading[1])
                    self.assertAlmostEqual(
                        then, a.after, delta=0.1 * a.after + 1e-9, msg=f"{pen.name} {name} {a.doing}"
                    )
                    self.assertLess(a.after, a.before)
                    told[a.reading[1]] = told.get(a.reading[1], 0) + 1
        self.assertGreater(told["hairline_share"], 40, told)

    def test_the_width_told_is_the_smallest_that_keeps_the_line(self) -> None:
        pen = faint(SHIPPED_PENS["reed-ballpoint"], 0.08, "#808080")
        told = next(a for a in advise_on_panel(on(PAD), pen) if a.doing.startswith("width"))
        assert told.recipe is not None
        holds = [
            vanishing_share(settle_all(LINE, wider), PAPER, PAD, PLAIN, room_of("no glare")) <= VANISHING
            for wider in (with_change(pen, float(w), pen.body.colour) for w in WIDER[1:])
        ]
        self.assertIn(True, holds)
        smallest = with_change(pen, float(WIDER[1:][holds.index(True)]), pen.body.colour)
        self.assertEqual(told.recipe.body, smallest.body)

    def test_the_frame_is_told_to_turn_black_and_white_on_e_paper_alone(self) -> None:
        """WCAG's ratio of black on white there, and of the frame's own colours toned to the panel's greys."""
        (told,) = surface_advice(PAD, "#565c65", "#f6f2e9", room_of("office"))
        self.assertEqual((told.surface, told.recipe, told.toning), ("e-ink", None, None))
        seen = seen_luminance(PAD, room_of("office"))
        self.assertAlmostEqual(told.after, float((seen[255] + 0.05) / (seen[0] + 0.05)))
        steps = [round(round(grey * 7 / 255) * 255 / 7) for grey in (91, 242)]  # of these colours' greys, by luminance
        light = sorted(float(seen[s]) for s in steps)
        self.assertAlmostEqual(told.before, (light[1] + 0.05) / (light[0] + 0.05), places=6)
        self.assertEqual(surface_advice(PAD, "#000000", "#ffffff"), [])
        self.assertEqual(surface_advice(DEVICES["tablet-11"].panel, "#565c65", "#f6f2e9"), [])

    def test_following_it_ends(self) -> None:
        """The first change is made, and the next, until nothing more is told."""
        for name in ("moth-pencil-2b", "heath-brush", "hollow-reed", "clover-marker"):
            for device in (DEVICES["paper-slate-10"], DEVICES["paper-pad-8"], DEVICES["paper-colour-10"]):
                pen, toned, steps = SHIPPED_PENS[name], PLAIN, 0
                while told := [*path_advice(device, pen), *advise_on_panel(on(device.panel), pen, toned)]:
                    pen, toned, steps = told[0].recipe or pen, told[0].toning or toned, steps + 1
                    self.assertLess(steps, 5, (name, device.name))

    def test_washes_are_left_pale_and_a_sound_pen_is_left_alone(self) -> None:
        for name in ("dusk-wash", "fern-wash"):
            self.assertEqual([a for a in advise_on_panel(on(PAD), SHIPPED_PENS[name]) if a.recipe], [])
        bold = faint(SHIPPED_PENS["reed-ballpoint"], 0.8, "#000000")
        self.assertEqual(advise_on_panel(on(DEVICES["tablet-11"].panel), bold), [])

    def test_ink_that_the_fast_path_does_not_take_is_told_what_it_would(self) -> None:
        slate = DEVICES["paper-slate-10"]
        pencil = SHIPPED_PENS["moth-pencil-2b"]
        (told,) = path_advice(slate, pencil)
        assert told.recipe is not None
        self.assertTrue(takes_fast_path(told.recipe))
        self.assertEqual((told.before, told.after), tuple(model_lag(slate, p).p50_ms for p in (pencil, told.recipe)))
        self.assertLess(told.after, told.before / 2)
        for device, pen in (
            (slate, "reed-ballpoint"),
            (slate, "dusk-wash"),
            (DEVICES["paper-pad-8"], "moth-pencil-2b"),
        ):
            self.assertEqual(path_advice(device, SHIPPED_PENS[pen]), [])


class Marks(unittest.TestCase):
    def test_what_is_marked_is_what_was_counted(self) -> None:
        for colour, panel, toning in (
            ("#909090", PAD, PLAIN),
            ("#606060", SLATE, PLAIN),
            ("#606060", SLATE, Toning("floyd-steinberg", 4)),
        ):
            pen = faint(SHIPPED_PENS["reed-ballpoint"], 0.08, colour)
            inks = settle_all(LINE, pen, PAPER)
            proof = proof_sheet(inks, PAPER, panel, toning)
            share = panel_readings(inks, PAPER, panel, proof).hairline_share
            runs = vanishing_runs(inks, PAPER, panel, proof)
            lengths = [float(np.hypot(*np.diff(way, axis=0).T).sum()) for way in runs]
            whole = sum(float(np.hypot(np.diff(i.x_mm), np.diff(i.y_mm)).sum()) for i in inks)
            self.assertGreater(share, 0.1)
            self.assertAlmostEqual(sum(lengths) / whole, share, delta=0.12 * share + 0.02)
            self.assertEqual(lengths, sorted(lengths, reverse=True))


class SentOut(unittest.TestCase):
    def test_a_picture_at_the_panels_own_density_is_the_panels_look(self) -> None:
        inks = settle_all(LINE, SHIPPED_PENS["fen-fountain"], PAPER)
        looks = exported(inks, SHIPPED_PENS["fen-fountain"], PAPER, Panel(ppi=300))
        here, at_150, at_300, at_600 = looks
        self.assertEqual((at_300.edge_mm, at_300.faint, at_300.apart_l), (here.edge_mm, here.faint, 0.0))
        self.assertTrue(at_150.edge_mm > at_300.edge_mm > at_600.edge_mm)
        self.assertEqual(softest(looks), 150)
        slate = exported(inks, SHIPPED_PENS["fen-fountain"], PAPER, SLATE)
        self.assertEqual(softest(slate), 150, "mushy beside the slate")
        coarse = exported(inks, SHIPPED_PENS["fen-fountain"], PAPER, DEVICES["clamshell-11"].panel)
        self.assertIsNone(softest(coarse))
        two = exported(inks, SHIPPED_PENS["fen-fountain"], PAPER, SLATE, Toning(greys=2))
        self.assertGreater(two[2].apart_l or 0, slate[2].apart_l or 0)
        with self.assertRaises(NoInk):
            exported([], SHIPPED_PENS["fen-fountain"], PAPER, SLATE)


class Filter(unittest.TestCase):
    def test_colours_are_shared_and_pale_and_lightness_is_every_pixels_own(self) -> None:
        """Against the same worked out with arrays, square by square."""
        rng = np.random.default_rng(5)
        pixels = rng.integers(0, 256, (48, 60, 3)).astype(np.uint8)
        for side, vivid in ((1, 1.0), (2, 0.45), (3, 0.3), (2, 0.0)):
            panel = Panel(ppi=300, colour_ppi=300 / side, vivid=vivid, technology="e-paper")
            light = decode_srgb(pixels / 255)
            grey = light @ (0.2126, 0.7152, 0.0722)
            off = (light - grey[..., None]).reshape(48 // side, side, 60 // side, side, 3).mean(axis=(1, 3))
            spread = np.repeat(np.repeat(off, side, axis=0), side, axis=1)
            right = 255 * encode_srgb(np.clip(grey[..., None] + vivid * spread, 0, 1))
            made = through_filter(pixels, panel)
            self.assertLessEqual(float(np.abs(made - right).max()), 1.0, (side, vivid))
        self.assertEqual(int(np.ptp(made.astype(int), axis=2).max()), 0, "nothing vivid is grey")
        flat = np.repeat(rng.integers(0, 256, (20, 20, 1)), 3, axis=2).astype(np.uint8)
        np.testing.assert_array_equal(through_filter(flat, DEVICES["paper-colour-10"].panel), flat)


if __name__ == "__main__":
    unittest.main()

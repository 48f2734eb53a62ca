"""Panels: what their software and the room's light make of a sheet, what a pen needs there, and pens that hold."""

import dataclasses
import itertools
import unittest

import numpy as np

from gray_quill.core.advice.fit_panel import TONES, WIDER, cost_of, fit_to_panels, tones_of, with_change
from gray_quill.core.colour.difference import lab
from gray_quill.core.colour.srgb import decode_srgb, to_grey8
from gray_quill.core.digitiser.device import SHIPPED_DEVICES, Panel
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.errors import RecordError
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.panel.difference import MOST_L, SQUARE_MM, apart_l, heat_picture
from gray_quill.core.panel.light import ROOMS, as_seen, room_of, seen_luminance, white_cd_m2
from gray_quill.core.panel.proof import Toning, on_panel, proof_sheet
from gray_quill.core.paper import Paper, paper_from_spec
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import changed
from gray_quill.core.readings.on_panel import WIDTH_STEP_MM, alike, edge_px, thinnest_mm, vanishing_share
from gray_quill.core.readings.panel_readings import VANISHING

PANELS = {name: d.panel for name, d in SHIPPED_DEVICES.items()}
PAD, SLATE, TABLET = PANELS["paper-pad-8"], PANELS["paper-slate-10"], PANELS["tablet-11"]
FEN = SHIPPED_PENS["fen-fountain"]
BLANK = paper_from_spec("blank A5")
LINE = write_text("moth at trap nine", SHIPPED_HANDS["left-steep"], SHIPPED_DEVICES["tablet-11"], 5)


class Tones(unittest.TestCase):
    def test_bolder_makes_a_line_wider_by_so_many_pixels(self) -> None:
        for dark in (True, False):
            page = np.full((40, 60, 3), 255 if dark else 20, np.uint8)
            page[:, 20:23] = 0 if dark else 255
            for px in range(5):
                shown = on_panel(page, TABLET, Toning(bolder_px=px), "#ffffff" if dark else "#141414")
                self.assertEqual(int((shown[20, :, 0] == (0 if dark else 255)).sum()), 3 + px)

    def test_raised_contrast_leaves_the_paper_and_moves_ink_away_from_it(self) -> None:
        page = np.array([[[240, 230, 210], [200, 190, 180], [90, 90, 90]]], np.uint8)
        shown = on_panel(page, TABLET, Toning(raised=1.5), "#f0e6d2")
        np.testing.assert_array_equal(shown[0, 0], page[0, 0])
        np.testing.assert_array_equal(shown[0, 1], [180, 170, 165])
        self.assertTrue((shown[0, 2] < page[0, 2]).all())
        np.testing.assert_array_equal(on_panel(page, TABLET), page)


class Light(unittest.TestCase):
    def test_white_and_black_are_what_lamberts_law_and_the_panels_contrast_make_them(self) -> None:
        """E-paper gives back E R / pi, other panels add it to their own light: worked out by hand for 1000 lux."""
        lux = dataclasses.replace(room_of("office"), lux=1000.0)
        paper = Panel(technology="e-paper", white_cd_m2=0, reflects=0.4, contrast=12)
        screen = Panel(technology="LCD", white_cd_m2=400, reflects=0.03, contrast=1000)
        self.assertAlmostEqual(white_cd_m2(paper, lux), 127.324, places=3)
        self.assertAlmostEqual(float(seen_luminance(paper, lux)[0]), 1 / 12, places=9)
        glare = 1000 * 0.03 / np.pi
        self.assertAlmostEqual(white_cd_m2(screen, lux), 400 + glare, places=6)
        self.assertAlmostEqual(float(seen_luminance(screen, lux)[0]), (0.4 + glare) / (400 + glare), places=9)
        grey = seen_luminance(screen, lux)[128]
        self.assertAlmostEqual(float(grey), (0.4 + 399.6 * float(decode_srgb(128 / 255)) + glare) / (400 + glare))

    def test_a_screen_fades_with_the_light_and_e_paper_does_not(self) -> None:
        rooms = [room for room in ROOMS.values() if room.lux is not None]
        for name, panel in PANELS.items():
            black = [float(seen_luminance(panel, room)[0]) for room in rooms]
            if panel.technology == "e-paper":
                np.testing.assert_allclose(black, black[0])
            else:
                self.assertEqual(black, sorted(black), name)
                self.assertGreater(black[-1], 0.3, name)
            for room in ROOMS.values():
                seen = seen_luminance(panel, room)
                self.assertTrue((np.diff(seen) > 0).all())
                self.assertAlmostEqual(float(seen[-1]), 1)
        np.testing.assert_array_equal(seen_luminance(TABLET, room_of("no glare")), decode_srgb(np.arange(256) / 255))
        page = np.arange(256, dtype=np.uint8)[None, :, None].repeat(3, 2)
        np.testing.assert_array_equal(as_seen(page, PAD, room_of("no glare")), page)
        with self.assertRaisesRegex(RecordError, "candle"):
            room_of("candle")


class Needs(unittest.TestCase):
    def test_the_thinnest_line_is_what_a_walk_over_all_widths_finds(self) -> None:
        """Lines drawn a hundredth thinner vanish somewhere; all that are wider stay."""
        grey = changed(FEN, "body.colour", "#3a3a3a")
        for panel, room in ((PAD, "no glare"), (PANELS["clamshell-11"], "by the window"), (SLATE, "office")):
            found = thinnest_mm(grey, "#ffffff", panel, room=room_of(room))
            assert found
            for width, holds in ((found, True), (found * 1.3, True), (found * 2, True), (found - WIDTH_STEP_MM, False)):
                share = self.share(grey, width, panel, room)
                self.assertEqual(share <= VANISHING, holds, (panel.ppi, width, share))

    def share(self, recipe, width: float, panel: Panel, room: str) -> float:  # type: ignore[no-untyped-def]
        from gray_quill.core.readings import on_panel as needs

        lines = needs._lines(recipe, width, panel.ppi)
        paper = Paper(60, 60, "blank", 5, 0.2, 0, "#ffffff", "#ffffff")
        return vanishing_share(lines, paper, panel, Toning(), room_of(room))

    def test_coarser_panels_and_paler_ink_need_wider_lines_and_some_colours_none_is_enough_for(self) -> None:
        by_ppi = [thinnest_mm(FEN, "#ffffff", dataclasses.replace(TABLET, ppi=p)) or 9 for p in (120, 200, 300, 500)]
        self.assertEqual(by_ppi, sorted(by_ppi, reverse=True))
        by_tone = [
            thinnest_mm(changed(FEN, "body.colour", c), "#ffffff", TABLET) or 9
            for c in ("#000000", "#555555", "#8a8a8a")
        ]
        self.assertEqual(by_tone, sorted(by_tone))
        self.assertIsNone(thinnest_mm(changed(FEN, "body.colour", "#c0c0c0"), "#ffffff", PAD))
        self.assertIsNone(thinnest_mm(FEN, "#ffffff", TABLET, room=room_of("sun")))
        raised = thinnest_mm(FEN, "#ffffff", PANELS["clamshell-11"], Toning(raised=2))
        self.assertLess(raised or 9, thinnest_mm(FEN, "#ffffff", PANELS["clamshell-11"]) or 0)

    def test_an_edge_is_four_fifths_of_a_pixel_and_bolder_ones_are_no_softer(self) -> None:
        """Area coverage is a box a pixel wide: ten to ninety percent of it is 0.8 px, at every density."""
        black = changed(FEN, "body.colour", "#000000")
        for panel in (TABLET, PANELS["clamshell-11"], dataclasses.replace(TABLET, ppi=450)):
            self.assertAlmostEqual(edge_px(black, "#ffffff", panel), 0.8, delta=0.05)
        hard = edge_px(black, "#ffffff", TABLET, Toning(greys=2))
        self.assertLess(hard, 0.8)

    def test_colours_that_fall_together(self) -> None:
        pens = [changed(FEN, "body.colour", c) for c in ("#c23b3b", "#207b50", "#111111")]
        red_green = [
            (i, j) for i, j in itertools.combinations(range(3), 2) if abs(self.grey(pens[i]) - self.grey(pens[j])) < 3
        ]
        self.assertEqual(red_green, [(0, 1)], "the case is as meant")
        self.assertEqual(alike(pens, "#ffffff", PAD), [(0, 1)])
        self.assertEqual(alike(pens, "#ffffff", TABLET), [])
        self.assertEqual(
            alike([pens[2], pens[2]], "#ffffff", PAD), [], "what was alike on paper has not fallen together"
        )

    def grey(self, recipe) -> float:  # type: ignore[no-untyped-def]
        channels = np.array([[[int(recipe.body.colour[k : k + 2], 16) for k in (1, 3, 5)]]], np.uint8)
        return float(to_grey8(channels)[0, 0])


class Difference(unittest.TestCase):
    def test_alike_is_nothing_and_a_tone_that_is_lost_shows_where_it_lies(self) -> None:
        """A pale bar that two greys drop: at the bar by its own L*, elsewhere nothing; the other way round negative."""
        bar = changed(changed(FEN, "body.colour", "#c8c8c8"), "body.width_mm", 4.0)
        inks = settle_all(LINE[:1], bar)
        paper = paper_from_spec("blank A6 white")
        whole, two = (proof_sheet(inks, paper, PAD, Toning(greys=g)) for g in (8, 2))
        scale = PAD.ppi / 25.4
        self.assertEqual(float(np.abs(apart_l(whole, whole, scale, scale)).max()), 0)
        apart = apart_l(whole, two, scale, scale)
        np.testing.assert_allclose(apart_l(two, whole, scale, scale), -apart)
        shown = float(lab(np.full(3, float(whole.pixels.min())))[0])
        self.assertAlmostEqual(float(apart.max()), 100 - shown, delta=0.3)
        j, i = np.unravel_index(int(apart.argmax()), apart.shape)
        near = np.hypot(inks[0].x_mm - (i + 0.5) * SQUARE_MM, inks[0].y_mm - (j + 0.5) * SQUARE_MM).min()
        self.assertLess(near, 2.5)
        self.assertEqual(float(apart[0, -1]), 0)
        alpha = heat_picture(apart)[..., 3]
        self.assertEqual((int(alpha[0, -1]), int(alpha[j, i])), (0, round(255 * min(1, float(apart.max()) / MOST_L))))

    def test_panels_of_other_density_are_laid_square_on_square(self) -> None:
        inks = settle_all(LINE, changed(FEN, "body.width_mm", 1.0))
        fine, coarse = (dataclasses.replace(TABLET, ppi=ppi) for ppi in (300, 127))
        proofs = [proof_sheet(inks, BLANK, p) for p in (fine, coarse)]
        apart = apart_l(proofs[0], proofs[1], 300 / 25.4, 127 / 25.4)
        self.assertEqual(apart.shape, (420, 296))
        self.assertLess(float(np.abs(apart).mean()), 0.3)


class Fit(unittest.TestCase):
    def test_the_smallest_change_is_what_brute_force_finds(self) -> None:
        """Every width and tone of the grid: of those under which nothing vanishes on any panel, the cheapest."""
        faint = changed(changed(FEN, "body.colour", "#9a9a9a"), "body.width_mm", 0.2)
        some = LINE[::4]
        for panels in ([PAD], [SLATE, PANELS["clamshell-11"]]):
            found = fit_to_panels(some, faint, BLANK, panels)
            best = min(
                (
                    (step / 10 + cost_of(float(wider)), changed_.body.width_mm, changed_.body.colour)
                    for step, colour in tones_of(faint.body.colour, BLANK.colour)
                    for wider in WIDER
                    for changed_ in [with_change(faint, float(wider), colour)]
                    if self.worst(some, changed_, panels) <= VANISHING
                ),
            )
            self.assertEqual((found.cost, found.width_mm, found.colour), best)
            self.assertGreater(max(found.before), VANISHING)
            self.assertLessEqual(max(found.after), VANISHING)

    def worst(self, traces, recipe, panels) -> float:  # type: ignore[no-untyped-def]
        inks = settle_all(traces, recipe)
        return max(vanishing_share(inks, BLANK, p, Toning(), room_of("no glare")) for p in panels)

    def test_a_pen_that_holds_is_left_alone_and_what_cannot_hold_is_said(self) -> None:
        fine = fit_to_panels(LINE, FEN, BLANK, [PAD, TABLET])
        self.assertEqual((fine.cost, fine.width_mm, fine.colour), (0, FEN.body.width_mm, FEN.body.colour))
        self.assertEqual(fine.before, fine.after)
        none = fit_to_panels(LINE, FEN, BLANK, [TABLET], room=room_of("sun"))
        self.assertEqual((none.width_mm, none.colour), (None, None))
        self.assertLessEqual(max(step for step, _ in tones_of("#808080", "#ffffff")), 60)
        self.assertEqual([s for s, _ in tones_of("#000000", "#ffffff")], [TONES[0]], "black has no darker tone")

    def test_one_pen_for_all_costs_as_much_as_for_any(self) -> None:
        faint = changed(changed(FEN, "body.colour", "#8a8a8a"), "body.width_mm", 0.25)
        costs = [fit_to_panels(LINE[::3], faint, BLANK, [p]).cost for p in (PAD, PANELS["clamshell-11"])]
        both = fit_to_panels(LINE[::3], faint, BLANK, [PAD, PANELS["clamshell-11"]])
        self.assertGreaterEqual(both.cost, max(costs) - 1e-9)

    def test_what_was_told_is_what_the_proof_reads(self) -> None:
        faint = changed(changed(FEN, "body.colour", "#9a9a9a"), "body.width_mm", 0.2)
        from gray_quill.core.readings.panel_readings import panel_readings

        few = LINE[:20]
        found = fit_to_panels(few, faint, BLANK, [PAD])
        for recipe, told in ((faint, found.before[0]), (with_change(faint, 1.0, faint.body.colour), found.before[0])):
            inks = settle_all(few, recipe)
            read = panel_readings(inks, BLANK, PAD, proof_sheet(inks, BLANK, PAD)).hairline_share
            self.assertAlmostEqual(read, told, delta=max(0.1 * told, 0.005))


if __name__ == "__main__":
    unittest.main()

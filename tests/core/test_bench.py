"""Press fit, trade-off, spots, heat, kinds, effects, advice, ladders and differences."""

import dataclasses
import unittest

import numpy as np

from gray_quill.core.advice.effects import control_effects
from gray_quill.core.advice.kinds import judge_kind
from gray_quill.core.advice.proposals import advise
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import fill_prompts, write_text
from gray_quill.core.errors import GrayQuillError
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.heat import BINS, QUANTITIES, heat_view
from gray_quill.core.ink.ladder import LADDERS, STEPS, ladder
from gray_quill.core.ink.page import ink_pixels, page_pixels
from gray_quill.core.ink.settle import settle
from gray_quill.core.ink.view import box_view
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.fit import cubic_bezier, cubic_form, fit_press
from gray_quill.core.pen.press import Press, press_share
from gray_quill.core.pen.recipe import GROUPS, read_recipe, write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.readings.differences import differences
from gray_quill.core.readings.ink_readings import read_ink
from gray_quill.core.readings.press_use import press_use
from gray_quill.core.readings.spot import find_spot
from gray_quill.core.readings.trade_off import calmest_under, check_shake, smallest_below, trade_curves, trade_point
from gray_quill.core.trace import make_trace
from tests.zoo import wave, zoo

TABLET = SHIPPED_DEVICES["tablet-11"]
FEN = SHIPPED_PENS["fen-fountain"]


def strip_force(hand: str) -> np.ndarray:
    traces = fill_prompts(paper_from_spec("blank A5"), SHIPPED_HANDS[hand], TABLET, 3, "strip")
    return np.concatenate([t.force for t in traces])


def line(hand: str = "right-firm") -> list:
    return write_text("Hawk-moth on the white sheet,", SHIPPED_HANDS[hand], TABLET, 7)


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


class TradeOff(unittest.TestCase):
    def test_what_is_solved_is_what_was_asked_and_no_point_of_the_curves_does_better(self) -> None:
        traces, steady = line(), FEN.steady
        curves = trade_curves(traces, steady)
        for most in (6.0, 15.0, 40.0):
            point = calmest_under(traces, steady, most)
            self.assertLessEqual(point.drag_ms, most)
            self.assertLessEqual(point.wobble_mm, min(p.wobble_mm for p in curves if p.drag_ms <= most) + 1e-3)
        raw = trade_point(traces, dataclasses.replace(steady, method="none")).wobble_mm
        for most in (0.8 * raw, 0.5 * raw):
            found = smallest_below(traces, steady, most)
            self.assertLessEqual(found.wobble_mm, most)
            self.assertLessEqual(found.drag_ms, min(p.drag_ms for p in curves if p.wobble_mm <= most) + 1)
        self.assertIsNone(smallest_below(traces, steady, 0.0))
        with self.assertRaisesRegex(GrayQuillError, "too short"):
            check_shake([zoo()["dot"]])


class Spots(unittest.TestCase):
    def test_factors_multiply_to_the_width_of_the_ink_there(self) -> None:
        traces = [wave()]
        for name in ("fen-fountain", "heron-brush", "sedge-nib"):
            inks = [settle(traces[0], SHIPPED_PENS[name])]
            spot = find_spot(traces, inks, float(inks[0].x_mm[300]), float(inks[0].y_mm[300]))
            self.assertAlmostEqual(
                spot.width_mm, spot.body_mm * spot.press_factor * spot.pace_factor * spot.taper_factor, places=9
            )
            self.assertAlmostEqual(spot.width_mm, float(inks[0].long_mm[300]), delta=0.02 * spot.width_mm)
        with self.assertRaisesRegex(GrayQuillError, "no ink there"):
            find_spot(traces, inks, 500, 500)


class Heat(unittest.TestCase):
    def test_it_covers_the_ink_and_rises_with_its_quantity(self) -> None:
        trace = zoo()["wedge"]
        inks = [settle(trace, FEN)]
        view = box_view((18, 26, 62, 34), 8)
        plain = ink_pixels(inks, view)
        for quantity in QUANTITIES:
            heat = heat_view([trace], inks, quantity, view)
            self.assertEqual(len(heat.colours), BINS)
            self.assertGreater(
                ((heat.pixels[..., 3] > 128) & (plain[..., 3] > 128)).sum() / (plain[..., 3] > 128).sum(), 0.97
            )
        force = heat_view([trace], inks, "force", view).pixels[32].astype(int)
        seen = force[force[:, 3] > 200][:, :3].sum(axis=1)
        self.assertLess(seen[-1], seen[len(seen) // 2] + 1)
        self.assertLess(seen[len(seen) // 2], seen[0])


class Kinds(unittest.TestCase):
    def test_shipped_pens_are_what_they_say(self) -> None:
        for name, recipe in SHIPPED_PENS.items():
            self.assertTrue(judge_kind(recipe).met, f"{name}: {judge_kind(recipe).failed}")

    def test_a_pen_by_another_name_is_told_so(self) -> None:
        ballpoint = write_recipe(SHIPPED_PENS["reed-ballpoint"])
        for claimed, source, nearest in (
            ("fountain", "reed-ballpoint", "ballpoint"),
            ("ballpoint", "heron-brush", "brush"),
            ("brush", "sedge-nib", "flat nib"),
            ("ballpoint", "dusk-wash", "highlighter"),
            ("marker", "moth-pencil-2b", "pencil"),
        ):
            verdict = judge_kind(read_recipe({**write_recipe(SHIPPED_PENS[source]), "kind": claimed}))
            self.assertEqual((verdict.met, verdict.nearest), (False, nearest), f"{claimed} {source} {verdict.failed}")
        self.assertTrue(judge_kind(read_recipe({**ballpoint, "kind": "ballpoint"})).met)


class Effects(unittest.TestCase):
    def test_every_control_changes_the_ink_or_says_why_not(self) -> None:
        traces = line()[:12]
        for group in GROUPS:
            for effect in control_effects(traces, FEN, group, "#ffffff"):
                self.assertTrue((effect.share > 0) != bool(effect.reason), effect)
        by_field = {e.field: e for e in control_effects(traces, FEN, "press", "#ffffff")}
        self.assertGreater(by_field["press.range"].share, 0.2)
        no_sensor = [make_trace(t.t_s, t.x_mm, t.y_mm) for t in traces]
        self.assertIn(
            "no tilt",
            {e.field: e for e in control_effects(no_sensor, SHIPPED_PENS["moth-pencil-2b"], "lean", "#ffffff")}[
                "lean.side_mm"
            ].reason,
        )
        with self.assertRaisesRegex(GrayQuillError, "The group 'nib'"):
            control_effects(traces, FEN, "nib", "#ffffff")

    def test_build_up_darkens_a_crossing_and_nothing_else(self) -> None:
        pages = []
        for build_up in (False, True):
            pen = read_recipe(
                {"body": {"width_mm": 3, "opacity": 0.5, "colour": "#000000"}, "wash": {"build_up": build_up}}
            )
            pages.append(
                page_pixels(
                    [settle(zoo()["self-crossing"], pen)],
                    paper_from_spec("blank A6 white"),
                    box_view((20, 20, 60, 60), 10),
                )[..., 0]
            )
        # the figure starts, crosses and ends in its middle: three passes at one half each
        self.assertEqual((int(pages[0].min()), int(pages[1].min())), (128, 32))
        darker = pages[1].astype(int) < pages[0].astype(int) - 4
        at = np.argwhere(darker)
        self.assertLess(np.abs(at - at.mean(axis=0)).max(), 60, "only around the one crossing")


class Advice(unittest.TestCase):
    def told(self, traces: list, changes: dict) -> dict:
        recipe = read_recipe({**write_recipe(FEN), **changes})
        inks = [settle(t, recipe) for t in traces]
        return {a.title: a for a in advise(traces, recipe, inks, read_ink(traces, recipe, inks))}

    def test_each_fault_is_found_and_its_prediction_comes_true(self) -> None:
        traces = line()
        press = write_recipe(FEN)["press"]
        for changes, title in (
            ({"press": press | {"ceiling": 0.5}}, "Firm strokes are clipped"),
            ({"press": press | {"floor": 0.3}}, "Light strokes are lost"),
            ({"press": press | {"floor": 0, "ceiling": 1, "points": [[0, 0], [0.85, 0.1], [1, 1]]}}, "Range lies idle"),
            ({"steady": {"method": "follow", "amount": 7}}, "The pen is heavy"),
            ({"steady": {"method": "none"}}, "The line shakes"),
            ({"steady": {"method": "window", "amount": 3}}, "Corners are lost"),
            ({"ends": {"start_mm": 0.4, "start_tip": 0, "end_mm": 0.4, "end_tip": 0, "ease": 0}}, "Tips are abrupt"),
            ({"ends": {"start_mm": 30, "start_tip": 0, "end_mm": 30, "end_tip": 0}}, "Tapers outrun the strokes"),
        ):
            told = self.told(traces, changes)
            self.assertIn(title, told)
            advice = told[title]
            if hasattr(read_ink(traces, advice.recipe), advice.reading):
                self.assertAlmostEqual(
                    getattr(read_ink(traces, advice.recipe), advice.reading),
                    advice.after,
                    delta=max(0.05 * abs(advice.after), 0.02),
                    msg=title,
                )
            better = advice.after > advice.before if advice.reading == "range_used" else advice.after < advice.before
            self.assertTrue(better, title)

    def test_device_faults_are_said_without_blaming_the_pen(self) -> None:
        t = np.arange(0, 1, 0.02)
        sparse = [make_trace(t, 10 + 120 * t, 30 + 5 * np.sin(9 * t), np.round(0.5 + 0.4 * np.sin(5 * t), 1))]
        told = self.told(sparse, {"press": {"range": 12}})
        self.assertIsNone(told["Reports are far apart"].recipe)
        self.assertLess(told["The width jumps"].after, told["The width jumps"].before)


class Compare(unittest.TestCase):
    def test_differences_are_listed_largest_first_and_a_pen_differs_not_from_itself(self) -> None:
        traces = line()[:10]
        one, other = read_ink(traces, FEN), read_ink(traces, SHIPPED_PENS["reed-ballpoint"])
        self.assertEqual(differences(one, one), [])
        rows = differences(one, other)
        sizes = [abs(row.one - row.other) / max(abs(row.one), abs(row.other)) for row in rows]
        self.assertEqual(sizes, sorted(sizes, reverse=True))
        self.assertIn("range_ratio", [row.reading for row in rows])

    def test_ladders_rise(self) -> None:
        for over in LADDERS:
            pixels, values = ladder(FEN, over, 840, 336, "#ffffff")
            self.assertEqual((len(values), values), (STEPS, sorted(values)))
            rows = pixels[..., 3].astype(float).reshape(STEPS, 56, 840).sum(axis=(1, 2))
            if over == "width":
                self.assertTrue(np.all(np.diff(rows) > 0))

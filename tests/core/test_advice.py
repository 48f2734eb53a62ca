"""What each kind of pen is, what controls do, and proposals whose predictions come true."""

import unittest

import numpy as np

from gray_quill.core.advice.effects import control_effects
from gray_quill.core.advice.kinds import judge_kind
from gray_quill.core.advice.proposals import advise
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.errors import GrayQuillError
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.page import page_pixels
from gray_quill.core.ink.settle import settle
from gray_quill.core.ink.view import box_view
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.recipe import GROUPS, read_recipe, write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.readings.ink_readings import read_ink
from gray_quill.core.trace import make_trace
from tests.zoo import zoo

TABLET = SHIPPED_DEVICES["tablet-11"]
FEN = SHIPPED_PENS["fen-fountain"]


def line(hand: str = "right-firm") -> list:
    return write_text("Hawk-moth on the white sheet,", SHIPPED_HANDS[hand], TABLET, 7)


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

"""What each kind of pen is, what controls do, and proposals whose predictions come true."""

import dataclasses
import unittest

import numpy as np

from gray_quill.core.advice.diagnosis import BOUNDED, look_at
from gray_quill.core.advice.effects import control_effects
from gray_quill.core.advice.kinds import judge_kind
from gray_quill.core.advice.proposals import EVIDENCE, TITLES, Advice, advise
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_intents, write_text
from gray_quill.core.errors import GrayQuillError
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.hand.intent import Intent
from gray_quill.core.ink.page import page_pixels
from gray_quill.core.ink.settle import settle
from gray_quill.core.ink.view import box_view
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.recipe import GROUPS, read_recipe, write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.trace import make_trace
from tests.trials.advice import MOST_STEPS, any_case, faults_of
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
            ("ballpoint", "heath-brush", "brush"),
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


def slow_line(tremor_mm: float) -> list:
    hand = dataclasses.replace(SHIPPED_HANDS["right-firm"], tremor_mm=tremor_mm)
    rng = np.random.default_rng(3)
    return write_intents([Intent(np.array([[20.0, 60.0], [80.0, 60.5]]), None, 0.45)], hand, TABLET, rng)


class Proposals(unittest.TestCase):
    def told(self, traces: list, changes: dict, pen: str = "fen-fountain") -> dict[str, Advice]:
        recipe = read_recipe({**write_recipe(SHIPPED_PENS[pen]), **changes})
        return {a.title: a for a in advise(traces, recipe)}

    def test_each_fault_is_found_and_its_prediction_comes_true(self) -> None:
        press = write_recipe(FEN)["press"]
        steep = {"start_mm": 0.4, "start_tip": 0, "end_mm": 0.4, "end_tip": 0}
        for pen, changes, title in (
            ("fen-fountain", {"press": press | {"ceiling": 0.5}}, "Firm strokes are clipped"),
            ("fen-fountain", {"press": press | {"floor": 0.5}}, "Light strokes are lost"),
            ("fen-fountain", {"press": press | {"points": [[0, 0], [0.95, 0.1], [1, 1]]}}, "Range lies idle"),
            ("fen-fountain", {"steady": {"method": "follow", "amount": 7}}, "The pen is heavy"),
            ("fen-fountain", {"steady": {"method": "window", "amount": 3.5}}, "Corners are lost"),
            ("fen-fountain", {"ends": steep}, "Tips are abrupt"),
            ("fen-fountain", {"ends": {"start_mm": 30, "end_mm": 30, "end_tip": 0}}, "Tapers outrun the strokes"),
            ("clover-marker", {}, "Letters close up"),
        ):
            traces = slow_line(0.0) if title == "The pen is heavy" else line()  # which has no corners to lose
            told = self.told(traces, changes, pen)
            self.assertIn(title, told)
            advice = told[title]
            assert advice.recipe is not None
            after = look_at(traces, advice.recipe)
            self.assertEqual(after.values[advice.reading], advice.after, title)
            better = (
                advice.after > advice.before
                if BOUNDED[advice.reading].better == "more"
                else advice.after < advice.before
            )
            self.assertTrue(better, title)
            priced = {c.reading for c in advice.price} | {advice.reading}
            before = look_at(traces, read_recipe({**write_recipe(SHIPPED_PENS[pen]), **changes}))
            for key, known in BOUNDED.items():  # nothing is pushed past its bound in silence
                was, now = (known.calls_for_attention(v.values[key]) for v in (before, after))
                self.assertTrue(was or not now or key in priced, f"{title}: {key}")

    def test_a_shake_is_calmed_or_its_price_is_put_to_choice(self) -> None:
        """A steady slow line, one that shakes a little, and one that no setting calms in time."""
        none = {"steady": {"method": "none"}}
        self.assertNotIn("The line shakes", self.told(slow_line(0.0), none))
        a_little = self.told(slow_line(0.09), none)["The line shakes"]
        assert a_little.recipe is not None
        after = look_at(slow_line(0.09), a_little.recipe).values["wobble_out_mm"]
        self.assertLess(after or 1, 0.75 * a_little.before)
        told: list[Advice] = []
        recipe = read_recipe({**write_recipe(FEN), **none})
        traces = [*line(), *slow_line(0.4)]
        for _ in range(6):
            told = advise(traces, recipe)
            recipe = next((a.recipe for a in told if a.recipe is not None), recipe)
        trade = {a.title: a for a in told}["Calm or quick, not both"]
        calm, quick = ({c.reading: c.after or 0.0 for c in side.changes} for side in trade.choices)
        self.assertLess(calm["wobble_out_mm"], quick["wobble_out_mm"])
        self.assertGreater(calm["drag_ms"], quick["drag_ms"])
        self.assertGreater(calm["corner_loss_mm"], quick["corner_loss_mm"])

    def test_letters_too_small_for_a_pen_are_told_how_large(self) -> None:
        marker = dataclasses.replace(SHIPPED_PENS["clover-marker"], kind="brush")
        advice = {a.title: a for a in advise(line(), marker)}["Letters close up"]
        hollow = {a.title: a for a in advise(line(), SHIPPED_PENS["heath-brush"])}["Letters close up"]
        for told in (advice, hollow):
            self.assertTrue(told.recipe is not None or "times as tall" in told.doing, told.doing)

    def test_followed_from_any_start_it_ends(self) -> None:
        """A few of the starts of `make trial-advice`, on seeds of their own."""
        for seed in range(90_000, 90_004):
            traces, recipe = any_case(np.random.default_rng(seed))
            steps, faults = faults_of(traces, recipe)
            self.assertEqual((steps <= MOST_STEPS, faults), (True, []), seed)

    def test_device_faults_are_said_without_blaming_the_pen(self) -> None:
        t = np.arange(0, 2, 0.02)
        sparse = [make_trace(t, 10 + 120 * t, 30 + 5 * np.sin(9 * t), np.round(0.5 + 0.4 * np.sin(5 * t), 1))]
        told = self.told(sparse, {"press": {"range": 12}})
        self.assertIsNone(told["Reports are far apart"].recipe)
        self.assertLess(told["The width jumps"].after, told["The width jumps"].before)

    def test_every_bound_has_a_title_and_evidence(self) -> None:
        self.assertEqual(set(BOUNDED), set(TITLES))
        self.assertEqual(set(BOUNDED), set(EVIDENCE))


class Legible(unittest.TestCase):
    def test_shipped_pens_leave_every_hands_letters_open_or_say_that_they_are_large(self) -> None:
        for hand in SHIPPED_HANDS:
            traces = write_text("Hawk-moth on the white sheet, wings folded,", SHIPPED_HANDS[hand], TABLET, 7)
            for name, recipe in SHIPPED_PENS.items():
                share = look_at(traces, recipe).values["open_share"]
                open_enough = share is None or not BOUNDED["open_share"].calls_for_attention(share)
                self.assertTrue(open_enough or recipe.name.endswith("large"), f"{name} {hand} {share}")

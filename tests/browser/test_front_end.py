"""What the front end works out for itself, run in the browser without the screens; and live pictures against settled
ones.
"""

import dataclasses
import unittest
from typing import Any

import numpy as np

from gray_quill.core.catalogue import READINGS
from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.page import ink_pixels
from gray_quill.core.ink.settle import settle
from gray_quill.core.ink.view import View
from gray_quill.core.pen.recipe import GROUPS, read_recipe, write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.quantities import describe_record, quantities, value_at
from gray_quill.core.readings.reading import in_words
from gray_quill.core.readings.trade_off import trade_curves
from gray_quill.core.trace import make_trace
from tests.browser.driver import browser, evaluate
from tests.browser.test_parity import SCRIPT, plan_of, rows

DRAW = """
const [plan, samples, scale, w, h] = arguments
const c = document.createElement('canvas')
c.width = w; c.height = h
const context = c.getContext('2d')
const pen = new LiveInk.LivePen(plan)
samples.forEach(([tS, x, y, force, altitude, azimuth]) => pen.add({ tS, x, y, force, altitude, azimuth }))
pen.lift()
LiveInk.drawStroke({ context, scale }, plan, pen.shown())
return Array.from(context.getImageData(0, 0, w, h).data).filter((_, i) => i % 4 === 3)
"""


class BrowserCase(unittest.TestCase):
    driver: Any

    @classmethod
    def setUpClass(cls) -> None:
        chrome = browser()
        cls.driver = chrome.__enter__()
        cls.addClassCleanup(chrome.__exit__, None, None, None)
        cls.driver.get("about:blank")
        evaluate(cls.driver, SCRIPT.read_text() + "\nwindow.LiveInk = LiveInk")

    def run_js(self, expression: str, *arguments: object) -> Any:
        return evaluate(self.driver, f"return LiveInk.{expression}", *arguments)


class FrontEnd(BrowserCase):
    def test_numbers_are_said_with_the_digits_they_deserve(self) -> None:
        for value, words in (
            (0, "0.00"),
            (0.0123, "0.012"),
            (0.5, "0.50"),
            (7.25, "7.25"),
            (42.31, "42.3"),
            (612.4, "612"),
            (-3.5, "-3.50"),
        ):
            self.assertEqual(self.run_js("say(arguments[0])", value), words)
        for share, words in ((0, "0 %"), (0.034, "3.4 %"), (0.5, "50 %"), (1, "100 %")):
            self.assertEqual(self.run_js("percent(arguments[0])", share), words)

    def test_sliders_stand_where_the_core_says(self) -> None:
        """Every field of a pen, at eleven places of its track: the same value here and in the core, and back again."""
        for group, record in GROUPS.items():
            controls = {c.name: dataclasses.asdict(c) for c in describe_record(record)}
            for name, quantity in quantities(record).items():
                if quantity.kind != "number":
                    continue
                for k in range(11):
                    ours = value_at(quantity, k / 10)
                    theirs = self.run_js("valueAtPlace(arguments[0], arguments[1])", controls[name], 100 * k)
                    self.assertAlmostEqual(theirs, ours, delta=quantity.step / 2 + 1e-6, msg=f"{group}.{name}")
                    back = self.run_js("placeOf(arguments[0], arguments[1])", controls[name], ours)
                    self.assertAlmostEqual(back, 100 * k, delta=1e-6, msg=f"{group}.{name}")
                for value in (quantity.low, value_at(quantity, 0.5), quantity.high):
                    up = self.run_js("noticed(arguments[0], arguments[1], true)", controls[name], value)
                    down = self.run_js("noticed(arguments[0], arguments[1], false)", controls[name], value)
                    self.assertTrue(quantity.low <= down <= up <= quantity.high, f"{group}.{name}")
                    self.assertTrue(up > value - quantity.step or value == quantity.high, f"{group}.{name}")

    def test_numbers_are_read_as_people_type_them(self) -> None:
        for typed, value, words in (
            ("0,7", 0.7, ""),
            ("0.7", 0.7, ""),
            (" 12 ", 12, ""),
            (",5", 0.5, ""),
            ("3 mm", 3, ""),
            ("40 %", 40, ""),
            ("+2", 2, ""),
            ("99", 50, "from 0.05 to 50: took 50"),
            ("-1", 0.05, "from 0.05 to 50: took 0.05"),
            ("0", 0.05, "from 0.05 to 50: took 0.05"),
            ("wide", None, "“wide” is no number"),
            ("", None, "“” is no number"),
            ("1,2,3", None, "“1,2,3” is no number"),
            ("1e3", None, "“1e3” is no number"),
            ("0x10", None, "“0x10” is no number"),
        ):
            with self.subTest(typed=typed):
                told = self.run_js("readTyped(arguments[0], 0.05, 50)", typed)
                self.assertEqual((told.get("value"), told["words"]), (value, words))

    def test_live_timings_are_percentiles_and_dropped_frames(self) -> None:
        timings = [{"handlerMs": k, "frameMs": 2 * k} for k in range(1, 102)]
        frames = [-1, *range(0, 160, 16), 208, 224, -1, 9000, 9016]
        found = self.run_js("summary(...arguments)", timings, frames, 3, [30, 10, 20])
        expected = {"events": 101, "handler_p50_ms": 51, "handler_p95_ms": 96, "frame_p50_ms": 102, "frame_p95_ms": 192}
        self.assertEqual(found, {**expected, "dropped": 3, "long_tasks": 3, "control_ms": 20})
        empty = self.run_js("summary([], [], 0, [])")
        self.assertEqual((empty["events"], empty["dropped"], empty["control_ms"]), (0, 0, None))  # type: ignore[index]

    def test_contacts_are_where_they_were(self) -> None:
        contact = {
            "id": 1,
            "palm": True,
            "decision": "kept",
            "rule": "",
            "at_ms": 0,
            "born_ms": 100,
            "end_ms": 300,
            "why": "",
            "mark": [],
            "path": [[100, 10, 20, 8, 6], [200, 20, 20, 12, 9], [300, 40, 30, 10, 8]],
        }
        for at, place in (
            (99, None),
            (100, [10, 20, 8, 6]),
            (150, [15, 20, 10, 7.5]),
            (200, [20, 20, 12, 9]),
            (275, [35, 27.5, 10.5, 8.25]),
            (300, [40, 30, 10, 8]),
            (301, None),
        ):
            self.assertEqual(self.run_js("placeAt(arguments[0], arguments[1])", contact, at), place, at)
        self.assertEqual(self.run_js("largest(arguments[0])", contact), [20, 20, 12, 9])
        self.assertEqual(self.run_js("verdictOf(arguments[0])", contact), "palm-kept")

    def test_articles_fit_the_words_that_follow(self) -> None:
        for words, article in (
            ("left hand", "a"),
            ("11-inch tablet", "an"),
            ("8-inch e-paper pad", "an"),
            ("10-inch e-paper slate", "a"),
            ("13-inch convertible", "a"),
            ("18-inch board", "an"),
            ("110-inch wall", "a"),
            ("easel", "an"),
        ):
            self.assertEqual(self.run_js("article(arguments[0])", words), article, words)

    def test_readings_are_said_and_bounded_as_the_core_does(self) -> None:
        """Every declared reading, at values of every size and on both sides of its bound."""
        rng = np.random.default_rng(8)
        cases = []
        for group in READINGS.values():
            for known in group.values():
                bound = known.attention or 0.5
                cases += [(known, float(v)) for v in (0.0, bound, *bound * 10.0 ** rng.uniform(-2, 3, 6))]
        sent = [[dataclasses.asdict(known), value] for known, value in cases]
        code = "return arguments[0].map(([k, v]) => [LiveInk.inWords(k, v), LiveInk.callsForAttention(k, v)])"
        told = evaluate(self.driver, code, sent)
        for (known, value), [words, attention] in zip(cases, told, strict=True):
            self.assertEqual((words, attention), (in_words(known, value), known.calls_for_attention(value)), known)
        self.assertTrue(any(attention for _, attention in told) and not all(attention for _, attention in told))

    def test_the_steadying_chart_draws_every_method_and_finds_its_points_again(self) -> None:
        traces = write_text("moth on the sheet", SHIPPED_HANDS["right-firm"], SHIPPED_DEVICES["tablet-11"], 3)
        steady = SHIPPED_PENS["fen-fountain"].steady
        points = [vars(p) for p in trade_curves(traces, steady)]
        now = points[4]
        colours = {"accent": "#000", "ink": "#000", "graphite": "#000", "rule": "#000", "card": "#fff"}
        option = self.run_js("tradeOption(arguments[0], arguments[1], undefined, arguments[2])", points, now, colours)
        lines = {s["name"]: s["data"] for s in option["series"] if s["type"] == "line"}
        self.assertEqual(set(lines), {p["method"] for p in points})
        for method, data in lines.items():
            drawn = [[p["drag_ms"], 100 * p["shake_left"]] for p in points if p["method"] == method][: len(data)]
            self.assertEqual(data, drawn)
        marked = next(s for s in option["series"] if s["name"] == "now")
        self.assertEqual(marked["data"], [[now["drag_ms"], 100 * now["shake_left"]]])
        self.assertIn("ms", option["xAxis"]["name"])
        self.assertIn("%", option["yAxis"]["name"])
        for p in points[::7]:
            found = self.run_js(
                "nearestSetting(arguments[0], arguments[1], arguments[2], 100, 1)",
                points,
                p["drag_ms"],
                p["shake_left"],
            )
            at = [q for q in points if q["method"] == found["method"]]
            drag = np.interp(found["amount"], [q["amount"] for q in at], [q["drag_ms"] for q in at])
            self.assertAlmostEqual(drag, p["drag_ms"], delta=4)


class Pictures(BrowserCase):
    def test_live_pictures_are_settled_pictures(self) -> None:
        """Opacity planes of live and settled ink differ by less than 3 % of the ink (6 % for thin ones), for every pen
        without grain and tapered end.
        """
        n = 300
        t = np.arange(n) / 240
        trace = make_trace(
            t, 10 + 36 * t, 14 + 5 * np.sin(5 * t), 0.5 + 0.3 * np.sin(4 * t), np.full(n, 0.9), np.full(n, 0.7)
        )
        scale, w, h = 8, 70 * 8, 28 * 8
        for name, shipped in SHIPPED_PENS.items():
            if shipped.tooth.grain != "none":
                continue
            recipe = write_recipe(shipped)
            recipe["ends"] |= {"end_tip": 1}
            recipe["steady"] = {"method": "none"}
            recipe["body"]["opacity"] = 1
            recipe["body"]["hollow"]["fill_opacity"] = 0
            pen = read_recipe(recipe)
            live = np.array(
                evaluate(self.driver, DRAW, plan_of(pen), rows(trace), scale, w, h),
                float,
            ).reshape(h, w)
            settled = ink_pixels([settle(trace, pen)], View(0, 0, scale, w, h))[..., 3].astype(float)
            finest = shipped.body.width_mm / (shipped.wash.tip.aspect if shipped.wash.tip.shape != "round" else 1)
            thin = finest < 0.5 or shipped.body.hollow.on  # under four pixels here, mostly edge
            self.assertLess(np.abs(live - settled).sum() / settled.sum(), 0.06 if thin else 0.03, name)

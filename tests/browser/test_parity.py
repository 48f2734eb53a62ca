"""Live ink against settled ink, in the browser: widths within 2 % and positions within 0.1 mm at every sample outside
the end taper.
"""

import base64
import dataclasses
import pathlib
import unittest
from typing import Any

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.digitiser.writer import write_text
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.ink.grain import DROPS, surface_bytes
from gray_quill.core.ink.page import deposit_of, ink_pixels, laid_by
from gray_quill.core.ink.plan import compile_plan
from gray_quill.core.ink.settle import settle
from gray_quill.core.ink.view import View
from gray_quill.core.paper import Paper, paper_from_spec
from gray_quill.core.pen.recipe import Recipe, read_recipe, write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.core.pen.steady import METHODS, Steady, steady_path
from gray_quill.core.pen.steady.look_ahead import look_ahead
from gray_quill.core.quantities import record_json
from gray_quill.core.screen.aim import Correction, corrected, lean_of
from gray_quill.core.trace import Trace, make_trace
from tests.browser.driver import browser, evaluate
from tests.zoo import zoo

SCRIPT = pathlib.Path(__file__).parents[2] / "web" / "dist-parity" / "live-ink.js"
TAKE_DROPS = "LiveInk.takeSurface('drops', Uint8Array.from(atob(arguments[0]), (c) => c.charCodeAt(0)))"
RUN = """
const [plan, samples] = arguments
const pen = new LiveInk.LivePen(plan)
const sample = ([tS, x, y, force, altitude, azimuth]) => ({ tS, x, y, force, altitude, azimuth })
samples.forEach((row) => pen.add(sample(row)))
pen.lift()
return pen.shown().map((p) => [p.x, p.y, p.long, p.short, p.angle, p.opacity])
"""


AHEAD = """
const [plan, samples] = arguments
const pen = new LiveInk.LivePen(plan)
return samples.map(([tS, x, y, force, altitude, azimuth]) => {
  pen.add({ tS, x, y, force, altitude, azimuth })
  const ends = pen.ahead(tS)
  return ends ? [ends[1].x, ends[1].y] : null
})
"""


def plan_of(recipe: Recipe, paper: Paper | None = None) -> dict[str, Any]:
    """The pen's plan on white, as the browser gets it."""
    return record_json(compile_plan(recipe, "#ffffff", paper))


def rows(trace: Trace) -> list[list[float]]:
    return np.column_stack((trace.t_s, trace.x_mm, trace.y_mm, trace.force, trace.altitude, trace.azimuth)).tolist()


class Parity(unittest.TestCase):
    def test_every_shipped_pen_and_every_steadying_method(self) -> None:
        traces = [
            t for hand in SHIPPED_HANDS.values() for t in write_text("moth 9", hand, SHIPPED_DEVICES["tablet-11"], 5)
        ]
        traces += [t for name, t in zoo().items() if name != "ten minutes"]
        plain = write_recipe(SHIPPED_PENS["fen-fountain"])
        pens = dict(SHIPPED_PENS)
        pens |= {method: read_recipe({**plain, "steady": {"method": method, "amount": 5}}) for method in METHODS}
        compared = 0
        with browser() as driver:
            driver.get("about:blank")
            source = SCRIPT.read_text() + "\nwindow.LiveInk = LiveInk"
            for name, recipe in pens.items():
                evaluate(driver, source)
                for trace in traces:
                    live = np.array(evaluate(driver, RUN, plan_of(recipe), rows(trace)))
                    compared += self.compare(name, trace, recipe, live)
        self.assertGreater(compared, 20_000)

    def test_look_ahead_draws_where_the_core_says(self) -> None:
        """To 1e-6 mm at every report, of every steadying method; and nothing once the pen has told nothing for long."""
        traces = write_text("moth 9", SHIPPED_HANDS["left-steep"], SHIPPED_DEVICES["clamshell-11"], 5)
        traces += [t for name, t in zoo().items() if name not in ("ten minutes", "dot") and len(t) > 1]
        with browser() as driver:
            driver.get("about:blank")
            evaluate(driver, SCRIPT.read_text() + "\nwindow.LiveInk = LiveInk")
            for method in ("none", *METHODS):
                steady = Steady(method=method, amount=5, ahead_ms=14)
                plan = plan_of(dataclasses.replace(read_recipe({}), steady=steady))
                for trace in traces:
                    live = np.array(evaluate(driver, AHEAD, plan, rows(trace)))
                    x, y = (np.ascontiguousarray(v) for v in steady_path(steady, trace.t_s, trace.x_mm, trace.y_mm))
                    told = np.column_stack(look_ahead(trace.t_s, x, y, 14))
                    self.assertLess(np.abs(live - told).max(), 1e-6, method)
            stale = evaluate(driver, AHEAD.replace("tS)", "tS + 0.026)"), plan, rows(traces[0]))
            self.assertEqual(stale, [None] * len(traces[0]))
            blot = plan_of(dataclasses.replace(SHIPPED_PENS["mist-spray"], steady=steady))
            self.assertIsNone(blot["ahead"], "a spray takes time to lie")

    def test_a_nib_is_put_right_as_the_core_does_it(self) -> None:
        rng = np.random.default_rng(6)
        found = Correction(120, 90, 0.31, -0.22, 0.012, -0.004, 0.003, -0.009, 0.35)
        told = np.column_stack((rng.uniform(0, 200, (40, 2)), rng.uniform(0.05, 1.57, 40), rng.uniform(-4, 4, 40)))
        with browser() as driver:
            driver.get("about:blank")
            script = "return arguments[1].map((p) => LiveInk.corrected(arguments[0], ...p))"
            live = evaluate(driver, SCRIPT.read_text() + ";" + script, record_json(found), told.tolist())
        lean = np.array([lean_of(altitude, azimuth) for altitude, azimuth in told[:, 2:]])
        np.testing.assert_allclose(live, np.column_stack(corrected(found, told[:, 0], told[:, 1], lean)), atol=1e-9)

    def test_strokes_drawn_straight(self) -> None:
        """Towards its own line, along a rule, and after a rest at the end: as settled, to 0.02 mm."""
        t = np.linspace(0, 1, 120)
        paper = paper_from_spec("squared A5")
        wave, still = 1.2 * np.sin(7 * t), np.full(122, 0.5)
        line = make_trace(t, 20 + 60 * t, 40.6 + wave, 0 * t + 0.5)
        steep = make_trace(t, 41.5 + wave, 20 + 60 * t, 0 * t + 0.5)
        held = make_trace(
            np.append(t, [1.3, 1.6]), np.append(line.x_mm, [80.1, 80]), np.append(line.y_mm, [41.3, 41.3]), still
        )
        ruling = {"straighten": 1, "straight_to": "the ruling"}
        cases = [
            ({"straighten": 0.6}, line, 1.0, None), (ruling, line, 0, (1, 40.0)), (ruling, steep, 0, (0, None)),
            ({"hold_straight": True}, held, 0, None), ({"hold_straight": True}, line, 2.4, None),
        ]  # fmt: skip
        with browser() as driver:
            driver.get("about:blank")
            evaluate(driver, SCRIPT.read_text() + "\nwindow.LiveInk = LiveInk")
            for wash, trace, bend_mm, rule in cases:
                recipe = read_recipe({"wash": wash, "steady": {"method": "follow", "amount": 2}})
                live = np.array(evaluate(driver, RUN, plan_of(recipe, paper), rows(trace)))[: len(trace)]
                ink = settle(trace, recipe, paper)
                at = np.searchsorted(ink.at, np.arange(len(trace)) - 1e-9)
                self.assertLess(np.hypot(live[:, 0] - ink.x_mm[at], live[:, 1] - ink.y_mm[at]).max(), 0.02, wash)
                path = np.column_stack((ink.x_mm, ink.y_mm)) - (ink.x_mm.mean(), ink.y_mm.mean())
                across = path @ np.linalg.svd(path, full_matrices=False)[2][1]
                self.assertAlmostEqual(float(np.ptp(across)), bend_mm, delta=0.25 if bend_mm else 0.01, msg=str(wash))
                if rule:
                    axis, value = rule
                    self.assertLess(np.ptp(path[:, axis]), 1e-6, "runs along the ruling")
                    self.assertTrue(value is None or abs(ink.y_mm[0] - value) < 1e-6, "lies on the rule it is near")

    def compare(self, name: str, trace: Trace, recipe, live: np.ndarray) -> int:  # type: ignore[no-untyped-def]
        solid = write_recipe(recipe)
        solid["body"]["line"] = {"pattern": "solid"}
        ink = settle(trace, read_recipe(solid))
        self.assertEqual(len(live), round(float(ink.at[-1])) + 1, f"{name}: with the catch-up at the lift")
        at = np.searchsorted(ink.at, np.arange(len(live)) - 1e-9)
        along = np.concatenate(([0], np.cumsum(np.hypot(np.diff(ink.x_mm), np.diff(ink.y_mm)))))
        ends = recipe.ends
        tapered = ends.end_mm if ends.end_tip < 1 else 0
        both = tapered + (ends.start_mm if ends.start_tip < 1 else 0)
        outside = along[-1] - along[at] >= tapered if along[-1] > both else np.zeros(len(at), bool)
        self.assertLess(np.hypot(live[:, 0] - ink.x_mm[at], live[:, 1] - ink.y_mm[at]).max(), 0.1, name)
        np.testing.assert_allclose(live[outside, 2], ink.long_mm[at][outside], rtol=0.02, err_msg=name)
        np.testing.assert_allclose(live[outside, 3], ink.short_mm[at][outside], rtol=0.02, err_msg=name)
        np.testing.assert_allclose(live[:, 5], ink.opacity[at], atol=0.01, err_msg=name)
        if ink.shape != "round":
            turn = np.angle(np.exp(2j * (live[:, 4] - ink.angle[at]))) / 2
            self.assertLess(np.abs(turn[ink.long_mm[at] > 1.05 * ink.short_mm[at]]).max(initial=0), 0.02, name)
        return int(outside.sum())


class Texture(unittest.TestCase):
    def test_live_grain_has_the_tone_of_settled_grain(self) -> None:
        """Mean tone within 1.5 % over a shaded stroke, drawn on a canvas as the sheet draws it."""
        n = 400
        t = np.arange(n) / 240
        draw = (
            "const [plan, samples, scale, w, h] = arguments; const c = document.createElement('canvas'); c.width = "
            "w; c.height = h;"
            "const context = c.getContext('2d'); const pen = new LiveInk.LivePen(plan);"
            "samples.forEach(([tS, x, y, force, altitude, azimuth]) => pen.add({ tS, x, y, force, altitude, azimuth "
            "}));"
            "LiveInk.drawStroke({ context, scale }, plan, pen.points);"
            "const d = context.getImageData(0, 0, w, h).data; let sum = 0; for (let i = 3; i < d.length; i += 4) "
            "sum += d[i]; return sum"
        )
        with browser() as driver:
            driver.get("about:blank")
            evaluate(driver, SCRIPT.read_text() + "\nwindow.LiveInk = LiveInk")
            evaluate(driver, TAKE_DROPS, base64.b64encode(surface_bytes(DROPS)).decode())
            for name in ("moth-pencil-2b", "alder-charcoal", "lichen-pencil-2h", "heath-brush", "mist-spray"):
                recipe = write_recipe(SHIPPED_PENS[name])
                recipe["ends"] = {}
                recipe["body"] |= {"opacity": 1, "width_mm": 3}
                for force in (0.3, 0.8):
                    pen = read_recipe(recipe)
                    trace = make_trace(
                        t, 8 + 30 * t, 12 + 4 * np.sin(4 * t), np.full(n, force), np.full(n, 0.8), np.zeros(n)
                    )
                    live = evaluate(driver, draw, plan_of(pen), rows(trace), 16, 70 * 16, 24 * 16)
                    settled = float(ink_pixels([settle(trace, pen)], View(0, 0, 16, 70 * 16, 24 * 16))[..., 3].sum())
                    self.assertAlmostEqual(live / settled, 1, delta=0.015, msg=f"{name} at {force}")

    def test_live_ink_starts_from_what_the_ink_below_left(self) -> None:
        """Over earlier passes of its own, and on a canvas that shows a part of the page: pixel by pixel as settled ink
        laid over them, where as on bare paper it would be off by far more.
        """
        n = 400
        t = np.arange(n) / 240
        strokes = [
            make_trace(t, 8 + 30 * t, 12 + 4 * np.sin(4 * t + k), np.full(n, 0.7), np.full(n, 0.8), np.zeros(n))
            for k in range(4)
        ]
        draw = (
            "const [plan, samples, scale, [left, top, w, h], data] = arguments;"
            "const c = document.createElement('canvas'); c.width = w; c.height = h;"
            "const context = c.getContext('2d'); const pen = new LiveInk.LivePen(plan);"
            "for (const [tS, x, y, force, altitude, azimuth] of samples)"
            "  pen.add({ tS, x, y, force, altitude, azimuth });"
            "pen.lift();"
            "const bytes = data && Uint8ClampedArray.from(atob(data), (c) => c.charCodeAt(0));"
            "const deposit = bytes && { scale, left, top, width: w, height: h, data: bytes };"
            "LiveInk.drawStroke({ context, scale, left, top, deposit }, plan, pen.points);"
            "const d = context.getImageData(0, 0, w, h).data;"
            "return Array.from({length: w * h}, (_, i) => d[4 * i + 3])"
        )
        box = (16 * 14, 16 * 8, 16 * 30, 16 * 9)
        view = View(14, 8, 16, box[2], box[3])
        with browser() as driver:
            driver.get("about:blank")
            evaluate(driver, SCRIPT.read_text() + "\nwindow.LiveInk = LiveInk")
            evaluate(driver, TAKE_DROPS, base64.b64encode(surface_bytes(DROPS)).decode())
            for name, change in (("moth-pencil-2b", {}), ("alder-charcoal", {}), ("survey-marker", {"streaks": 0.3})):
                recipe = write_recipe(SHIPPED_PENS[name])
                recipe["body"] |= {"width_mm": 3, "opacity": 1 if name != "survey-marker" else 0.6}
                recipe["wash"] |= change
                pen = read_recipe(recipe)
                inks = [settle(trace, pen) for trace in strokes]
                deposit = deposit_of(inks[:-1], view)
                planes = np.zeros((box[3], box[2], 4))
                planes[..., 0], planes[..., 3] = deposit.fill, 1
                planes[..., 1] = laid_by(deposit, pen)
                data = base64.b64encode(np.asarray(planes * 255 + 0.5, np.uint8).tobytes()).decode()
                opacity = pen.body.opacity  # the canvas carries it
                settled = ink_pixels(inks[-1:], view, below=inks[:-1])[..., 3] / opacity
                live, bare = (
                    np.abs(
                        np.reshape(evaluate(driver, draw, plan_of(pen), rows(strokes[-1]), 16, box, d), settled.shape)
                        - settled
                    ).mean()
                    / settled.mean()
                    for d in (data, None)
                )
                self.assertLess(live, 0.06, name)
                self.assertGreater(bare, 1.4 * live, name)

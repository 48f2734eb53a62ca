"""The palm rules in the browser against those of the core: the same decisions, at the same times, and the same page, on
drills and random streams.
"""

import dataclasses
import pathlib
import unittest
from typing import Any

import numpy as np

from gray_quill.core.digitiser.device import SHIPPED_DEVICES
from gray_quill.core.hand.hand import SHIPPED_HANDS
from gray_quill.core.palm.contacts import Stream
from gray_quill.core.palm.drills import DRILLS, simulate
from gray_quill.core.palm.engine import fold
from gray_quill.core.palm.rules import OFF, Rules
from gray_quill.core.palm.state import Limits
from gray_quill.core.palm.trees import trees
from gray_quill.core.palm.zone import zone_of
from tests.browser.driver import browser, evaluate
from tests.core.test_palm import STRICT, random_rules, random_stream

SCRIPT = pathlib.Path(__file__).parents[2] / "web" / "dist-parity" / "live-ink.js"
RUN = """
const [plan, rows, letsGo] = arguments
const engine = new LiveInk.PalmEngine(plan)
const heard = []
engine.decided = (t) => heard.push([t.id, t.decision])
for (const [tMs, pointer, id, phase, x, y, width, height] of rows) {
  engine.feed({ tMs, pointer, id, phase, x, y, width, height })
  if (letsGo) engine.letGo(tMs)
}
engine.finish()
const { scale, x, y } = engine.view()
return { touches: [...engine.touches.values()].map((t) => [t.id, t.decision, t.rule, t.atMs]), view: [scale, x, y],
  marks: [...engine.marks].map(([id, path]) => [id, path]), taps: engine.taps, heard: heard.length }
"""


class PalmParity(unittest.TestCase):
    def test_the_browser_decides_as_the_core_does(self) -> None:
        rng = np.random.default_rng(4)
        cases: list[tuple[Stream, Rules, Any]] = []
        for hand_id, device_id in (("right-firm", "tablet-11"), ("left-steep", "clamshell-11")):
            hand = SHIPPED_HANDS[hand_id]
            for name in DRILLS:
                stream, _ = simulate(hand, SHIPPED_DEVICES[device_id], name, 11)
                for rules in (STRICT, OFF, dataclasses.replace(STRICT, finger_ink=True, wait_ms=0), random_rules(rng)):
                    cases.append((stream, rules, zone_of(hand)))
        cases += [(random_stream(s), random_rules(np.random.default_rng(s)), zone_of(hand)) for s in range(40)]
        compared = 0
        with browser() as driver:
            driver.get("about:blank")
            evaluate(driver, SCRIPT.read_text() + "\nwindow.LiveInk = LiveInk")
            for k, (stream, rules, zone) in enumerate(cases):
                plan = {
                    "rules": dataclasses.asdict(rules),
                    "zone": dataclasses.asdict(zone),
                    "limits": dataclasses.asdict(Limits()),
                    "trees": dataclasses.asdict(trees()),
                    "widthMm": stream.width_mm,
                    "heightMm": stream.height_mm,
                }
                rows = [
                    [e.t_ms, e.pointer, e.id, e.phase, e.x_mm, e.y_mm, e.width_mm, e.height_mm] for e in stream.events
                ]
                state = fold(stream.events, rules, zone, stream.width_mm, stream.height_mm)
                got = evaluate(driver, RUN, plan, rows, False)
                want: list[list[Any]] = [[t.id, t.decision, t.rule, t.at_ms] for t in state.touches.values()]
                self.assertEqual([g[:3] for g in got["touches"]], [w[:3] for w in want], f"case {k}: {rules}")
                np.testing.assert_allclose([g[3] for g in got["touches"]], [w[3] for w in want], atol=1e-6)
                np.testing.assert_allclose(got["view"], state.view(), rtol=1e-9, atol=1e-9)
                self.assertEqual({i: len(p) for i, p in got["marks"]}, {i: len(p) for i, p in state.marks.items()})
                self.assertEqual([i for i, _ in got["taps"]], [i for i, _ in state.taps])
                self.assertGreaterEqual(got["heard"], len(want))
                compared += len(want)
                # what is let go of while it runs moves nothing
                lean = evaluate(driver, RUN, plan, rows, True)
                np.testing.assert_allclose(lean["view"], state.view(), rtol=1e-9, atol=1e-9)
        self.assertGreater(compared, 500)

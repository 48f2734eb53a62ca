"""Any recipe within its ranges on awkward traces, as pixels, as outlines and live in the browser: drawn, none left out.

    make trial-recipes N=500 SEED=1

A failure is an exception, a number that is none, or ink that is there one way and missing another.
"""

import argparse
import base64
import contextlib
import time
from collections import Counter
from typing import Any

import numpy as np

from gray_quill.core.ink.grain import DROPS, surface_bytes
from gray_quill.core.ink.outline import ink_area, outline
from gray_quill.core.ink.page import ink_pixels, page_pixels
from gray_quill.core.ink.settle import settle
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.tooth import Tooth
from gray_quill.core.quantities import changed
from tests.browser.driver import browser
from tests.browser.test_parity import SCRIPT, TAKE_DROPS, plan_of, rows
from tests.core.test_any_recipe import PAPER, TALL, VIEW, any_recipe
from tests.zoo import zoo

TRACES = ("dot", "one time", "cusp", "leaning", "jittering clock")
LEAST = 24.0  # of opacity 0..255: fainter ink may vanish in one way of drawing and not in another
DRAW = """
const [plan, traces, scale, w, h, left, top] = arguments
const out = []
for (const samples of traces) {
  const context = new OffscreenCanvas(w, h).getContext('2d', { willReadFrequently: true })
  const pen = new LiveInk.LivePen(plan)
  const at = ([tS, x, y, force, altitude, azimuth]) => ({ tS, x: x - left, y: y - top, force, altitude, azimuth })
  for (const row of samples) pen.add(at(row))
  pen.lift()
  LiveInk.drawStroke({ context, scale }, plan, pen.shown())
  const d = context.getImageData(0, 0, w, h).data
  let darkest = 0
  for (let i = 3; i < d.length; i += 4) darkest = Math.max(darkest, d[i])
  const sound = pen.shown().every((p) => [p.x, p.y, p.long, p.short, p.angle, p.opacity].every(Number.isFinite))
  out.push([darkest * plan.opacity, sound])
}
return out
"""


def drawn(recipe: Recipe, driver: Any) -> list[str]:
    """What went wrong with a recipe."""
    faults, traces = [], {name: zoo()[name] for name in TRACES}
    args = VIEW.px_per_mm, VIEW.width_px, VIEW.height_px, VIEW.left_mm, VIEW.top_mm
    try:
        live = driver.execute_script(DRAW, plan_of(recipe), [rows(t) for t in traces.values()], *args)
    except Exception as error:
        return [f"live: {type(error).__name__}: {str(error)[:200]}"]
    for (name, trace), (live_darkest, sound) in zip(traces.items(), live, strict=True):
        try:
            ink = settle(trace, recipe)
            # a see-through filling appears when the stroke settles, so it is left out of what is compared
            empty = changed(recipe, "body.hollow.fill_opacity", 0.0)
            raster = float(ink_pixels([settle(trace, empty)], VIEW)[..., 3].max())
            smooth = float(ink_pixels([settle(trace, changed(empty, "tooth", Tooth()))], VIEW)[..., 3].max())
            ink_pixels([ink], VIEW)
            page_pixels([ink], PAPER, TALL)
            area, rings = float(ink_area(ink).area), outline(ink)
        except Exception as error:
            faults.append(f"{name}: {type(error).__name__}: {error}")
            continue
        if not sound or not np.isfinite(area) or not all(np.isfinite(r).all() for r in rings):
            faults.append(f"{name}: a number that is none")
        # of a dot, a line thinner than a pixel or ink that is faint all over, any grain may be missed or met
        thin = float(np.median(ink.short_mm)) * VIEW.px_per_mm < 1
        by_chance = recipe.tooth.toothed and (len(trace) < 3 or thin or smooth < LEAST)
        ways = {"raster": raster, "live": live_darkest}
        if max(ways.values()) > LEAST and min(ways.values()) == 0 and not by_chance:
            faults.append(f"{name}: missing: {ways}")
        if raster > LEAST and area <= 0:
            faults.append(f"{name}: no area where there are pixels")
    return faults


def trial(recipes: int, seed: int) -> tuple[int, list[str]]:
    """How many drawings were made, and what went wrong."""
    faults = []
    with browser() as driver:
        driver.get("about:blank")
        driver.execute_script(SCRIPT.read_text() + "\nwindow.LiveInk = LiveInk")
        driver.execute_script(TAKE_DROPS, base64.b64encode(surface_bytes(DROPS)).decode())
        for k in range(recipes):
            recipe = any_recipe(seed * 100_000 + k)
            faults += [f"recipe {seed * 100_000 + k}, {fault}" for fault in drawn(recipe, driver)]
    return recipes * len(TRACES) * 3, faults


def main() -> int:
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("recipes", type=int)
    parser.add_argument("--seed", type=int, default=1)
    args = parser.parse_args()
    began = time.monotonic()
    drawings, faults = trial(args.recipes, args.seed)
    print(f"{args.recipes} recipes, {drawings} drawings, {len(faults)} faults, {time.monotonic() - began:.0f} s")
    with contextlib.suppress(IndexError):
        print(Counter(f.split(": ")[1] for f in faults))
    for fault in faults[:30]:
        print("  ", fault)
    return 1 if faults else 0


if __name__ == "__main__":
    raise SystemExit(main())

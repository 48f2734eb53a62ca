"""Any recipe within its ranges, on any awkward trace, as pixels, as outlines and as a plan: drawn, with nothing left
out.
"""

import dataclasses
import unittest
from typing import Any

import numpy as np

from gray_quill.core.ink.outline import outline
from gray_quill.core.ink.page import ink_pixels, page_pixels
from gray_quill.core.ink.plan import compile_plan
from gray_quill.core.ink.settle import settle
from gray_quill.core.ink.view import View
from gray_quill.core.paper import paper_from_spec
from gray_quill.core.pen.recipe import Recipe, read_recipe
from gray_quill.core.quantities import Quantity, quantities, record_json
from gray_quill.core.readings.ink_readings import read_ink
from tests.zoo import zoo

AWKWARD = ("dot", "two equal points", "one time", "shorter than its tapers", "cusp", "leaning")
PAPER = paper_from_spec("dotted 5mm A5 cream")
VIEW = View(10, 10, 5, 300, 250)
TALL = View(10, -60, 4, 300, 500)  # laid in two bands at once


def any_value(rng: np.random.Generator, q: Quantity, default: Any) -> Any:
    """One within its range; one time in four at an end, where arithmetic gives way first."""
    if q.kind in ("number", "integer"):
        end = rng.random()
        value = q.low if end < 0.125 else q.high if end < 0.25 else rng.uniform(q.low, q.high)
        return int(value) if q.kind == "integer" else float(value)
    if q.kind == "choice":
        return str(rng.choice([o for o in q.options if o != "own"]))
    if q.kind == "flag":
        return bool(rng.random() < 0.5)
    return default


def any_record(rng: np.random.Generator, record: Any) -> Any:
    """A record of the same sort whose quantities are anything they may be, groups within it too."""
    known = quantities(type(record))
    values = {
        f.name: any_value(rng, known[f.name], getattr(record, f.name))
        if f.name in known
        else any_record(rng, getattr(record, f.name))
        if dataclasses.is_dataclass(getattr(record, f.name))
        else getattr(record, f.name)
        for f in dataclasses.fields(record)
    }
    return dataclasses.replace(record, **values)


def any_recipe(seed: int) -> Recipe:
    recipe = any_record(np.random.default_rng(seed), Recipe())
    if recipe.press.ceiling - recipe.press.floor < 0.1:
        recipe = dataclasses.replace(recipe, press=dataclasses.replace(recipe.press, floor=0.0, ceiling=1.0))
    return read_recipe(record_json(recipe))


class AnyRecipe(unittest.TestCase):
    def test_nothing_in_range_fails_or_goes_blank(self) -> None:
        traces = {name: zoo()[name] for name in AWKWARD}
        for seed in range(60):
            recipe = any_recipe(seed)
            compile_plan(recipe, PAPER.colour, PAPER)
            for name, trace in traces.items():
                with self.subTest(seed=seed, trace=name):
                    ink = settle(trace, recipe)
                    pixels = ink_pixels([ink], VIEW)
                    self.assertEqual(pixels.shape, (250, 300, 4))
                    page_pixels([ink], PAPER, TALL)
                    rings = outline(ink)
                    self.assertTrue(rings and all(np.isfinite(ring).all() for ring in rings))
            with self.subTest(seed=seed):
                read_ink([traces["cusp"], traces["leaning"]], recipe)

    def test_a_hollow_or_wet_tip_of_every_shape_leaves_ink(self) -> None:
        """Down to a tip whose walls meet, where its inside has no extent at all."""
        for shape in ("round", "ellipse", "chisel"):
            for wall_mm in (0.1, 0.5, 2.0):
                for aspect in (1.0, 4.0, 20.0):
                    for wet in (0.0, 1.0):
                        hollow = {"on": not wet, "wall_mm": wall_mm}
                        tip = {"shape": shape, "aspect": aspect}
                        recipe = read_recipe(
                            {"body": {"width_mm": 1.0, "hollow": hollow}, "wash": {"wet_edge": wet, "tip": tip}}
                        )
                        for name in ("dot", "cusp", "leaning"):
                            with self.subTest(shape=shape, wall_mm=wall_mm, aspect=aspect, wet=wet, trace=name):
                                pixels = ink_pixels([settle(zoo()[name], recipe)], VIEW)
                                self.assertGreater(int(pixels[..., 3].astype(int).sum()), 100)

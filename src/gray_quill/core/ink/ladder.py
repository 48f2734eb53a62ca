"""Ladders: one pen at rising widths, opacities or ranges, drawn over an older dark line."""

import numpy as np

from gray_quill.core.errors import unknown_choice
from gray_quill.core.ink.page import Pixels, ink_pixels
from gray_quill.core.ink.settle import Ink, settle
from gray_quill.core.ink.view import View
from gray_quill.core.pen.body import Body
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.quantities import changed
from gray_quill.core.trace import Trace, make_trace, moved

STEPS = 6
ROW_MM, LENGTH_MM = 5.6, 76.0
WIDTHS = np.array([0.4, 0.63, 1.0, 1.6, 2.5, 4.0])  # times the pen's own width
OPACITIES = np.array([0.15, 0.3, 0.45, 0.6, 0.8, 1.0])
RANGES = np.array([1.0, 1.5, 2.5, 4.0, 8.0, 16.0])
LADDERS = ("width", "opacity", "range")


def ladder(recipe: Recipe, over: str, width_px: int, height_px: int, paper_colour: str) -> tuple[Pixels, list[float]]:
    """RGBA picture of STEPS rows and the value of each, fitted into width_px x height_px; three dark upright lines lie
    below.
    """
    if over not in LADDERS:
        raise unknown_choice("The ladder", over, LADDERS, "over")
    values = {"width": np.clip(WIDTHS * recipe.body.width_mm, 0.05, 20), "opacity": OPACITIES, "range": RANGES}[over]
    scale = min(width_px / (LENGTH_MM + 8), height_px / (ROW_MM * STEPS))
    view = View(
        LENGTH_MM / 2 - width_px / scale / 2, ROW_MM * STEPS / 2 - height_px / scale / 2, scale, width_px, height_px
    )
    rows = [settle(moved(_row(), 0, ROW_MM * (k + 0.5)), _at(recipe, over, float(v))) for k, v in enumerate(values)]
    return ink_pixels([*_older(), *rows], view, paper_colour), [float(v) for v in values]


def _at(recipe: Recipe, over: str, value: float) -> Recipe:
    if over == "range":
        return changed(recipe, "press.range", value)
    return changed(changed(recipe, f"body.{'width_mm' if over == 'width' else 'opacity'}", value), "wash.place", "over")


def _row() -> Trace:
    t = np.linspace(0, 1.2, 240)
    u = t / t[-1]
    return make_trace(
        t, 2 + (LENGTH_MM - 4) * u, 1.1 * np.sin(2 * np.pi * 3 * u), 0.5 + 0.42 * np.sin(2 * np.pi * 1.5 * u - 0.6)
    )


def _older() -> list[Ink]:
    old = Recipe(body=Body(width_mm=0.9, colour="#20242b"))
    return [settle(make_trace([0, 1], [x, x], [1, ROW_MM * STEPS - 1], [0.5, 0.5]), old) for x in (18, 38, 58)]

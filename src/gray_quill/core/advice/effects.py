"""What a control does: the share of inked pixels that differ across its range on this trace, and why when there are
none.
"""

import dataclasses
from collections.abc import Sequence
from typing import Any

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.errors import unknown_choice
from gray_quill.core.ink.page import Pixels, ink_pixels
from gray_quill.core.ink.plan import looks_ahead
from gray_quill.core.ink.settle import settle_all
from gray_quill.core.ink.view import View
from gray_quill.core.pen.recipe import GROUPS, Recipe
from gray_quill.core.quantities import Quantity, changed, quantities, value_at
from gray_quill.core.trace import Trace, bounds_mm

PX_PER_MM = 5.0
DIFFERS = 24  # of 255, in any channel laid on the paper
MOST_PIXELS = 400_000
SMALLEST = 0.002  # a share below this is a stray pixel, not an effect


@dataclasses.dataclass(frozen=True)
class Effect:
    """field: dotted name in the recipe. share: 0..1 of pixels inked at either end of its range that differ. reason: why
    it is 0. matters: where in its range a number changes this ink, to a quarter of its scale; None of other kinds.
    """

    field: str
    share: float
    reason: str
    matters: tuple[float, float] | None = None


def control_effects(traces: Sequence[Trace], recipe: Recipe, group: str, paper_colour: str) -> list[Effect]:
    """The effect of every control of a group on these traces, in the order the group declares them."""
    if group not in GROUPS:
        raise unknown_choice("The group", group, GROUPS, "group")
    left, top, right, bottom = bounds_mm(traces)
    margin = 4.0
    scale = min(PX_PER_MM, np.sqrt(MOST_PIXELS / ((right - left + 2 * margin) * (bottom - top + 2 * margin))))
    view = View(
        left - margin,
        top - margin,
        float(scale),
        int((right - left + 2 * margin) * scale),
        int((bottom - top + 2 * margin) * scale),
    )
    out = []
    for path, quantity in _controls(GROUPS[group], group):
        pictures = [
            _picture(traces, changed(recipe, path, value), view, paper_colour)
            for value in _extremes(quantity, recipe, path)
        ]
        share = max((_differing(pictures[0], other) for other in pictures[1:]), default=0.0)
        share = share if share >= SMALLEST else 0.0
        matters = None
        if share > 0 and quantity.kind in ("number", "integer"):
            between = _between(quantity, recipe, path)
            seen = [_picture(traces, changed(recipe, path, value), view, paper_colour) for value in between[1:-1]]
            matters = _where_it_matters(between, [pictures[0], *seen, pictures[-1]])
        out.append(Effect(path, share, "" if share > 0 else _reason(path, traces, recipe), matters))
    return out


def _between(quantity: Quantity, recipe: Recipe, path: str) -> list[float]:
    """The ends of a number's range and three values between them, at quarters of its scale."""
    low, high = _extremes(quantity, recipe, path)
    inner = [value_at(quantity, k / 4) for k in (1, 2, 3)]
    return [low, *(v for v in inner if low < v < high), high]


def _where_it_matters(values: Sequence[float], pictures: Sequence[Pixels]) -> tuple[float, float]:
    """The first value from which on, and the last up to which, the picture is not that of the end before or after."""
    last = len(values) - 1
    low = next(k for k in range(last) if k + 1 == last or _differing(pictures[0], pictures[k + 1]) >= SMALLEST)
    high = next(k for k in range(last, 0, -1) if k == 1 or _differing(pictures[last], pictures[k - 1]) >= SMALLEST)
    return values[low], values[high]


def _controls(record: type, prefix: str) -> list[tuple[str, Quantity]]:
    own = [(f"{prefix}.{name}", q) for name, q in quantities(record).items() if q.kind not in ("points", "heights")]
    for f in dataclasses.fields(record):
        if not f.metadata:
            own += _controls(type(f.default), f"{prefix}.{f.name}")
    return own


def _extremes(q: Quantity, recipe: Recipe, path: str) -> list[Any]:
    if q.kind == "choice":
        return [o for o in q.options if o != "own" or recipe.tooth.own]
    if q.kind == "flag":
        return [False, True]
    if q.kind == "colour":
        return ["#000000", "#ffffff"]
    low, high = q.low, q.high
    if path == "press.floor":
        high = min(high, recipe.press.ceiling - 0.05)
    if path == "press.ceiling":
        low = max(low, recipe.press.floor + 0.05)
    return [low, high]


def _picture(traces: Sequence[Trace], recipe: Recipe, view: View, paper_colour: str) -> Pixels:
    return ink_pixels(settle_all(traces, recipe), view, paper_colour)


def _differing(one: Pixels, other: Pixels) -> float:
    inked: NDArray[np.bool_] = (one[..., 3] > 12) | (other[..., 3] > 12)
    if not inked.any():
        return 0.0
    a, b = one[inked].astype(np.int16), other[inked].astype(np.int16)
    laid = [
        p[:, :3] * (p[:, 3:] / 255) + 128 * (1 - p[:, 3:] / 255) for p in (a, b)
    ]  # on middle grey, where any ink shows
    return float((np.abs(laid[0] - laid[1]).max(axis=1) > DIFFERS).mean())


def _reason(path: str, traces: Sequence[Trace], recipe: Recipe) -> str:
    absent = set().union(*(t.absent for t in traces))
    steady, tip = recipe.steady, recipe.wash.tip
    if path.startswith("lean."):
        if "tilt" in absent:
            return "This trace carries no tilt."
        if tip.shape != "round":
            return "A tip with a shape of its own does not lean."
        return (
            "Nothing to widen: set the side of the lead longer than the width."
            if recipe.lean.side_mm <= recipe.body.width_mm
            else "The pen never leans that far here."
        )
    if path.startswith("press."):
        if "force" in absent:
            return "This trace carries no force."
        return (
            "Press is off."
            if not recipe.press.on
            else "Thin to thick is 1, so force changes nothing."
            if recipe.press.widening == 1 and recipe.press.deepening == 1
            else "The force here never gets there."
        )
    if path.startswith("pace."):
        return "Thinner with speed is 0." if recipe.pace.exponent == 0 else "The hand keeps one speed here."
    if path.startswith("ends."):
        return "Both tips are blunt or their tapers have no length."
    if path == "steady.ahead_ms":
        never = "It is drawn while you write and never kept."
        return never if looks_ahead(recipe) else "Ink of this pen cannot be drawn ahead."
    if path.startswith("steady."):
        return (
            "No method is chosen."
            if steady.method == "none"
            else "The amount is 0."
            if steady.amount == 0
            else "Only one-euro uses it."
        )
    if path.startswith("body.hollow"):
        return "The stroke is not hollow."
    if path.startswith("body.line"):
        return "The line is whole."
    if path.startswith("wash.tip"):
        return "The tip is round." if tip.shape == "round" else "A spray has no direction."
    if path == "wash.flow":
        return "Only a spray flows."
    if path == "wash.straight_to" and recipe.wash.straighten == 0:
        return "Straighten is 0."
    if path == "wash.hold_straight":
        return "The hand held still at the end of no stroke here."
    if path.startswith("tooth.") and not recipe.tooth.toothed:
        return "No grain is chosen."
    return "On this ink alone it makes no difference; it shows where strokes meet others, or themselves."

"""Plain dials: a few words for what a writer wants, each moving several fields of a pen along one direction.

A dial stands where its first field stands on that field's own scale, 0 to 1. Turning it moves every field of its
direction from where it is, by as many shares of its scale as its weight says; nothing else changes, and turned back to
where it stood the pen is as it was.
"""

import dataclasses
from collections.abc import Mapping
from typing import Any

from gray_quill.core.errors import unknown_choice
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.pen.steady import NONE
from gray_quill.core.quantities import Quantity, changed, quantities, share_at, value_at

Direction = Mapping[str, float]  # weight of each field by its path, the field the dial goes by first
SAME = 1e-9


@dataclasses.dataclass(frozen=True)
class Dial:
    """low, high: its ends in words. ways: its direction by kind of pen, "" for every other kind. starts: the field that
    turns its effect on, and the value it gets when the dial leaves 0 while that field is at its first choice.
    """

    name: str
    low: str
    high: str
    ways: Mapping[str, Direction]
    starts: tuple[str, str] | None = None


DIALS = (
    Dial(
        "width",
        "thinner",
        "thicker",
        {"": {"body.width_mm": 1, "ends.start_mm": 0.4, "ends.end_mm": 0.4}, "spray": {"body.width_mm": 1}},
    ),
    Dial(
        "life",
        "even",
        "lively",
        {
            "": {"press.range": 1, "pace.exponent": 0.2, "ends.end_tip": -0.4},
            "ballpoint": {"press.opacity_range": 1, "press.range": 0.25},
            "flat nib": {"wash.tip.aspect": 1, "press.range": 0.3},
            "pencil": {"press.opacity_range": 1, "press.range": 0.3, "lean.side_mm": 0.2},
            "marker": {"press.opacity_range": 1, "wash.wet_edge": 0.4},
            "highlighter": {"wash.wet_edge": 1},
            "spray": {"press.opacity_range": 1, "wash.flow": 0.3},
        },
    ),
    Dial("calm", "free", "steady", {"": {"steady.amount": 1}}, starts=("steady.method", "one-euro")),
    Dial("grit", "clean", "gritty", {"": {"tooth.depth": 1, "tooth.scale_mm": 0.15}}, starts=("tooth.grain", "laid")),
)


@dataclasses.dataclass(frozen=True)
class DialAt:
    """A dial and where it stands on a pen, 0..1; moves: the fields it moves there."""

    name: str
    low: str
    high: str
    at: float
    moves: list[str]


def dials_of(recipe: Recipe) -> list[DialAt]:
    """Every dial, where it stands on this pen."""
    return [DialAt(d.name, d.low, d.high, standing(d, recipe), list(_way(d, recipe))) for d in DIALS]


def standing(dial: Dial, recipe: Recipe) -> float:
    """Where a dial stands, 0..1; 0 where its effect is off."""
    if dial.starts and _value(recipe, dial.starts[0]) == NONE:
        return 0.0
    lead = next(iter(_way(dial, recipe)))
    return share_at(_quantity(lead), _value(recipe, lead))


def turned(recipe: Recipe, name: str, to: float) -> Recipe:
    """The pen with a dial turned to 0..1 from where it stands. Raises RecordError for a dial that is not there."""
    dial = next((d for d in DIALS if d.name == name), None)
    if dial is None:
        raise unknown_choice("The dial", name, [d.name for d in DIALS], "dial")
    by = to - standing(dial, recipe)
    if abs(by) < SAME:
        return recipe
    off = dial.starts is not None and _value(recipe, dial.starts[0]) == NONE
    if dial.starts and off:
        recipe = changed(recipe, *dial.starts)
    for k, (path, weight) in enumerate(_way(dial, recipe).items()):
        quantity = _quantity(path)
        share = to if k == 0 and off else share_at(quantity, _value(recipe, path)) + weight * by
        value = value_at(quantity, min(1.0, max(0.0, share)))
        recipe = changed(recipe, path, round(round(value / quantity.step) * quantity.step, 6))
    return recipe


def moved_by(recipe: Recipe, way: Direction, by: float, starts: tuple[str, str] | None = None) -> Recipe:
    """The pen with each field of a direction moved by its weight times `by`, in shares of its scale, to its ends at
    most; itself where `by` is 0. starts: as in Dial; what is off cannot be turned down.
    """
    if abs(by) < SAME:
        return recipe
    if starts and _value(recipe, starts[0]) == NONE:
        if by <= 0:
            return recipe
        recipe = changed(changed(recipe, *starts), next(iter(way)), 0)
    for path, weight in way.items():
        quantity = _quantity(path)
        share = share_at(quantity, _value(recipe, path)) + weight * by
        value = value_at(quantity, min(1.0, max(0.0, share)))
        recipe = changed(recipe, path, round(round(value / quantity.step) * quantity.step, 6))
    return recipe


def _way(dial: Dial, recipe: Recipe) -> Direction:
    return dial.ways.get(recipe.kind, dial.ways[""])


def _value(recipe: Recipe, path: str) -> Any:
    at: Any = recipe
    for part in path.split("."):
        at = getattr(at, part)
    return at


def _quantity(path: str) -> Quantity:
    *groups, name = path.split(".")
    record: object = Recipe()
    for group in groups:
        record = getattr(record, group)
    return quantities(type(record))[name]

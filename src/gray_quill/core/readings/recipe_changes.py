"""What changed between two recipes, field by field, as a person would tell it."""

import dataclasses
from operator import attrgetter

from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.quantities import Control, describe_record
from gray_quill.core.readings.reading import said


@dataclasses.dataclass(frozen=True)
class FieldChange:
    """field: its dotted name; label: as the screens call it; words: from what to what, with its unit."""

    field: str
    label: str
    words: str


def recipe_changes(before: Recipe, after: Recipe) -> list[FieldChange]:
    """Every field that differs, in the order they are declared."""
    return [
        FieldChange(one.name, one.label, change_in_words(one, was, now))
        for one in describe_record(Recipe)
        if (was := attrgetter(one.name)(before)) != (now := attrgetter(one.name)(after))
    ]


def change_in_words(one: Control, was: object, now: object) -> str:
    """ "0.5 to 0.7 mm", "on" or "off", "round to flat"."""
    if one.kind == "flag":
        return "on" if now else "off"
    if one.kind == "heights":
        return "another one" if now else "none any more"
    if one.kind == "points":
        return f"through {_points(was)} to through {_points(now)}"
    return f"{_value(one, was)} to {_value(one, now)} {one.unit}".rstrip()


def _value(one: Control, value: object) -> str:
    if value is None:
        return "not told"
    return f"{value:g}" if one.kind in ("number", "integer") and isinstance(value, (int, float)) else str(value)


def _points(value: object) -> str:
    inner = [(x, y) for x, y in value if 0 < x < 1]  # type: ignore[attr-defined]
    return " and ".join(f"{said(x)}, {said(y)}" for x, y in inner) or "a straight line"

"""The pen recipe: eight groups, read from and written to `gray-quill/pen@1` JSON."""

import dataclasses
from collections.abc import Callable, Mapping
from typing import Any

from gray_quill.core.errors import RecordError
from gray_quill.core.pen.body import Body
from gray_quill.core.pen.ends import Ends
from gray_quill.core.pen.highlighter import Wash
from gray_quill.core.pen.lean import Lean
from gray_quill.core.pen.pace import Pace
from gray_quill.core.pen.pressure_curve import SMALLEST_SPAN, Press
from gray_quill.core.pen.steady import Steady
from gray_quill.core.pen.tooth import Tooth, own_heights
from gray_quill.core.quantities import Control, choice, describe_record, read_record, record_json, record_schema, text

FORMAT = "gray-quill/pen@1"
KINDS = ("ballpoint", "fountain", "brush", "flat nib", "pencil", "marker", "highlighter", "spray")


@dataclasses.dataclass(frozen=True)
class Recipe:
    """A pen. Every field has a documented range and default; see `recipe_schema`."""

    name: str = text("Untitled pen", "Name", "What the pen is called", 60)
    kind: str = choice("ballpoint", KINDS, "Kind", "What the pen sets out to be")
    body: Body = Body()
    press: Press = Press()
    pace: Pace = Pace()
    lean: Lean = Lean()
    ends: Ends = Ends()
    steady: Steady = Steady()
    tooth: Tooth = Tooth()
    wash: Wash = Wash()

    @property
    def is_wash(self) -> bool:
        """Whether it marks what is written, rather than writes."""
        return self.kind == "highlighter" or self.wash.place == "under"


GROUPS: dict[str, type] = {
    "body": Body,
    "press": Press,
    "pace": Pace,
    "lean": Lean,
    "ends": Ends,
    "steady": Steady,
    "tooth": Tooth,
    "wash": Wash,
}


def read_recipe(data: object) -> Recipe:
    """A recipe from JSON data; refuses unknown fields by name, values out of range, and recipes of a later version."""
    if not isinstance(data, Mapping):
        raise RecordError("A pen must be a JSON object with a format and groups.")
    rest = dict(data)
    named = rest.pop("format", FORMAT)
    if named != FORMAT:
        later = isinstance(named, str) and named.startswith("gray-quill/pen@")
        hint = (
            "It was made by a later version: update Gray Quill to read it."
            if later
            else f"The format must be {FORMAT!r}."
        )
        raise RecordError(f"This pen's format is {named!r}. {hint}", "format")
    recipe = read_record(Recipe, rest)
    if recipe.press.ceiling - recipe.press.floor < SMALLEST_SPAN:
        raise RecordError(f"press.ceiling must lie at least {SMALLEST_SPAN} above press.floor.", "press.ceiling")
    if recipe.tooth.own:
        own_heights(recipe.tooth.own)
    elif recipe.tooth.grain == "own":
        raise RecordError("Bring in a picture of a grain first, or choose another grain.", "tooth.grain")
    return recipe


def write_recipe(recipe: Recipe) -> dict[str, Any]:
    """The recipe as `gray-quill/pen@1` JSON data."""
    return {"format": FORMAT, **record_json(recipe)}


def recipe_schema(ref: Callable[[type], dict[str, Any]] | None = None) -> dict[str, Any]:
    """JSON Schema of the recipe format; `ref` as in record_schema."""
    schema = record_schema(Recipe, ref)
    schema["properties"] = {"format": {"const": FORMAT}, **schema["properties"]}
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": FORMAT, **schema}


def recipe_fields() -> dict[str, list[Control]]:
    """Every field of every group as screens need it."""
    return {group: describe_record(record) for group, record in GROUPS.items()}

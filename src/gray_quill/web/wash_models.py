"""Bodies and replies of the Wash trial."""

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from gray_quill.web.api import Model
from gray_quill.web.models import Id, RecipeJson, Source

Colour = Annotated[str, StringConstraints(pattern=r"^#[0-9a-fA-F]{6}$")]
Typed = Annotated[str, StringConstraints(min_length=1, max_length=60)]


class WashBody(Model):
    """A wash over the source's line, written with `ink`, and over a printed line."""

    wash: RecipeJson
    ink: RecipeJson
    source: Source
    typed: Typed = "wings folded"


class GridBody(WashBody):
    papers: list[Colour] = Field(min_length=1, max_length=6)
    passes: int = Field(4, ge=1, le=6)
    px_per_mm: float = Field(8, ge=3, le=24)


class GridCell(Model):
    """writing, typed: contrast ratios under `passes` passes. visibility: CIEDE2000 against the paper, and what that is
    called.
    """

    passes: int
    image: str
    writing: float
    typed: float
    visibility: float
    seen: str
    unevenness: float


class GridRow(Model):
    """ink: the pen the words on this paper are in. readable, large: the first pass under which writing or print falls
    below 4.5:1 and 3:1, None where they stay above. overlap: CIEDE2000 between one pass and two.
    """

    paper: Colour
    ink: str
    cells: list[GridCell]
    readable: dict[str, int | None]
    large: dict[str, int | None]
    overlap: float


class GridReply(Model):
    rows: list[GridRow]


class SolveWashBody(WashBody):
    paper: Colour
    words: list[Literal["writing", "typed"]] = Field(default=["writing", "typed"], min_length=1, max_length=2)


class SettingItem(Model):
    colour: Colour
    opacity: float
    blend: str
    place: str
    contrast: float
    visibility: float


class SolveWashReply(Model):
    """setting: what works, or None; measured: contrast after two passes and visibility after one, read off rendered
    pixels. best_contrast, best_visibility: the best of each that was found while the other held. other: another
    lightness of the colour that works.
    """

    setting: SettingItem | None
    measured: dict[str, float]
    best_contrast: float
    best_visibility: float
    tried: int
    other: SettingItem | None
    bare_contrast: float


class SetBody(Model):
    """Washes to tell apart on one paper, on the panels of these devices."""

    washes: list[RecipeJson] = Field(min_length=1, max_length=12)
    ink: RecipeJson
    paper: Colour
    device_ids: list[Id] = Field(max_length=20)


class ConditionItem(Model):
    """pair: places in the set of the two washes nearest to each other. seen: each wash on the paper, as it looks so."""

    name: str
    smallest: float
    enough: float
    passes: bool
    pair: list[int]
    seen: list[Colour]


class ReplacementItem(Model):
    place: int
    colour: Colour


class SetReply(Model):
    """proposal: colours that do better, and the conditions with them; empty when the set passes."""

    conditions: list[ConditionItem]
    replacements: list[ReplacementItem]
    proposed: list[ConditionItem]
    passes: bool

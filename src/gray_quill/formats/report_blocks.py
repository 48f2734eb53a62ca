"""What a report is made of, whatever it is written as: headings, words, lists, tables, and a candidate's line."""

import dataclasses
from collections.abc import Sequence

from gray_quill.core.pen.recipe import Recipe

GROUND = "#fffdf8"


@dataclasses.dataclass(frozen=True)
class Heading:
    """level: 1 for the title, 2 for a part, 3 for a candidate."""

    words: str
    level: int = 2


@dataclasses.dataclass(frozen=True)
class Words:
    words: str


@dataclasses.dataclass(frozen=True)
class Listed:
    items: Sequence[str]


@dataclasses.dataclass(frozen=True)
class Rows:
    head: Sequence[str]
    rows: Sequence[Sequence[str]]


@dataclasses.dataclass(frozen=True)
class Standing:
    """A total of 0 to 100 as a line in the pen's own ink, where its parts end, and the interval under it."""

    pen: Recipe
    total: float
    low: float
    high: float
    parts: Sequence[tuple[str, float]]


Block = Heading | Words | Listed | Rows | Standing

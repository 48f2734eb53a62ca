"""Marked passages: washes of one colour that lie together are one mark, and marks of one colour belong together."""

import dataclasses
from collections.abc import Sequence

from gray_quill.core.ink.settle import Ink

TOGETHER_MM = 2.5  # between the ink of washes that are one mark: lines of one passage, strokes of one line
Box = tuple[float, float, float, float]


@dataclasses.dataclass(frozen=True)
class Passage:
    """A marked passage: the colour and name of its wash, and where it lies, mm."""

    colour: str
    name: str
    box_mm: Box
    strokes: int


def passages_of(inks: Sequence[Ink]) -> list[Passage]:
    """The marks of a page from above, washes only."""
    found: list[Passage] = []
    for ink in inks:
        if not ink.recipe.is_wash:
            continue
        mark = Passage(ink.recipe.body.colour, ink.recipe.name, ink.box_mm, 1)
        near = [m for m in found if m.colour == mark.colour and _near(m.box_mm, mark.box_mm)]
        for other in near:
            found.remove(other)
            mark = dataclasses.replace(
                mark, box_mm=_around(mark.box_mm, other.box_mm), strokes=mark.strokes + other.strokes
            )
        found.append(mark)
    return sorted(found, key=lambda m: (m.box_mm[1], m.box_mm[0]))


def _near(a: Box, b: Box) -> bool:
    return (
        a[0] - TOGETHER_MM <= b[2]
        and b[0] - TOGETHER_MM <= a[2]
        and a[1] - TOGETHER_MM <= b[3]
        and b[1] - TOGETHER_MM <= a[3]
    )


def _around(a: Box, b: Box) -> Box:
    return min(a[0], b[0]), min(a[1], b[1]), max(a[2], b[2]), max(a[3], b[3])

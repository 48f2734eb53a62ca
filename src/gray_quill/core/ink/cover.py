"""What covers ink of a page until it is lifted, to be asked what lies under it."""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.colour.srgb import is_dark
from gray_quill.core.ink.area import Fill, fill_recipe
from gray_quill.core.ink.layer import MOST_LAYERS, Layer, Placed
from gray_quill.core.ink.settle import Ink
from gray_quill.core.paper import Paper
from gray_quill.core.quantities import number, text

MOST_COVERS = 200  # of a page
STRIP, STRIP_ON_DARK = "#8c7f6a", "#b9ad97"
ABOVE_ALL = Placed(Layer("covers", "covers"), MOST_LAYERS)


@dataclasses.dataclass(frozen=True)
class Cover:
    """A strip over a part of a page."""

    id: str = text("cover", "Id", "By which it is named", 60)
    left_mm: float = number(0, -1000, 6000, 0.1, "mm", "From the left", "Where its left edge lies")
    top_mm: float = number(0, -1000, 6000, 0.1, "mm", "From the top", "Where its upper edge lies")
    width_mm: float = number(40, 0.5, 1000, 0.1, "mm", "Width", "How long the strip is")
    height_mm: float = number(8, 0.5, 5000, 0.1, "mm", "Height", "How broad the strip is")


def cover_colour(paper: Paper) -> str:
    """The colour of covers on a paper."""
    return STRIP_ON_DARK if is_dark(paper.colour) else STRIP


def cover_inks(covers: Sequence[Cover], paper: Paper) -> list[Ink]:
    """Covers as areas that lie over all ink of a page, for every picture and file it is shown in."""
    recipe = fill_recipe(Fill(cover_colour(paper), 1))
    none, one, pieces = np.zeros(4), np.ones(4), np.array([0, 4])
    inks = []
    for c in covers:
        x = c.left_mm + c.width_mm * np.array([0.0, 1.0, 1.0, 0.0])
        y = c.top_mm + c.height_mm * np.array([0.0, 0.0, 1.0, 1.0])
        ink = Ink(recipe, x, y, none, none, none, one, none, none, pieces, (), ABOVE_ALL)
        ink.__dict__["shape"] = "area"
        inks.append(ink)
    return inks

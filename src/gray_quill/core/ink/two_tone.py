"""Plain ink: what a pen lays while it writes where a slow screen can only set pixels to black or white at once.

Where the stroke goes and how wide it is stays the pen's own, so that settled ink takes its place without a jump; its
colour, opacity and tooth come back when it settles.
"""

import dataclasses
from typing import TYPE_CHECKING

from gray_quill.core.colour.srgb import is_dark
from gray_quill.core.pen.recipe import Recipe

if TYPE_CHECKING:
    from gray_quill.core.ink.plan import PenPlan

BLACK, WHITE = "#000000", "#ffffff"


def is_plain_able(recipe: Recipe) -> bool:
    """What marks words, and sprays, would hide what lies below if they were laid plain."""
    return not recipe.is_wash and recipe.wash.tip.shape != "spray"


def in_plain(recipe: Recipe) -> Recipe:
    """The pen that costs as much to draw as this one does in plain ink."""
    if not is_plain_able(recipe):
        return recipe
    body = dataclasses.replace(recipe.body, opacity=1.0, hollow=dataclasses.replace(recipe.body.hollow, on=False))
    wash = dataclasses.replace(recipe.wash, wet_edge=0.0, pool=0.0, streaks=0.0)
    return dataclasses.replace(recipe, body=body, wash=wash, tooth=dataclasses.replace(recipe.tooth, grain="none"))


def plain_plan(plan: "PenPlan", paper_colour: str) -> "PenPlan":
    """The plan of a pen in plain ink: full strength in the colour farthest from the paper, with hard edges."""
    return dataclasses.replace(
        plan,
        colour=WHITE if is_dark(paper_colour) else BLACK,
        opacity=1.0,
        opacity_over_force=[1.0] * len(plan.opacity_over_force),
        blend="normal",
        hard_edges=True,
    )

"""Wash: how a stroke lies with what is already on the sheet, and the shape of its tip."""

import dataclasses

from gray_quill.core.paper import is_dark
from gray_quill.core.quantities import choice, flag, number

BLENDS = ("normal", "multiply", "screen", "auto")


@dataclasses.dataclass(frozen=True)
class Tip:
    shape: str = choice("round", ("round", "ellipse", "chisel"), "Tip", "Outline of the tip where it touches the paper")
    aspect: float = number(5, 1, 20, 0.1, "x", "Tip length", "Length of the tip over its thickness, for ellipse and chisel")
    angle_deg: float = number(40, -90, 90, 1, "deg", "Tip angle", "Direction of the tip's long side on the page, from the writing line, rising to the right")


@dataclasses.dataclass(frozen=True)
class Wash:
    place: str = choice("over", ("over", "under"), "Place", "Over the ink, or under it like a highlighter that never dims words")
    blend: str = choice("normal", BLENDS, "Blend", "W3C blend mode; auto multiplies on light paper and screens on dark")
    build_up: bool = flag(False, "Build-up", "Crossing its own stroke darkens the mark")
    straighten: float = number(0, 0, 1, 0.01, "", "Straighten", "How strongly a stroke is drawn to its own straight line")
    tip: Tip = Tip()


def blend_on(wash: Wash, paper_colour: str) -> str:
    """The blend mode in use on this paper."""
    if wash.blend != "auto":
        return wash.blend
    return "screen" if is_dark(paper_colour) else "multiply"

"""Wash: how a stroke lies with what is already on the sheet, and the shape of its tip."""

import dataclasses

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import is_dark
from gray_quill.core.quantities import choice, flag, number

BLENDS = ("normal", "multiply", "screen", "auto")
TIPS = ("round", "ellipse", "chisel", "spray")
LINES = ("its own line", "the ruling")
WET_LOSS = 0.7  # share of the tone that leaves the middle of the wettest mark
POOL_LOSS, POOL_WIDTHS = 0.6, 1.0  # tone the middle of the most pooling mark loses, and how far a pool reaches
RIM_SHARE, RIM_MM = 0.12, (0.08, 0.5)  # the rim a wet mark dries with, of the width, and its bounds


@dataclasses.dataclass(frozen=True)
class Tip:
    shape: str = choice(
        "round", TIPS, "Tip", "Outline of the tip where it touches the paper; a spray does not touch it"
    )
    aspect: float = number(
        5,
        1,
        20,
        0.1,
        "x",
        "Tip length",
        "Length of the tip over its thickness, for ellipse and chisel",
        knee=1,
        needs="shape=ellipse,chisel",
    )
    angle_deg: float = number(
        40,
        -90,
        90,
        1,
        "deg",
        "Tip angle",
        "Direction of the tip's long side on the page, from the writing line, rising to the right",
        notice=5,
        needs="shape=ellipse,chisel",
    )


@dataclasses.dataclass(frozen=True)
class Wash:
    place: str = choice(
        "over", ("over", "under"), "Place", "Over the ink, or under it like a highlighter that never dims words"
    )
    blend: str = choice("normal", BLENDS, "Blend", "W3C blend mode; auto multiplies on light paper and screens on dark")
    build_up: bool = flag(False, "Build-up", "Crossing its own stroke darkens the mark")
    wet_edge: float = number(
        0, 0, 1, 0.01, "", "Wet edge", "How much of the tone gathers along the rim as the mark dries"
    )
    pool: float = number(
        0, 0, 1, 0.01, "", "Pooling", "How much of the tone gathers where the pen lands and where it lifts"
    )
    streaks: float = number(
        1,
        0,
        1,
        0.01,
        "",
        "Streaks",
        "How much rows laid side by side darken where they overlap; at 0 an area filled in many strokes is even",
    )
    flow: float = number(
        2.5,
        0.1,
        20,
        0.1,
        "per s",
        "Flow",
        "Spray: how fast it lays tone where the pen rests",
        knee=0.1,
        needs="tip.shape=spray",
    )
    straighten: float = number(0, 0, 1, 0.01, "", "Straighten", "How strongly a stroke is drawn to a straight line")
    straight_to: str = choice(
        "its own line",
        LINES,
        "Straight along",
        "The line that fits the stroke best, or the ruling where the stroke follows it",
        needs="straighten",
    )
    hold_straight: bool = flag(
        False, "Hold to straighten", "Holding still at the end of a stroke draws that stroke straight"
    )
    tip: Tip = Tip()


def blend_on(wash: Wash, paper_colour: str) -> str:
    """The blend mode in use on this paper."""
    if wash.blend != "auto":
        return wash.blend
    return "screen" if is_dark(paper_colour) else "multiply"


def wet_rim_mm(width_mm: float) -> float:
    """How broad the dark rim of a wet mark is."""
    return float(np.clip(RIM_SHARE * width_mm, *RIM_MM))


def pooled(wash: Wash, width_mm: float, from_start_mm: Floats, to_end_mm: Floats) -> Floats:
    """Factor on the opacity, so far from where the pen landed and where it lifted: 1 at both, less between."""
    from_end = np.clip(np.minimum(from_start_mm, to_end_mm) / (POOL_WIDTHS * width_mm), 0, 1)
    return np.asarray(1 - POOL_LOSS * wash.pool * from_end**2 * (3 - 2 * from_end))

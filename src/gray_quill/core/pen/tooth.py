"""Tooth: the paper's texture in the mark.

A toothed pen's opacity factor is its *load*: how much of the paper's surface it reaches. Load grows with force, falls
with hardness, and is thinner where the lead leans or hurries.
"""

import base64
import binascii
import dataclasses

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.errors import RecordError
from gray_quill.core.quantities import choice, flag, heights, number

GRAINS = ("none", "smooth", "laid", "cold-pressed", "rough", "board", "drops", "own")
SURFACES = GRAINS[1:-1]  # those that ship
TILE = 128  # samples along each side of a surface
GRADES = ("4H", "3H", "2H", "H", "F", "HB", "B", "2B", "3B", "4B", "5B", "6B", "7B", "8B")
LEAN_SPREADS = 0.35  # share of the load a lead loses when its whole side touches
BRISTLE_MM, FEWEST_HAIRS, MOST_HAIRS = 0.13, 5, 40  # a wet tuft of hairs; common practice, no source
SKIRT = 1.35  # how far crumbs fall, of the tip's half width
PACE_SHARE = 0.5  # how strongly Pace acts on load, relative to width


@dataclasses.dataclass(frozen=True)
class Tooth:
    grain: str = choice("none", GRAINS, "Grain", "The paper surface the pen catches on")
    depth: float = number(
        0.85, 0, 1, 0.01, "", "Depth", "How much the surface rules the mark; 0 ignores it", needs="grain"
    )
    scale_mm: float = number(
        0.4, 0.1, 3, 0.05, "mm", "Grain size", "Distance from peak to peak of the surface", knee=0.1, needs="grain"
    )
    grade: str = choice(
        "HB", GRADES, "Grade", "Hardness of the lead, from 4H, hard and light, to 8B, soft and black", needs="grain"
    )
    bristles: float = number(
        0,
        0,
        1,
        0.05,
        "",
        "Bristles",
        "How far a brush splits into bristles, which run along the stroke and run dry one after another",
        needs="grain",
    )
    smear: float = number(
        0, 0, 1, 0.05, "", "Smear", "How far the mark is dragged along the motion, as soft lead is", needs="grain"
    )
    crumbs: float = number(
        0, 0, 1, 0.05, "", "Crumbs", "How much the lead crumbles: bits lie in the mark and beside it", needs="grain"
    )
    own: str = heights(TILE * TILE, "Own grain", "A surface made from a picture; `grain` must be own")
    crisp: bool = flag(True, "Crisp", "Gritty marks, kept gritty in every export; off gives soft edges", needs="grain")

    @property
    def toothed(self) -> bool:
        """Whether the mark shows a surface."""
        return self.grain not in ("none", "own") or (self.grain == "own" and self.own != "")


def hairs_of(width_mm: float) -> int:
    """How many bristles lie side by side in a brush of this width."""
    return int(np.clip(round(width_mm / BRISTLE_MM), FEWEST_HAIRS, MOST_HAIRS))


def own_heights(code: str) -> NDArray[np.uint8]:
    """The heights 0..255 of an own grain, shape (TILE, TILE), from base64. Raises RecordError."""
    try:
        data = base64.b64decode(code, validate=True)
    except (binascii.Error, ValueError):
        data = b""
    if len(data) != TILE * TILE:
        raise RecordError("tooth.own is not a grain. Bring the grain picture in again.", "tooth.own")
    return np.frombuffer(data, np.uint8).reshape(TILE, TILE)


def grade_load(grade: str, opacity: Floats) -> Floats:
    """Share of the surface a grade reaches where the pen's opacity factor is `opacity`, 0..1: at full force half of it
    for 4H to all for 8B, and a soft lead gives most of that to a light hand already.
    """
    soft = GRADES.index(grade) / (len(GRADES) - 1)
    return np.asarray((0.5 + 0.5 * soft) * opacity ** (1 - 0.55 * soft))


def load_over_lean(lean_share: Floats) -> Floats:
    """Factor on the load where the lead leans."""
    return np.asarray(1 - LEAN_SPREADS * lean_share)

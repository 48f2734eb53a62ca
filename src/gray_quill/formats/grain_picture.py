"""Toothed strokes in vector files: texture cannot be an outline, so it goes in as a picture of fixed density, never smoothed."""

from gray_quill.core.ink.page import Pixels, box_view, ink_pixels
from gray_quill.core.ink.settle import Ink
from gray_quill.core.paper import Paper
from gray_quill.core.units import px_per_mm

GRAIN_DPI = 600.0


def is_toothed(ink: Ink) -> bool:
    return ink.recipe.tooth.grain != "none"


def grain_picture(ink: Ink, paper: Paper) -> tuple[Pixels, tuple[float, float, float, float]]:
    """RGBA pixels of one stroke at GRAIN_DPI and its box (left, top, width, height) in mm. Blend is left to the file."""
    view = box_view(ink.box_mm, px_per_mm(GRAIN_DPI))
    scale = view.px_per_mm
    return ink_pixels([ink], view, paper.colour), (view.left_mm, view.top_mm, view.width_px / scale, view.height_px / scale)

"""Strokes that cannot be one filled outline go into vector files as a picture of fixed density, never smoothed."""

from gray_quill.core.colour.srgb import rgb
from gray_quill.core.ink.page import Pixels, ink_pixels
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.view import box_view
from gray_quill.core.paper import Paper
from gray_quill.core.units import px_per_mm

PICTURE_DPI = 600.0


def needs_picture(ink: Ink) -> bool:
    """Whether the tone varies inside the stroke: grain, a spray, a wet edge, or crossings that build up."""
    wash = ink.recipe.wash
    return (
        ink.recipe.tooth.toothed
        or ink.shape == "spray"
        or wash.build_up
        or (wash.wet_edge > 0 and not ink.recipe.body.hollow.on)
    )


def stroke_picture(ink: Ink, paper: Paper) -> tuple[Pixels, tuple[float, float, float, float]]:
    """RGBA pixels of one stroke at PICTURE_DPI and its box (left, top, width, height) in mm. Blend is left to the
    file.
    """
    view = box_view(ink.box_mm, px_per_mm(PICTURE_DPI))
    scale = view.px_per_mm
    pixels = ink_pixels([ink], view, paper.colour)
    pixels[pixels[..., 3] == 0, :3] = rgb(
        ink.recipe.body.colour
    )  # readers that scale colour and opacity apart would darken the edge
    return pixels, (view.left_mm, view.top_mm, view.width_px / scale, view.height_px / scale)

"""Strokes that cannot be one filled outline go into vector files as a picture of fixed density, never smoothed."""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.colour.srgb import rgb
from gray_quill.core.ink.layer import Layer
from gray_quill.core.ink.page import Pixels, by_layer, ink_pixels, layer_plane, met_by
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.view import box_view
from gray_quill.core.paper import Paper
from gray_quill.core.pen.highlighter import blend_on
from gray_quill.core.units import px_per_mm

PICTURE_DPI = 600.0


@dataclasses.dataclass(frozen=True)
class Drawn:
    """What is drawn at once: strokes as one area, or as a picture: one stroke over what the ink below left for it, or a
    layer that is not simply laid on those below.
    """

    inks: Sequence[Ink]
    below: Sequence[Ink] | None = None
    layer: Layer | None = None


def drawn_parts(inks: Sequence[Ink]) -> list[Drawn]:
    """Ink in the order it is drawn. What one even pen laid row by row is one area, so that it is even there too."""
    parts: list[Drawn] = []
    laid: list[Ink] = []
    for layer, group in by_layer(inks):
        parts += [Drawn(group, list(laid), layer)] if layer else _plain_parts(group)
        laid += group
    return parts


def _plain_parts(ordered: Sequence[Ink]) -> list[Drawn]:
    parts: list[Drawn] = []
    for k, ink in enumerate(ordered):
        met = met_by(ink, ordered[:k])
        together = list(parts[-1].inks) if parts and parts[-1].below is None else []
        same = bool(together) and together[-1].recipe == ink.recipe
        even = ink.recipe.wash.streaks < 1 and ink.recipe.body.opacity < 1
        if needs_picture(ink) or (even and met and not (same and met[0] in together)):
            parts.append(Drawn([ink], met))
        elif even and same:
            parts[-1] = Drawn([*together, ink])
        else:
            parts.append(Drawn([ink]))
    return parts


def blend_of(part: Drawn, paper: Paper) -> str:
    """How a part is laid on what is below."""
    return part.layer.blend if part.layer else blend_on(part.inks[0].recipe.wash, paper.colour)


def needs_picture(ink: Ink) -> bool:
    """Whether the tone varies inside the stroke: grain, a spray, a wet edge, pools, crossings that build up, or rows
    that are neither even nor laid twice.
    """
    wash, body = ink.recipe.wash, ink.recipe.body
    uneven = wash.streaks > 0 or body.hollow.on or bool(np.ptp(ink.opacity) > 0.01)
    return (
        ink.recipe.tooth.toothed
        or ink.shape == "spray"
        or wash.build_up
        or wash.pool > 0
        or (wash.wet_edge > 0 and not body.hollow.on)
        or (wash.streaks < 1 and body.opacity < 1 and uneven)
    )


def part_picture(part: Drawn, paper: Paper) -> tuple[Pixels, tuple[float, float, float, float]]:
    """RGBA pixels of a part at PICTURE_DPI and its box (left, top, width, height) in mm. Blend is left to the file."""
    ink, below = part.inks[0], part.below or ()
    boxes = np.array([each.box_mm for each in part.inks])
    (left, top), (right, bottom) = boxes[:, :2].min(axis=0), boxes[:, 2:].max(axis=0)
    view = box_view((float(left), float(top), float(right), float(bottom)), px_per_mm(PICTURE_DPI))
    scale = view.px_per_mm
    if part.layer:
        plane = layer_plane(part.layer, part.inks, below, view, paper.colour)
        pixels = np.asarray(plane * 255 + 0.5, np.uint8)
    else:
        pixels = ink_pixels([ink], view, paper.colour, below)
    pixels[pixels[..., 3] == 0, :3] = rgb(
        ink.recipe.body.colour
    )  # readers that scale colour and opacity apart would darken the edge
    return pixels, (view.left_mm, view.top_mm, view.width_px / scale, view.height_px / scale)

"""OpenRaster: a sheet as a stack of pictures, one a layer of the sheet, its paper lowest (freedesktop.org, OpenRaster
layout 0.0.5: `mimetype` first and stored, `stack.xml` from top to bottom, `mergedimage.png`, a thumbnail).

A layer whose ink blends in more than one way becomes several, one for each run of ink that blends alike: a wash that
multiplies goes on doing so, which it would not inside a group. Within a run ink is laid together, so that two washes of
it that cross may come out a little otherwise than on the page; the merged picture is the page itself.
"""

import io
import itertools
import zipfile
from collections.abc import Sequence
from xml.sax.saxutils import quoteattr

import numpy as np
from PIL import Image

from gray_quill.core.errors import TooLarge
from gray_quill.core.ink.layer import Layer
from gray_quill.core.ink.page import Pixels, draw_order, ink_pixels, layer_plane, page_pixels, paper_pixels
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.view import View, inked_part, page_view
from gray_quill.core.paper import Paper
from gray_quill.core.pen.highlighter import blend_on
from gray_quill.formats.png import MOST_PIXELS, write_png

MEDIA = "image/openraster"
OPERATORS = {"normal": "svg:src-over", "multiply": "svg:multiply", "screen": "svg:screen"}
THUMBNAIL_PX = 256
EPOCH = (1980, 1, 1, 0, 0, 0)  # the same sheet makes the same bytes


def write_openraster(inks: Sequence[Ink], paper: Paper, dpi: float, with_paper: bool, title: str) -> bytes:
    """All ink that is given, on its layers; what lies on hidden ones is in the file, and hidden there too. Refuses
    pictures that would be too large.
    """
    view = page_view(paper, dpi)
    if view.width_px * view.height_px > MOST_PIXELS:
        raise TooLarge(
            f"That picture would have over {MOST_PIXELS // 1_000_000} million pixels. Choose a lower dpi.", "dpi"
        )
    pictures: list[Pixels] = []
    stack: list[str] = []  # lowest first
    if with_paper:
        stack.append(_layer(pictures, "paper", paper_pixels(paper, view), (0, 0)))
    laid: list[Ink] = []
    for on, group in itertools.groupby(draw_order(inks), lambda ink: ink.on):
        own = list(group)
        layer = on.layer if on else Layer()
        drawn = _runs(own, paper, view) if layer.plain else [_whole(layer, own, laid, paper, view)]
        stack += [
            _layer(pictures, name, pixels, at, opacity, blend, layer.shown)
            for name, pixels, at, opacity, blend in drawn
        ]
        laid += own if layer.shown else []
    seen = [ink for ink in inks if not ink.on or ink.on.layer.shown]
    merged = page_pixels(seen, paper, view) if with_paper else ink_pixels(seen, view, paper.colour)
    root = (
        f'<?xml version="1.0" encoding="UTF-8"?>\n<image version="0.0.5" w="{view.width_px}" h="{view.height_px}" '
        f'xres="{dpi:g}" yres="{dpi:g}" name={quoteattr(title)}><stack>{"".join(reversed(stack))}</stack></image>'
    )
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_STORED) as file:
        file.writestr(zipfile.ZipInfo("mimetype", EPOCH), MEDIA)
        file.writestr(zipfile.ZipInfo("stack.xml", EPOCH), root)
        for k, pixels in enumerate(pictures):
            file.writestr(zipfile.ZipInfo(f"data/layer{k}.png", EPOCH), write_png(pixels, dpi))
        file.writestr(zipfile.ZipInfo("mergedimage.png", EPOCH), write_png(merged, dpi))
        file.writestr(zipfile.ZipInfo("Thumbnails/thumbnail.png", EPOCH), write_png(_small(merged)))
    return out.getvalue()


Drawn = tuple[str, Pixels, tuple[int, int], float, str]  # name, pixels, offset, opacity, blend


def _runs(inks: Sequence[Ink], paper: Paper, view: View) -> list[Drawn]:
    """Ink of one plain layer, lowest first, one picture for each run that blends alike."""
    named = inks[0].on.layer.name if inks[0].on else Layer().name
    runs = []
    for blend, run in itertools.groupby(inks, lambda ink: blend_on(ink.recipe.wash, paper.colour)):
        own = [ink.on_layer(None) for ink in run]
        name = f"{named}, washes" if all(ink.recipe.is_wash for ink in own) else named
        part, left, top = _part(own, view)
        if part:
            runs.append((name, ink_pixels(own, part, paper.colour), (left, top), 1.0, blend))
    return runs


def _whole(layer: Layer, inks: Sequence[Ink], below: Sequence[Ink], paper: Paper, view: View) -> Drawn:
    """A layer that is laid as a whole: with its opacity and blend, but for a clip, which its picture holds."""
    plane = layer_plane(layer, inks, below, view, paper.colour) if layer.clipped else None
    if plane is not None:
        return layer.name, np.asarray(plane * 255 + 0.5, np.uint8), (0, 0), 1.0, layer.blend
    own = [ink.on_layer(None) for ink in inks]
    part, left, top = _part(own, view)
    pixels = ink_pixels(own, part, paper.colour) if part else np.zeros((1, 1, 4), np.uint8)
    return layer.name, pixels, (left, top), layer.opacity, layer.blend


def _part(inks: Sequence[Ink], view: View) -> tuple[View | None, int, int]:
    part, left, top = inked_part(inks, view)
    seen = left < view.width_px and top < view.height_px and part.width_px > 0 and part.height_px > 0
    return (part if seen else None), left, top


def _layer(
    pictures: list[Pixels],
    name: str,
    pixels: Pixels,
    at: tuple[int, int],
    opacity: float = 1.0,
    blend: str = "normal",
    shown: bool = True,
) -> str:
    pictures.append(pixels)
    return (
        f'<layer name={quoteattr(name)} src="data/layer{len(pictures) - 1}.png" x="{at[0]}" y="{at[1]}" '
        f'opacity="{opacity:g}" visibility="{"visible" if shown else "hidden"}" composite-op="{OPERATORS[blend]}"/>'
    )


def _small(pixels: Pixels) -> Pixels:
    picture = Image.fromarray(pixels)
    picture.thumbnail((THUMBNAIL_PX, THUMBNAIL_PX))
    return np.asarray(picture)

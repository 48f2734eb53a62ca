"""Proofs: a sheet as a panel shows it, pixel for pixel."""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.colour.srgb import luminance, rgb, to_grey8
from gray_quill.core.digitiser.device import Panel
from gray_quill.core.ink.page import Pixels, page_pixels
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.view import page_view
from gray_quill.core.panel.dither import check_choice, reduce_greys
from gray_quill.core.paper import Paper

BARE_PX = 64  # side of the piece of bare paper that is looked at: some periods of every dither


@dataclasses.dataclass(frozen=True, eq=False)
class Proof:
    """pixels, original: RGB (h, w, 3) at the panel's density, as it shows them and as they were before. ground:
    relative luminance of the bare paper as it shows it.
    """

    pixels: Pixels
    original: Pixels
    ground: float


def proof_sheet(
    inks: Sequence[Ink], paper: Paper, panel: Panel, dither: str = "none", greys: int | None = None
) -> Proof:
    """A sheet of paper on a panel at true size: scaled to its density, toned to its greys."""
    view = page_view(paper, panel.ppi)
    original = page_pixels(inks, paper, view)
    bare = np.full((BARE_PX, BARE_PX, 3), rgb(paper.colour), np.uint8)
    ground = float(luminance(on_panel(bare, panel, dither, greys)).mean())
    return Proof(on_panel(original, panel, dither, greys), original, ground)


def on_panel(pixels: Pixels, panel: Panel, dither: str = "none", greys: int | None = None) -> Pixels:
    """A picture in the panel's tones; colour panels with all greys leave it alone."""
    shown = greys or panel.greys
    check_choice(shown, dither)
    if panel.colour and shown == 256:
        return pixels
    grey = reduce_greys(to_grey8(pixels), shown, dither)
    return np.repeat(grey[..., None], 3, axis=2)

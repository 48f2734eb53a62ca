"""Proofs: a sheet as a panel shows it, pixel for pixel."""

import dataclasses
from collections.abc import Sequence

import numpy as np
from scipy.ndimage import maximum_filter, minimum_filter

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import is_dark, rgb, to_grey8
from gray_quill.core.digitiser.device import Panel
from gray_quill.core.errors import TooLarge
from gray_quill.core.ink.page import Pixels, page_pixels
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.view import View, page_view
from gray_quill.core.panel.colour_filter import is_filtered, through_filter
from gray_quill.core.panel.dither import DITHERS, check_choice, reduce_greys
from gray_quill.core.panel.light import Room, room_of, seen_luminance
from gray_quill.core.paper import Paper
from gray_quill.core.quantities import choice, integer, number

BARE_PX = 64  # side of the piece of bare paper that is looked at: some periods of every dither
MOST_MILLION_PX = 40  # A4 at 650 pixels an inch
NO_GLARE = room_of("no glare")


@dataclasses.dataclass(frozen=True)
class Toning:
    """What a panel's software does to a picture before it is shown; 0 greys for all the panel has."""

    dither: str = choice("none", DITHERS, "Dither", "How tones between the panel's greys are mixed")
    greys: int = integer(0, 0, 256, "greys", "Greys", "Greys in use; 0 for all of the panel's")
    bolder_px: int = integer(0, 0, 4, "px", "Bolder", "Pixels by which everything drawn is made wider")
    raised: float = number(1, 1, 4, 0.05, "×", "Contrast raised", "How much farther from the paper every tone is put")


PLAIN = Toning()


@dataclasses.dataclass(frozen=True, eq=False)
class Proof:
    """pixels, original: RGB (h, w, 3) at the panel's density, as it shows them and as they were before. seen: how light
    each encoded grey is in the room's light, relative to white. ground: that of the bare paper as the panel shows it.
    """

    pixels: Pixels
    original: Pixels
    seen: Floats
    ground: float


def proof_sheet(
    inks: Sequence[Ink], paper: Paper, panel: Panel, toning: Toning = PLAIN, room: Room = NO_GLARE
) -> Proof:
    """A sheet of paper on a panel at true size: scaled to its density, toned to its greys."""
    view = page_view(paper, panel.ppi)
    check_size(view)
    original = page_pixels(inks, paper, view)
    return proof_of(original, paper.colour, panel, toning, room)


def check_size(view: View) -> None:
    """Refuse a proof that would take too much memory."""
    million = view.width_px * view.height_px / 1_000_000
    if million > MOST_MILLION_PX:
        raise TooLarge(
            f"That proof would have {million:.0f} million pixels; {MOST_MILLION_PX} is the most. Take a coarser panel "
            "or a smaller sheet."
        )


def proof_of(original: Pixels, paper_colour: str, panel: Panel, toning: Toning = PLAIN, room: Room = NO_GLARE) -> Proof:
    """A picture that has the panel's density already."""
    bare = np.full((BARE_PX, BARE_PX, 3), rgb(paper_colour), np.uint8)
    seen = seen_luminance(panel, room)
    ground = float(seen[to_grey8(on_panel(bare, panel, toning, paper_colour))].mean())
    return Proof(on_panel(original, panel, toning, paper_colour), original, seen, ground)


def on_panel(pixels: Pixels, panel: Panel, toning: Toning = PLAIN, paper_colour: str = "#ffffff") -> Pixels:
    """A picture in the panel's tones; colour panels with all greys keep its colours."""
    shown = toning.greys or panel.greys
    check_choice(shown, toning.dither)
    if toning.bolder_px:
        wider = maximum_filter if is_dark(paper_colour) else minimum_filter
        pixels = wider(pixels, size=(toning.bolder_px + 1, toning.bolder_px + 1, 1))
    if toning.raised > 1:
        paper = np.array(rgb(paper_colour), float)
        pixels = np.asarray(np.clip(np.round(paper + (pixels - paper) * toning.raised), 0, 255), np.uint8)
    if is_filtered(panel):
        seen = through_filter(pixels, panel)
        channels = [reduce_greys(np.ascontiguousarray(seen[..., k]), shown, toning.dither) for k in range(3)]
        return np.stack(channels, axis=2)
    if panel.colour and shown == 256:
        return pixels
    grey = reduce_greys(to_grey8(pixels), shown, toning.dither)
    out = np.empty((*grey.shape, 3), np.uint8)
    for k in range(3):  # twice as quick as repeating them
        out[..., k] = grey
    return out

"""Washes over what is printed on a page: what they leave of the contrast of its text."""

import dataclasses
from collections.abc import Sequence

import numpy as np
from numpy.typing import NDArray

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import contrast, relative_luminance
from gray_quill.core.ink.page import lay_ink, opacity_plane, paper_pixels
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.underlay import prints_on
from gray_quill.core.ink.view import box_view
from gray_quill.core.paper import Paper
from gray_quill.core.readings.reading import reading
from gray_quill.core.units import px_per_mm

DPI = 150.0
LIGHT, DARK = (
    90.0,
    2.0,
)  # percentiles of lightness: the ground, and the cores of letters; thin text covers a few percent
LEAST = 1.5  # of contrast: less is no text
COVERED = 0.3  # of a wash's opacity, where it counts as laid
FEWEST_PX = 400


@dataclasses.dataclass(frozen=True)
class OnPrint:
    """before, after: None where there is no text under the wash."""

    name: str
    colour: str
    before: float | None = reading("text as printed", ":1", "Contrast of the printed text with its ground.")
    after: float | None = reading(
        "text under the wash",
        ":1",
        "Contrast of the printed text with its ground, both under the wash.",
        better="more",
        attention=4.5,  # WCAG 2.2, success criterion 1.4.3, for text
    )


def read_on_print(inks: Sequence[Ink], paper: Paper) -> list[OnPrint]:
    """One reading for each wash that lies over print, by pen; nothing where nothing is printed."""
    pens: dict[tuple[str, str], list[Ink]] = {}
    for ink in inks:
        if ink.recipe.is_wash and _over_print(ink, paper):
            pens.setdefault((ink.recipe.name, ink.recipe.body.colour), []).append(ink)
    return [_read(name, colour, washes, paper) for (name, colour), washes in pens.items()]


def _over_print(ink: Ink, paper: Paper) -> bool:
    left, top, right, bottom = ink.box_mm
    boxes = [one.covers_mm(paper) for one in prints_on(paper)]
    return any(box[0] < right and box[2] > left and box[1] < bottom and box[3] > top for box in boxes)


def _read(name: str, colour: str, washes: Sequence[Ink], paper: Paper) -> OnPrint:
    before, after = [], []
    for wash in washes:
        view = box_view(wash.box_mm, px_per_mm(DPI))
        plain = paper_pixels(paper, view)
        washed = plain.copy()
        lay_ink(washed, [wash], view, paper.colour)
        there = opacity_plane([wash], view) > COVERED * 255 * wash.recipe.body.opacity
        before.append(relative_luminance(plain[there]))
        after.append(relative_luminance(washed[there]))
    was, now = np.concatenate(before), np.concatenate(after)
    if was.size < FEWEST_PX:
        return OnPrint(name, colour, None, None)
    text, ground = _text_and_ground(was)
    printed = float(contrast(was[ground].mean(), was[text].mean()))
    if printed < LEAST:
        return OnPrint(name, colour, None, None)
    return OnPrint(name, colour, printed, float(contrast(now[ground].mean(), now[text].mean())))


def _text_and_ground(light: Floats) -> tuple[NDArray[np.bool_], NDArray[np.bool_]]:
    """Which pixels are the cores of letters, and which the ground they stand on."""
    dark, bright = np.percentile(light, (DARK, LIGHT))
    return light <= dark, light >= bright

"""What a panel leaves of a pen: how thin a line of its colour may be, which colours it shows alike, and how sharp an
edge is.
"""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.difference import APART, APART_IN_GREY, ciede2000, lab
from gray_quill.core.colour.srgb import rgb, to_grey8
from gray_quill.core.digitiser.device import Panel
from gray_quill.core.ink.page import Pixels, page_pixels
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.view import View, box_view
from gray_quill.core.panel.light import Room, as_seen
from gray_quill.core.panel.proof import BARE_PX, NO_GLARE, PLAIN, Toning, check_size, on_panel, proof_of
from gray_quill.core.paper import Paper
from gray_quill.core.pen.body import Body
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.readings.panel_readings import VANISHING, VISIBLE, contrast_along, lengths_along
from gray_quill.core.readings.reading import reading
from gray_quill.core.units import MM_PER_INCH

ANGLES_DEG = (0, 12, 27, 45, 63, 78, 90)
PHASES = 3  # places on the pixels' grid at which each is tried
LINE_MM, APART_MM = 5.0, 7.0
WIDEST_MM, WIDTH_STEP_MM = 3.0, 0.01
BAR_MM, SLANT_DEG = 3.0, 5.0  # ISO 12233: an edge a little aslant is looked at across many phases of the pixels
FINE = 8  # parts of a pixel across the edge


@dataclasses.dataclass(frozen=True)
class PenOnPanel:
    """What a panel leaves of a sheet's pen, and of all that wrote on it."""

    needed_mm: float | None = reading(
        "needed", "mm", "Lines of this pen's colour that are thinner do not stay at 3:1 with the paper; a dash for all."
    )
    edge_px: float = reading(
        "edge", "px", "Pixels an edge of this pen takes from a tenth to nine tenths of its tone.", digits=2
    )
    pens: int = reading("pens", "", "Pens whose ink is on the sheet.", digits=0)
    alike: int = reading(
        "look alike", "pairs", "Pens told apart on paper that look alike on this panel.", digits=0, better="less"
    )


def read_pen_on_panel(
    recipe: Recipe,
    pens: Sequence[Recipe],
    paper_colour: str,
    panel: Panel,
    toning: Toning = PLAIN,
    room: Room = NO_GLARE,
) -> PenOnPanel:
    """A sheet's pen, and the pens whose ink is on the sheet."""
    return PenOnPanel(
        thinnest_mm(recipe, paper_colour, panel, toning, room),
        edge_px(recipe, paper_colour, panel, toning),
        len(pens),
        len(alike(pens, paper_colour, panel, toning, room)),
    )


def thinnest_mm(
    recipe: Recipe, paper_colour: str, panel: Panel, toning: Toning = PLAIN, room: Room = NO_GLARE
) -> float | None:
    """Width from which even lines of this pen's colour, at many angles and places on the pixels' grid, stay at 3:1
    (WCAG 2.2 SC 1.4.11) but for VANISHING of their length; None where none up to WIDEST_MM does.
    """
    low, high = 0, round(WIDEST_MM / WIDTH_STEP_MM)
    if not _stays(recipe, high * WIDTH_STEP_MM, paper_colour, panel, toning, room):
        return None
    while high - low > 1:
        middle = (low + high) // 2
        holds = _stays(recipe, middle * WIDTH_STEP_MM, paper_colour, panel, toning, room)
        low, high = (low, middle) if holds else (middle, high)
    return high * WIDTH_STEP_MM


def _stays(recipe: Recipe, width_mm: float, paper_colour: str, panel: Panel, toning: Toning, room: Room) -> bool:
    lines = _lines(recipe, width_mm, panel.ppi)
    side = APART_MM * (max(PHASES, len(ANGLES_DEG)) + 1)
    paper = _blank(side, paper_colour)
    return vanishing_share(lines, paper, panel, toning, room) <= VANISHING


def vanishing_share(inks: Sequence[Ink], paper: Paper, panel: Panel, toning: Toning, room: Room) -> float:
    """Share of the ink's length whose best contrast with the paper is under 3:1 there."""
    boxes = np.array([ink.box_mm for ink in inks])
    (left, top), (right, bottom) = boxes[:, :2].min(axis=0) - 1, boxes[:, 2:].max(axis=0) + 1
    view = box_view((float(left), float(top), float(right), float(bottom)), panel.ppi / MM_PER_INCH)
    check_size(view)
    proof = proof_of(page_pixels(inks, paper, view), paper.colour, panel, toning, room)
    shown = to_grey8(proof.pixels)
    gone = whole = 0.0
    for ink in inks:
        length = lengths_along(ink)
        gone += float(length[contrast_along(ink, shown, proof.seen, proof.ground, view) < VISIBLE].sum())
        whole += float(length.sum())
    return gone / whole if whole else 0.0


def _blank(side_mm: float, colour: str) -> Paper:
    return Paper(side_mm, side_mm, "blank", 5, 0.2, 0, colour, colour)


def _even(recipe: Recipe, width_mm: float, x_mm: Floats, y_mm: Floats) -> Ink:
    """A line of this pen's colour, opacity and blend, all else plain."""
    body = Body(width_mm=width_mm, colour=recipe.body.colour, opacity=recipe.body.opacity)
    plain = Recipe("line", body=body, wash=dataclasses.replace(Recipe().wash, blend=recipe.wash.blend))
    n, ends = len(x_mm), np.array([0, len(x_mm)])
    wide, at = np.full(n, width_mm), np.arange(n, dtype=float)
    return Ink(plain, x_mm, y_mm, wide, wide, np.zeros(n), np.ones(n), at, at / 100, ends)


def _lines(recipe: Recipe, width_mm: float, ppi: float) -> list[Ink]:
    along = np.linspace(-LINE_MM / 2, LINE_MM / 2, 80)
    pixel_mm = MM_PER_INCH / ppi
    lines = []
    for k, angle in enumerate(np.radians(ANGLES_DEG)):
        for phase in range(PHASES):
            x = APART_MM * (k + 1) + phase / PHASES * pixel_mm
            y = APART_MM * (phase + 1) + phase / PHASES * pixel_mm
            lines.append(_even(recipe, width_mm, x + along * np.cos(angle), y + along * np.sin(angle)))
    return lines


def alike(
    recipes: Sequence[Recipe], paper_colour: str, panel: Panel, toning: Toning = PLAIN, room: Room = NO_GLARE
) -> list[tuple[int, int]]:
    """Pairs of pens, by their places, whose full ink is told apart on paper and no longer on this panel."""
    before, after = [], []
    for recipe in recipes:
        flat = _flat(recipe, paper_colour)
        before.append(flat[16, 16].astype(float))
        after.append(as_seen(on_panel(flat, panel, toning, paper_colour), panel, room).reshape(-1, 3).mean(axis=0))
    pairs = [(i, j) for i in range(len(recipes)) for j in range(i + 1, len(recipes))]
    return [
        (i, j)
        for i, j in pairs
        if float(ciede2000(lab(before[i]), lab(before[j]))) >= APART
        and float(ciede2000(lab(after[i]), lab(after[j]))) < APART_IN_GREY
    ]


def _flat(recipe: Recipe, paper_colour: str) -> Pixels:
    """A piece of this pen's full ink."""
    bar = _even(recipe, 4.0, np.linspace(1, 9, 30), np.full(30, 5.0))
    return page_pixels([bar], _blank(10, paper_colour), View(4, 4, 16, 32, 32))


def tones_of(recipe: Recipe, paper_colour: str, panel: Panel, toning: Toning = PLAIN) -> tuple[float, float]:
    """Encoded greys of this pen's full ink and of bare paper on the panel, dither evened out."""
    ink, paper = _flat(recipe, paper_colour), np.full((BARE_PX, BARE_PX, 3), rgb(paper_colour), np.uint8)
    shown = [to_grey8(on_panel(flat, panel, toning, paper_colour)).mean() for flat in (ink, paper)]
    return float(shown[0]), float(shown[1])


def edge_px(recipe: Recipe, paper_colour: str, panel: Panel, toning: Toning = PLAIN) -> float:
    """How many pixels an edge of this pen's ink takes from a tenth to nine tenths of its tone (a slanted edge, as in
    ISO 12233, its pixels sorted by their distance from it).
    """
    scale = panel.ppi / MM_PER_INCH
    along = np.linspace(-9, 9, 120)
    slant = np.radians(SLANT_DEG)
    bar = _even(recipe, BAR_MM, 10 + along * np.sin(slant), 10 + along * np.cos(slant))
    side = round(8 * scale)
    view = View(10, 6, scale, side, side)  # its right edge alone
    shown = to_grey8(on_panel(page_pixels([bar], _blank(20, paper_colour), view), panel, toning, paper_colour))
    j, i = np.mgrid[0:side, 0:side] + 0.5
    away = ((i / scale) * np.cos(slant) - (j / scale - 4) * np.sin(slant) - BAR_MM / 2) * scale
    near = np.abs(away) < 4
    bins = np.floor((away[near] + 4) * FINE).astype(int)
    counts = np.bincount(bins, minlength=8 * FINE)
    tone = np.bincount(bins, shown[near].astype(float), 8 * FINE) / np.maximum(counts, 1)
    ends = tone[:FINE].mean(), tone[-FINE:].mean()
    if ends[0] == ends[1]:
        return 0.0
    rise = np.maximum.accumulate((tone - ends[0]) / (ends[1] - ends[0]))
    low, high = (float(np.interp(level, rise, np.arange(8 * FINE))) for level in (0.1, 0.9))
    return (high - low) / FINE

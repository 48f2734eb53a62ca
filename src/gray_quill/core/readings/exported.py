"""What a page is sent out as, beside what its writer saw: edges, the faintest lines, and how far the two are apart."""

import dataclasses
from collections.abc import Sequence

import numpy as np

from gray_quill.core.colour.srgb import to_grey8
from gray_quill.core.digitiser.device import Panel
from gray_quill.core.errors import NoInk
from gray_quill.core.ink.page import page_pixels
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.view import View
from gray_quill.core.panel.difference import apart_l
from gray_quill.core.panel.proof import NO_GLARE, PLAIN, Proof, Toning, check_size, proof_of
from gray_quill.core.paper import Paper
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.percentiles import weighted_percentiles
from gray_quill.core.readings.on_panel import edge_px
from gray_quill.core.readings.panel_readings import contrast_along, lengths_along
from gray_quill.core.readings.reading import reading
from gray_quill.core.units import px_per_mm

EXPORT_DPI = (150, 300, 600)
FAINT = 5  # percentile of contrast along the ink
NEAR_MM = 0.085  # a point of the ink is as dark as what is so near to it, on every density
EDGE_MM = 2.0  # of paper about the ink
SOFT = 1.25  # times as wide an edge looks soft beside another; common practice, no source


@dataclasses.dataclass(frozen=True)
class Exported:
    """dpi: 0 for the panel itself."""

    dpi: int
    edge_mm: float = reading(
        "edge", "mm", "An edge of this pen from a tenth to nine tenths of its tone.", digits=3, better="less"
    )
    faint: float = reading(
        "faintest lines", ":1", "Contrast with the paper over which all but a twentieth of the ink lies.", better="more"
    )
    apart_l: float | None = reading(
        "apart", "L*", "From the panel's look, on the mean of small squares that hold ink.", better="less"
    )


def exported(inks: Sequence[Ink], recipe: Recipe, paper: Paper, panel: Panel, toning: Toning = PLAIN) -> list[Exported]:
    """The panel's look of this ink, then PNG pictures of it at EXPORT_DPI. Raises NoInk where there is none."""
    if not inks:
        raise NoInk("There is no ink on this sheet yet. Write a line, or let the hand write one.", "sheet_id")
    boxes = np.array([ink.box_mm for ink in inks])
    (left, top), (right, bottom) = boxes[:, :2].min(axis=0) - EDGE_MM, boxes[:, 2:].max(axis=0) + EDGE_MM
    box = float(left), float(top), float(right), float(bottom)
    look, view = _look(inks, paper, panel, toning, box)
    found = [_read(0, inks, look, view, edge_px(recipe, paper.colour, panel, toning), None)]
    for dpi in EXPORT_DPI:
        picture = Panel(ppi=dpi)  # all greys and colours: what a file holds
        sent, there = _look(inks, paper, picture, PLAIN, box)
        squares = apart_l(look, sent, view.px_per_mm, there.px_per_mm)
        ink = _holds_ink(look, view, squares.shape)
        mean = float(np.abs(squares[ink]).mean()) if ink.any() else 0.0
        found.append(_read(dpi, inks, sent, there, edge_px(recipe, paper.colour, picture), mean))
    return found


def softest(found: Sequence[Exported]) -> int | None:
    """The finest export whose edges are softer than the panel's by more than SOFT; None where none is."""
    soft = [one.dpi for one in found[1:] if one.edge_mm > SOFT * found[0].edge_mm]
    return max(soft, default=None)


def _look(
    inks: Sequence[Ink], paper: Paper, panel: Panel, toning: Toning, box_mm: tuple[float, float, float, float]
) -> tuple[Proof, View]:
    left, top, right, bottom = box_mm
    scale = px_per_mm(panel.ppi)
    # all looks begin at the same place of the page, or their squares would not be of the same ink
    view = View(left, top, scale, int(np.ceil((right - left) * scale)), int(np.ceil((bottom - top) * scale)))
    check_size(view)
    return proof_of(page_pixels(inks, paper, view), paper.colour, panel, toning, NO_GLARE), view


def _read(dpi: int, inks: Sequence[Ink], look: Proof, view: View, edge: float, apart: float | None) -> Exported:
    grey = to_grey8(look.pixels)
    written = [ink for ink in inks if ink.recipe.wash.place == "over"] or inks
    reach = max(1, round(NEAR_MM * view.px_per_mm))
    ratios = np.concatenate([contrast_along(ink, grey, look.seen, look.ground, view, reach) for ink in written])
    lengths = np.concatenate([lengths_along(ink) for ink in written])
    faint = float(weighted_percentiles(ratios, lengths, (FAINT,))[0])
    return Exported(dpi, edge / view.px_per_mm, faint, apart)


def _holds_ink(look: Proof, view: View, shape: tuple[int, ...]) -> np.ndarray:
    """Squares in which the original is not bare paper."""
    off = (look.original != look.original[0, 0]).any(axis=2)
    rows, columns = (
        np.minimum((np.arange(n) / shape[k] * off.shape[k]).astype(int), off.shape[k] - 1) for k, n in enumerate(shape)
    )
    held = np.logical_or.reduceat(np.logical_or.reduceat(off, rows, axis=0), columns, axis=1)
    return np.asarray(held)

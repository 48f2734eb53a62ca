"""A sheet in any of the picture formats."""

from collections.abc import Sequence

from gray_quill.core.errors import WrongMedia
from gray_quill.core.ink.page import ink_pixels, page_pixels
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.stroke_edits import moved_ink
from gray_quill.core.ink.view import box_view, page_view
from gray_quill.core.paper import Paper
from gray_quill.core.quantities import Quantity
from gray_quill.core.units import px_per_mm
from gray_quill.formats.openraster import write_openraster
from gray_quill.formats.pdf import write_pdf
from gray_quill.formats.png import write_png
from gray_quill.formats.svg import write_svg

EDGE_MM = 0.5  # round ink that is taken out alone
DPI = Quantity("number", "Density", "Pixels an inch of a PNG", "dpi", 20, 2400, 1)


def export_ink(inks: Sequence[Ink], paper_colour: str, form: str, dpi: float, title: str) -> bytes:
    """Ink alone as svg or png, as large as it is; `paper_colour` decides what blend "auto" means."""
    boxes = [ink.box_mm for ink in inks]
    left, top = min(b[0] for b in boxes) - EDGE_MM, min(b[1] for b in boxes) - EDGE_MM
    right, bottom = max(b[2] for b in boxes) + EDGE_MM, max(b[3] for b in boxes) + EDGE_MM
    if form == "png":
        view = box_view((left, top, right, bottom), px_per_mm(dpi))
        return write_png(ink_pixels(inks, view, paper_colour), dpi)
    paper = Paper(right - left, bottom - top, "blank", colour=paper_colour)
    return write_svg([moved_ink(ink, -left, -top) for ink in inks], paper, False, title)


def export_sheet(
    inks: Sequence[Ink], paper: Paper, form: str, dpi: float, with_paper: bool, title: str = "Sheet"
) -> bytes:
    """A sheet as svg, png, pdf or ora."""
    if form == "svg":
        return write_svg(inks, paper, with_paper, title)
    if form == "pdf":
        return write_pdf([(inks, paper)], with_paper, title)
    if form == "ora":
        return write_openraster(inks, paper, dpi, with_paper, title)
    if form == "png":
        view = page_view(paper, dpi)
        return write_png(page_pixels(inks, paper, view) if with_paper else ink_pixels(inks, view, paper.colour), dpi)
    raise WrongMedia(f"Ink goes out as svg, png, pdf or ora, not {form!r}.")

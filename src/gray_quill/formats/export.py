"""A sheet in any of the picture formats."""

from collections.abc import Sequence

from gray_quill.core.errors import WrongMedia
from gray_quill.core.ink.page import ink_pixels, page_pixels
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.view import page_view
from gray_quill.core.paper import Paper
from gray_quill.core.quantities import Quantity
from gray_quill.formats.pdf import write_pdf
from gray_quill.formats.png import write_png
from gray_quill.formats.svg import write_svg

DPI = Quantity("number", "Density", "Pixels an inch of a PNG", "dpi", 20, 2400, 1)


def export_sheet(
    inks: Sequence[Ink], paper: Paper, form: str, dpi: float, with_paper: bool, title: str = "Sheet"
) -> bytes:
    """A sheet as svg, png or pdf."""
    if form == "svg":
        return write_svg(inks, paper, with_paper, title)
    if form == "pdf":
        return write_pdf(inks, paper, with_paper, title)
    if form == "png":
        view = page_view(paper, dpi)
        return write_png(page_pixels(inks, paper, view) if with_paper else ink_pixels(inks, view, paper.colour), dpi)
    raise WrongMedia(f"Ink goes out as svg, png or pdf, not {form!r}.")

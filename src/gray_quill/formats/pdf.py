"""PDF: one page a sheet, ink as filled outlines."""

import io
from collections.abc import Iterable, Sequence
from typing import Any

import numpy as np
from PIL import Image
from reportlab.lib.colors import HexColor
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from gray_quill.core.arrays import Floats
from gray_quill.core.ink.outline import inside_rings, outline
from gray_quill.core.ink.settle import Ink
from gray_quill.core.paper import Paper
from gray_quill.core.rulings import ruling_marks
from gray_quill.core.units import mm_to_pt
from gray_quill.formats.stroke_picture import Drawn, blend_of, drawn_parts, part_picture
from gray_quill.formats.svg import stroke_opacity

NON_ZERO = 1  # reportlab's number for the nonzero winding rule


def write_pdf(inks: Sequence[Ink], paper: Paper, with_paper: bool = True, title: str = "Sheet") -> bytes:
    """A document of one page of the paper's size, the same areas, opacity and blend as in SVG."""
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(mm_to_pt(paper.width_mm), mm_to_pt(paper.height_mm)), pageCompression=1, invariant=1)
    canvas.setTitle(title)
    if with_paper:
        _paper(canvas, paper)
    for part in drawn_parts(inks):
        ink = part.inks[0]
        body = ink.recipe.body
        canvas.setBlendMode(blend_of(part, paper).capitalize())
        if part.below is not None:
            _picture(canvas, paper, part)
            continue
        rings = [ring for each in part.inks for ring in outline(each)]
        _fill(canvas, paper, rings, body.colour, stroke_opacity(ink))
        if body.hollow.on and body.hollow.fill_opacity > 0:
            canvas.setBlendMode("Normal")
            _fill(canvas, paper, inside_rings(ink), body.hollow.fill, body.hollow.fill_opacity)
    canvas.showPage()
    canvas.save()
    return out.getvalue()


def _fill(canvas: Any, paper: Paper, rings: Iterable[Floats], colour: str, opacity: float) -> None:
    canvas.setFillColor(HexColor(colour))
    canvas.setFillAlpha(opacity)
    path = canvas.beginPath()
    for ring in rings:
        points = np.column_stack((ring[:, 0], paper.height_mm - ring[:, 1])) * mm_to_pt(1)
        path.moveTo(*points[0])
        for x, y in points[1:]:
            path.lineTo(x, y)
        path.close()
    canvas.drawPath(path, stroke=0, fill=1, fillMode=NON_ZERO)


def _picture(canvas: Any, paper: Paper, part: Drawn) -> None:
    pixels, (left, top, width, height) = part_picture(part, paper)
    unit = mm_to_pt(1)
    canvas.setFillAlpha(1)  # or the area before would thin the picture
    canvas.drawImage(
        ImageReader(Image.fromarray(pixels)),
        left * unit,
        (paper.height_mm - top - height) * unit,
        width * unit,
        height * unit,
        mask="auto",
    )


def _paper(canvas: Any, paper: Paper) -> None:
    unit = mm_to_pt(1)
    canvas.setFillColor(HexColor(paper.colour))
    canvas.rect(0, 0, paper.width_mm * unit, paper.height_mm * unit, stroke=0, fill=1)
    marks = ruling_marks(paper)
    canvas.setStrokeColor(HexColor(paper.rule_colour))
    canvas.setFillColor(HexColor(paper.rule_colour))
    canvas.setLineWidth(marks.weight_mm * unit)
    canvas.setLineCap(1)
    for x0, y0, x1, y1 in marks.lines * unit:
        canvas.line(x0, paper.height_mm * unit - y0, x1, paper.height_mm * unit - y1)
    for x, y in marks.dots * unit:
        canvas.circle(x, paper.height_mm * unit - y, marks.weight_mm / 2 * unit, stroke=0, fill=1)

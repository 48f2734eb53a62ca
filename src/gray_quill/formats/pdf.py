"""PDF: ink as filled outlines, over documents with their own outlines and text where they are printed on the page."""

import io
import zlib
from collections.abc import Callable, Iterable, Sequence
from typing import Any

import numpy as np
import shapely
from PIL import Image
from reportlab import rl_config
from reportlab.lib.colors import HexColor
from reportlab.lib.utils import ImageReader
from reportlab.pdfbase import pdfdoc
from reportlab.pdfgen.canvas import Canvas

from gray_quill.core.arrays import Floats
from gray_quill.core.colour.srgb import rgb
from gray_quill.core.ink.outline import inside_rings, outline
from gray_quill.core.ink.settle import Ink
from gray_quill.core.ink.underlay import originals_of, prints_on
from gray_quill.core.paper import Paper
from gray_quill.core.rulings import ruling_marks
from gray_quill.core.units import mm_to_pt
from gray_quill.formats.pdf_notes import Area, InkNote
from gray_quill.formats.stroke_picture import Drawn, blend_of, drawn_parts, part_picture
from gray_quill.formats.svg import stroke_opacity
from gray_quill.formats.underlay_picture import document_prints, is_document, print_picture

NON_ZERO = 1  # reportlab's number for the nonzero winding rule
NOTE_PT = 0.1  # within which the way of an annotation lies
SMOOTH_MM = 0.01  # a quarter of a pixel at 600 an inch
rl_config.useA85 = 0  # streams as bytes, not as text a quarter longer


def _packed(content: str | bytes) -> bytes:
    return zlib.compress(content.encode() if isinstance(content, str) else content, 2)


# reportlab packs at zlib's own level, which takes as long again as all else; the files are a tenth larger
pdfdoc.PDFZCompress.encode = _packed  # type: ignore[method-assign, assignment]


def write_pdf(
    pages: Sequence[tuple[Sequence[Ink], Paper]],
    with_paper: bool = True,
    title: str = "Sheet",
    progress: Callable[[float], None] = lambda _: None,
    noted: list[list[InkNote]] | None = None,
) -> bytes:
    """A document of pages of their papers' size, the same areas, opacity and blend as in SVG. progress: told the share
    that is done; what it raises ends the writing. noted: ink that has outlines is left out and told here, by page, to
    be added as annotations; what has grain stays a picture on the page.
    """
    documents = [document_prints(paper) if with_paper else [] for _, paper in pages]
    between = any(documents)  # they go between paper and ink, which are then written apart
    grounds, over = io.BytesIO(), io.BytesIO()
    below = _canvas(grounds, title)
    above = _canvas(over, title) if between else below
    for k, (inks, paper) in enumerate(pages):
        for canvas in {id(c): c for c in (below, above)}.values():
            canvas.setPageSize((mm_to_pt(paper.width_mm), mm_to_pt(paper.height_mm)))
        if with_paper:
            _paper(below, paper)
            _prints(below, above, paper)
        notes: list[InkNote] | None = None if noted is None else []
        _ink(above, inks, paper, notes)
        if noted is not None and notes is not None:
            noted.append(notes)
        for canvas in {id(c): c for c in (below, above)}.values():
            canvas.showPage()
        progress((k + 1) / len(pages))
    below.save()
    if not between:
        return grounds.getvalue()
    above.save()
    originals = next(o for _, paper in pages if (o := originals_of(paper)) is not None)
    return originals.bound(grounds.getvalue(), over.getvalue(), documents)


def _canvas(out: io.BytesIO, title: str) -> Any:
    canvas = Canvas(out, pageCompression=1, invariant=1)
    canvas.setTitle(title)
    return canvas


def _ink(canvas: Any, inks: Sequence[Ink], paper: Paper, notes: list[InkNote] | None = None) -> None:
    for part in drawn_parts(inks):
        ink = part.inks[0]
        body = ink.recipe.body
        canvas.setBlendMode(blend_of(part, paper).capitalize())
        if part.below is not None:
            _picture(canvas, paper, part)
            continue
        if notes is not None:
            notes.append(_note(part, paper))
            continue
        rings = [ring for each in part.inks for ring in outline(each)]
        _fill(canvas, paper, rings, body.colour, stroke_opacity(ink))
        if body.hollow.on and body.hollow.fill_opacity > 0:
            canvas.setBlendMode("Normal")
            _fill(canvas, paper, inside_rings(ink), body.hollow.fill, body.hollow.fill_opacity)
    canvas.setBlendMode("Normal")


def _note(part: Drawn, paper: Paper) -> InkNote:
    ink, blend = part.inks[0], blend_of(part, paper).capitalize()
    body = ink.recipe.body

    def area(rings: Iterable[Floats], colour: str, opacity: float, mode: str) -> Area:
        code = "".join(_ring_code(_smoothed(ring), paper.height_mm) for ring in rings if len(ring))
        red, green, blue = (c / 255 for c in rgb(colour))
        return Area(code, (red, green, blue), opacity, mode)

    rings = [ring for each in part.inks for ring in outline(each)]
    areas = [area(rings, body.colour, stroke_opacity(ink), blend)]
    if body.hollow.on and body.hollow.fill_opacity > 0:
        areas.append(area(inside_rings(ink), body.hollow.fill, body.hollow.fill_opacity, "Normal"))
    ways = []
    for each in part.inks:
        way = np.column_stack((each.x_mm, paper.height_mm - each.y_mm)) * mm_to_pt(1)
        kept = shapely.get_coordinates(shapely.LineString(way).simplify(NOTE_PT)) if len(way) > 1 else way
        ways.append([round(float(v), 2) for v in kept.ravel()])
    ends = np.concatenate([ring for ring in rings if len(ring)])
    left, top, right, bottom = (mm_to_pt(float(v)) for v in (*ends.min(axis=0), *ends.max(axis=0)))
    height = mm_to_pt(paper.height_mm)
    width = mm_to_pt(float(np.mean([each.long_mm.mean() for each in part.inks])))
    return InkNote(areas, ways, width, (left - 1, height - bottom - 1, right + 1, height - top + 1), ink.recipe.name)


def _prints(below: Any, above: Any, paper: Paper) -> None:
    """What is printed on the paper: pictures on the paper itself; over documents, which come between, what greys and
    fades them.
    """
    for one in prints_on(paper):
        document = is_document(one, paper)
        left, top, right, bottom = (mm_to_pt(v) for v in one.covers_mm(paper))
        box = left, mm_to_pt(paper.height_mm) - bottom, right - left, bottom - top
        if not document:
            reader = ImageReader(print_picture(one, paper))
            below.setFillAlpha(1)
            below.drawImage(reader, *box, mask="auto")
            continue
        if one.grey:  # blend mode "Color": the hue of grey, the luminosity of what is below (ISO 32000-1, 11.3.5.3)
            _veil(above, "#808080", 1, "Color", box)
        if one.dim:
            _veil(above, paper.colour, one.dim, "Normal", box)


def _veil(canvas: Any, colour: str, opacity: float, blend: str, box: tuple[float, float, float, float]) -> None:
    canvas.setBlendMode(blend)
    canvas.setFillColor(HexColor(colour))
    canvas.setFillAlpha(opacity)
    canvas.rect(*box, stroke=0, fill=1)
    canvas.setBlendMode("Normal")
    canvas.setFillAlpha(1)


class _Rings:
    """Closed ways as a path reportlab draws; its own, a call for each corner, takes ten times as long."""

    def __init__(self, rings: Iterable[Floats], height_mm: float) -> None:
        self._code = "".join(_ring_code(ring, height_mm) for ring in rings)

    def getCode(self) -> str:  # reportlab's name
        return self._code


def _ring_code(ring: Floats, height_mm: float) -> str:
    points = np.column_stack((ring[:, 0], height_mm - ring[:, 1])) * mm_to_pt(1)
    return ("%.2f %.2f m" + " %.2f %.2f l" * (len(points) - 1) + " h ") % tuple(points.ravel().tolist())


def _smoothed(ring: Floats) -> Floats:
    """A ring with as few corners as lie within SMOOTH_MM of it."""
    if len(ring) < 8:
        return ring
    kept = shapely.get_coordinates(shapely.LineString(ring).simplify(SMOOTH_MM, preserve_topology=False))
    return kept if len(kept) >= 4 else ring


def _fill(canvas: Any, paper: Paper, rings: Iterable[Floats], colour: str, opacity: float) -> None:
    canvas.setFillColor(HexColor(colour))
    canvas.setFillAlpha(opacity)
    path = _Rings([_smoothed(ring) for ring in rings if len(ring)], paper.height_mm)
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

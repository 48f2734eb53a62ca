"""A report as PDF: A4 pages, the lines 100 mm for 100 points."""

import io
from collections.abc import Sequence
from typing import Any

from PIL import Image
from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.utils import ImageReader
from reportlab.platypus import Flowable, ListFlowable, LongTable, Paragraph, SimpleDocTemplate, Spacer

from gray_quill.core.ink.swatch import LINE_MM, line_pixels
from gray_quill.core.units import mm_to_pt
from gray_quill.formats.faces import BOLD, ITALIC, NO_FACE, REGULAR, marked_up, without_face
from gray_quill.formats.report_blocks import GROUND, Block, Heading, Listed, Rows, Standing, Words

INK, RULE, ACCENT = HexColor("#20242b"), HexColor("#c9c3b6"), HexColor("#2e5e5a")
MARGIN_MM = 18.0
WIDE_PT = A4[0] - 2 * mm_to_pt(MARGIN_MM)
PT_PER_POINT = mm_to_pt(1.0)  # a point of a total is a millimetre
TEXT = ParagraphStyle("text", fontName=REGULAR, fontSize=10.5, leading=14, textColor=INK, spaceAfter=4)
CELL = ParagraphStyle("cell", parent=TEXT, fontSize=8.5, leading=10.5, spaceAfter=0)
HEADS = {
    1: ParagraphStyle("h1", parent=TEXT, fontName=ITALIC, fontSize=20, leading=26),
    2: ParagraphStyle("h2", parent=TEXT, fontName=ITALIC, fontSize=14, leading=20, spaceBefore=8),
    3: ParagraphStyle("h3", parent=TEXT, fontName=BOLD, fontSize=11, leading=15, spaceBefore=4),
}


def report_pdf(title: str, blocks: Sequence[Block]) -> bytes:
    out = io.BytesIO()
    margin = mm_to_pt(MARGIN_MM)
    document = SimpleDocTemplate(
        out, pagesize=A4, title=title, leftMargin=margin, rightMargin=margin, topMargin=margin, bottomMargin=margin
    )
    story = [part for one in blocks for part in _block(one)]
    if any(without_face(words) for words in _all_words(blocks)):
        story.append(Paragraph(NO_FACE, TEXT))
    document.build(story)
    return out.getvalue()


def _all_words(blocks: Sequence[Block]) -> list[str]:
    words: list[str] = []
    for one in blocks:
        if isinstance(one, Heading | Words):
            words.append(one.words)
        elif isinstance(one, Listed):
            words += one.items
        elif isinstance(one, Rows):
            words += [cell for row in one.rows for cell in row]
    return words


def _words(words: str, style: ParagraphStyle) -> Paragraph:
    return Paragraph(marked_up(words, style.fontName), style)


def _block(one: Block) -> list[Any]:
    if isinstance(one, Heading):
        return [_words(one.words, HEADS[one.level])]
    if isinstance(one, Words):
        return [_words(one.words, TEXT)]
    if isinstance(one, Listed):
        return [
            ListFlowable(
                [_words(words, TEXT) for words in one.items], bulletType="bullet", start="•", bulletFontName=REGULAR
            )
        ]
    if isinstance(one, Rows):
        return [_table(one), Spacer(1, 6)]
    return [_Line(one), Spacer(1, 4)]


def _table(one: Rows) -> LongTable:
    cells = [[_words(cell, CELL) for cell in row] for row in (one.head, *one.rows)]
    longest = [max(len(row[k]) for row in (one.head, *one.rows)) for k in range(len(one.head))]
    shares = [min(max(n, 6), 60) for n in longest]
    widths = [WIDE_PT * share / sum(shares) for share in shares]
    lines: Any = [("LINEABOVE", (0, 0), (-1, -1), 0.5, RULE), ("VALIGN", (0, 0), (-1, -1), "TOP")]
    return LongTable(cells, colWidths=widths, repeatRows=1, style=lines, hAlign="LEFT")


class _Line(Flowable):  # type: ignore[misc]
    """A total as a line, 1 mm a point."""

    def __init__(self, one: Standing) -> None:
        super().__init__()
        self.one = one
        self.width, self.height = 100 * PT_PER_POINT, mm_to_pt(LINE_MM[1]) + 6

    def draw(self) -> None:
        canvas, one, scale = self.canv, self.one, PT_PER_POINT
        tall = mm_to_pt(LINE_MM[1])
        pixels = line_pixels(one.pen, GROUND)
        shown = pixels[:, : max(1, round(pixels.shape[1] * min(1.0, max(0.0, one.total) / 100)))]
        picture = ImageReader(Image.fromarray(shown))
        canvas.drawImage(picture, 0, 6, max(0.1, one.total * scale), tall, mask="auto")
        canvas.setStrokeColor(RULE)
        canvas.line(0, 5, 100 * scale, 5)
        canvas.setStrokeColor(ACCENT)
        at = 0.0
        for _, part in one.parts:
            at += part
            canvas.line(at * scale, 5, at * scale, 6 + tall)
        canvas.setStrokeColor(INK)
        canvas.line(one.low * scale, 2, one.high * scale, 2)
        for end in (one.low, one.high):
            canvas.line(end * scale, 2, end * scale, 5)

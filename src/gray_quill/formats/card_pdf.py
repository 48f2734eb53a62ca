"""A setting card as PDF: A5, its line and its measure in true millimetres, the press curve as points."""

import io
import itertools

from PIL import Image
from reportlab.lib.colors import Color, HexColor
from reportlab.lib.utils import ImageReader
from reportlab.pdfgen.canvas import Canvas

from gray_quill.core.ink.swatch import LINE_MM, line_pixels
from gray_quill.core.lineup.setting_card import Card, Settings
from gray_quill.core.pen.recipe import Recipe
from gray_quill.core.readings.reading import said
from gray_quill.core.units import mm_to_pt
from gray_quill.formats.faces import BOLD, ITALIC, NO_FACE, REGULAR, draw, without_face

WIDTH_MM, HEIGHT_MM = 148.0, 210.0
EDGE_MM, GAP_MM = 12.0, 4.0
MEASURE_MM = 50.0
CURVE_MM = 46.0
INK, SOFT, RULE, ACCENT = (HexColor(c) for c in ("#20242b", "#5c626b", "#c9c3b6", "#2e5e5a"))
ROW_MM, COLUMN_MM = 4.1, 59.0
GROUND = "#ffffff"


def write_card(card: Card, recipe: Recipe) -> bytes:
    out = io.BytesIO()
    canvas = Canvas(
        out, pagesize=(mm_to_pt(WIDTH_MM), mm_to_pt(HEIGHT_MM)), invariant=1
    )  # the same pen, the same bytes
    _Drawn(canvas, card, recipe).all()
    return out.getvalue()


class _Drawn:
    """A card as it is drawn from the top down; y_mm: from the top."""

    def __init__(self, canvas: Canvas, card: Card, recipe: Recipe) -> None:
        self.canvas, self.card, self.recipe = canvas, card, recipe
        self.lost = False
        canvas.setTitle(f"{card.pen} on {card.device}")

    def all(self) -> None:
        card = self.card
        self.text(EDGE_MM, 17, card.pen, 20, ITALIC)
        self.text(EDGE_MM, 23, f"{card.kind} on {card.device}", 10, REGULAR, SOFT)
        self._line(28)
        self._curve(44)
        self._table(EDGE_MM + CURVE_MM + 14, 44)
        self._measure(104)
        self._groups(114)
        if self.lost:
            self.text(EDGE_MM, HEIGHT_MM - 5, NO_FACE, 7, REGULAR, SOFT)
        self.canvas.save()

    def text(self, x: float, y: float, words: str, size: float = 8.5, font: str = REGULAR, ink: Color = INK) -> None:
        self.lost = self.lost or without_face(words, font)
        self.canvas.setFillColor(ink)
        draw(self.canvas, mm_to_pt(x), mm_to_pt(HEIGHT_MM - y), words, font, size)

    def stroke(self, x0: float, y0: float, x1: float, y1: float, ink: Color = RULE, weight: float = 0.6) -> None:
        self.canvas.setStrokeColor(ink)
        self.canvas.setLineWidth(weight)
        self.canvas.line(*(mm_to_pt(v) for v in (x0, HEIGHT_MM - y0, x1, HEIGHT_MM - y1)))

    def _line(self, y: float) -> None:
        """The pen's line, as broad as it is written."""
        picture = ImageReader(Image.fromarray(line_pixels(self.recipe, GROUND)))
        width, height = (mm_to_pt(v) for v in LINE_MM)
        self.canvas.drawImage(picture, mm_to_pt(EDGE_MM), mm_to_pt(HEIGHT_MM - y) - height, width, height, mask="auto")
        card = self.card
        words = f"in true size; {said(card.thin_mm)} mm at the lightest, {said(card.thick_mm)} mm at the firmest"
        self.text(EDGE_MM, y + LINE_MM[1] + 4, words, 8, ink=SOFT)

    def _curve(self, y: float) -> None:
        """The press curve: force to the right, share of the range upward."""
        low, left = y + CURVE_MM, EDGE_MM + 4
        for k in range(5):
            at = CURVE_MM * k / 4
            self.stroke(left, low - at, left + CURVE_MM, low - at)
            self.stroke(left + at, low, left + at, low - CURVE_MM)
        places = [(left + CURVE_MM * f, low - CURVE_MM * s) for f, _, s in self.card.curve]
        for (x0, y0), (x1, y1) in itertools.pairwise(places):
            self.stroke(x0, y0, x1, y1, ACCENT, 1.4)
        self.canvas.setFillColor(ACCENT)
        for x, at in places:
            self.canvas.circle(mm_to_pt(x), mm_to_pt(HEIGHT_MM - at), 1.8, stroke=0, fill=1)
        self.text(left, low + 4, "force 0 to full", 8, ink=SOFT)
        self.text(left, y - 1.5, "share of the range", 8, ink=SOFT)

    def _table(self, x: float, y: float) -> None:
        self.text(x, y - 1.5, "force", 8, ink=SOFT)
        self.text(x + 16, y - 1.5, "level", 8, ink=SOFT)
        self.text(x + 34, y - 1.5, "share of the range", 8, ink=SOFT)
        for k, (force, level, share) in enumerate(self.card.curve):
            at = y + 3 + ROW_MM * k
            self.stroke(x, at - 3.2, x + 58, at - 3.2)
            for offset, words in ((0, f"{force:.1f}"), (16, str(level)), (34, f"{share:.3f}")):
                self.text(x + offset, at, words)

    def _measure(self, y: float) -> None:
        """A measure that tells whether the printer kept the size."""
        self.stroke(EDGE_MM, y, EDGE_MM + MEASURE_MM, y, INK, 0.8)
        for at in (EDGE_MM, EDGE_MM + MEASURE_MM):
            self.stroke(at, y - 2, at, y + 2, INK, 0.8)
        words = f"{MEASURE_MM:g} mm: if it is not, the print is not in true size"
        self.text(EDGE_MM + MEASURE_MM + 3, y + 1, words, 8, ink=SOFT)

    def _groups(self, top: float) -> None:
        """Settings in two columns, and on further pages where they do not fit."""
        x, y = EDGE_MM, top
        for group in self.card.groups:
            for n, (label, value) in enumerate(_folded(group)):
                if y > HEIGHT_MM - EDGE_MM:
                    x, y = x + COLUMN_MM + GAP_MM, top
                if x > WIDTH_MM - EDGE_MM - COLUMN_MM + 1:
                    self.canvas.showPage()
                    x, y, top = EDGE_MM, 18.0, 18.0
                if n == 0:
                    self.text(x, y, group.title, 9, BOLD)
                    y += ROW_MM
                self.text(x, y, label, 8, ink=SOFT)
                self.text(x + 29, y, value, 8)
                y += ROW_MM
            y += 1.5


def _folded(group: Settings) -> list[tuple[str, str]]:
    """Rows no longer than a column: what is longer goes on below."""
    rows = []
    for label, value in group.rows:
        words, line = value.split(" "), ""
        first = label
        for word in words:
            if line and len(line) + len(word) > 22:
                rows.append((first, line))
                first, line = "", word
            else:
                line = f"{line} {word}".strip()
        rows.append((first, line))
    return rows

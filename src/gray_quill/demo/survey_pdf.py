"""The typed survey sheet of the demo, a document of one page."""

import io

from reportlab.pdfgen.canvas import Canvas

from gray_quill.core.paper import SIZES_MM
from gray_quill.core.units import mm_to_pt

WIDTH_MM, HEIGHT_MM = SIZES_MM["A5"]
LEFT_MM, TOP_MM, ROW_MM = 15.0, 46.0, 10.0  # of the first row's line
COLUMNS_MM = (15.0, 34.0, 54.0, 74.0, 92.0)
HEADS = ("trap", "from", "to", "°C", "moths")
ROWS = (
    ("1", "20:50", "21:05", "14.1", "3"),
    ("2", "21:10", "21:25", "13.4", "6"),
    ("3", "21:30", "21:50", "12.6", "14"),
    ("4", "21:55", "22:10", "12.2", "9"),
    ("5", "22:20", "22:35", "11.8", "2"),
    ("6", "22:40", "22:55", "11.5", "11"),
)
WORDS = (
    "Traps stand twenty paces apart along the ditch, lamps at knee height.",
    "Each is counted for fifteen minutes; what flies on is not counted.",
    "Rain stops the count. Unnamed moths are sketched, not taken.",
)


def row_y_mm(row: int) -> float:
    """The line a row of the table stands on."""
    return TOP_MM + ROW_MM * (row + 1)


def survey_pdf() -> bytes:
    """The same bytes every time."""
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(mm_to_pt(WIDTH_MM), mm_to_pt(HEIGHT_MM)), invariant=1)
    canvas.setTitle("Survey sheet")

    def say(x_mm: float, y_mm: float, words: str, size_pt: float, face: str = "Times-Roman") -> None:
        canvas.setFont(face, size_pt)
        canvas.drawString(mm_to_pt(x_mm), mm_to_pt(HEIGHT_MM - y_mm), words)

    say(LEFT_MM, 24, "Night survey, Sedge Hollow", 17, "Times-Bold")
    say(LEFT_MM, 31, "second night, calm, no moon", 10, "Times-Italic")
    for x, head in zip(COLUMNS_MM, HEADS, strict=True):
        say(x, TOP_MM, head, 10, "Times-Italic")
    canvas.setLineWidth(0.4)
    for k, row in enumerate(ROWS):
        y = row_y_mm(k)
        line = mm_to_pt(HEIGHT_MM - y + ROW_MM - 2.4)
        canvas.line(mm_to_pt(LEFT_MM), line, mm_to_pt(WIDTH_MM - LEFT_MM), line)
        for x, value in zip(COLUMNS_MM, row, strict=True):
            say(x, y, value, 12)
    for k, words in enumerate(WORDS):
        say(LEFT_MM, row_y_mm(len(ROWS)) + 12 + 7 * k, words, 10.5)
    canvas.showPage()
    canvas.save()
    return out.getvalue()

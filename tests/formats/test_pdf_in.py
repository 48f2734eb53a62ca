"""Documents that act: what is refused, what is let in, and that nothing of theirs but plain links goes out again. What
goes out is read back by pdfium, which wrote none of it.
"""

import ctypes
import io
import unittest
from typing import Any

import pypdf
import pypdfium2
import pypdfium2.raw as raw
from reportlab.pdfgen.canvas import Canvas

from gray_quill.core.errors import FormatError
from gray_quill.formats.pdf_in import Heading, look_at_pdf, read_pdf_links
from gray_quill.formats.pdf_out import assemble
from tests.bombs import pdf

SIDE = 300
SCRIPT = "<< /S /JavaScript /JS (app.alert(1)) >>"
NOTE = "<< /Type /Annot /Subtype /{} /Rect [50 60 150 90] {} >>"
WORDS = ("/JS", "/JavaScript", "/Launch", "/AA", "/OpenAction", "/EmbeddedFile", "/AcroForm", "/SubmitForm", "/XFA")


def document(root: str = "", page: str = "", more: dict[int, str] | None = None) -> bytes:
    """Two empty pages, with this in the catalogue and on the first page."""
    box = f"/MediaBox [0 0 {SIDE} {SIDE}]"
    return pdf(
        {
            1: f"<< /Type /Catalog /Pages 2 0 R {root} >>",
            2: "<< /Type /Pages /Count 2 /Kids [3 0 R 4 0 R] >>",
            3: f"<< /Type /Page /Parent 2 0 R {box} {page} >>",
            4: f"<< /Type /Page /Parent 2 0 R {box} >>",
            **(more or {}),
        }
    )


def noted(subtype: str, inside: str, **more: Any) -> bytes:
    return document(page=f"/Annots [{NOTE.format(subtype, inside)}]", **more)


OUTLINE = "/Outlines << /First 5 0 R /Last 6 0 R >>"
LET_IN = {
    "a link": noted("Link", "/A << /S /URI /URI (https://fen.example/moths?night=2) >>"),
    "a link to a page": noted("Link", "/Dest [4 0 R /Fit]"),
    "a link to a page, as an action": noted("Link", "/A << /S /GoTo /D [4 0 R /XYZ 0 0 0] >>"),
    "a link that would run a script": noted("Link", "/A << /S /URI /URI (javascript:alert\\(1\\)) >>"),
    "a link to a file": noted("Link", "/A << /S /URI /URI (file:///etc/passwd) >>"),
    "a page to open at": document("/OpenAction [4 0 R /Fit]"),
    "an outline": document(
        OUTLINE,
        more={
            5: "<< /Title (Traps) /Dest [3 0 R /Fit] /Next 6 0 R >>",
            6: "<< /Title (Counts) /Dest [4 0 R /Fit] /Next 5 0 R >>",
        },
    ),
    "actions that follow each other round": noted(
        "Link", "/A 5 0 R", more={5: "<< /S /GoTo /D [4 0 R /Fit] /Next 6 0 R >>", 6: "<< /S /GoTo /Next 5 0 R >>"}
    ),
    "a file within": document(
        "/Names << /EmbeddedFiles << /Names [(x) 5 0 R] >> >>",
        more={5: "<< /Type /Filespec /F (x) /EF << /F 6 0 R >> >>", 6: "<< /Length 0 >> stream\n\nendstream"},
    ),
    "a form": document(
        "/AcroForm << /Fields [5 0 R] >>",
        "/Annots [5 0 R]",
        {5: "<< /FT /Tx /T (name) /Subtype /Widget /Rect [50 60 150 90] /V (moth) >>"},
    ),
}
REFUSED = {
    "a link that is a script": noted("Link", f"/A {SCRIPT}"),
    "a script after a link": noted("Link", f"/A << /S /URI /URI (https://a.example) /Next {SCRIPT} >>"),
    "a script among those after a link": noted("Link", f"/A << /S /GoTo /D [4 0 R /Fit] /Next [{SCRIPT}] >>"),
    "a page that acts": document(page=f"/AA << /O {SCRIPT} >>"),
    "a note that acts": noted("Text", f"/AA << /E {SCRIPT} >>"),
    "a script at the opening": document(f"/OpenAction {SCRIPT}"),
    "an address at the opening": document("/OpenAction << /S /URI /URI (https://a.example) >>"),
    "a program": noted("Link", "/A << /S /Launch /F (sh) >>"),
    "an outline that acts": document(OUTLINE, more={5: f"<< /Title (a) /A {SCRIPT} >>", 6: "<< /Title (b) >>"}),
    "a field that acts": document(
        "/AcroForm << /Fields [5 0 R] >>", more={5: f"<< /FT /Btn /T (x) /Kids [<< /AA << /U {SCRIPT} >> >>] >>"}
    ),
    "a form of another kind": document("/AcroForm << /Fields [] /XFA (x) >>"),
    "scripts by name": document(f"/Names << /JavaScript << /Names [(x) {SCRIPT}] >> >>"),
    "a form that is sent": noted("Widget", "/A << /S /SubmitForm /F (https://a.example) >>"),
}


def blank(pages: int) -> bytes:
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=(SIDE, SIDE), invariant=1)
    for _ in range(pages):
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def taken_out(data: bytes) -> bytes:
    """Both pages of a document, each on the upper half of a page."""
    half = {"file": "a", "matrix": (SIDE, 0, 0, SIDE / 2, 0, SIDE / 2), "clip": (0, SIDE / 2, SIDE, SIDE)}
    return assemble(blank(2), blank(2), [[{**half, "page": 1}], [{**half, "page": 2}]], {"a": data})


def links_of(data: bytes) -> list[tuple[int, Any, tuple[float, ...]]]:
    """Page, address or page it goes to, and box in points, by pdfium."""
    found = []
    document = pypdfium2.PdfDocument(data)
    for k in range(len(document)):
        page, at, link = document[k], ctypes.c_int(0), raw.FPDF_LINK()
        while raw.FPDFLink_Enumerate(page, ctypes.byref(at), ctypes.byref(link)):
            box = raw.FS_RECTF()
            raw.FPDFLink_GetAnnotRect(link, ctypes.byref(box))
            action = raw.FPDFLink_GetAction(link)
            goal: Any = raw.FPDFDest_GetDestPageIndex(document, raw.FPDFLink_GetDest(document, link))
            if raw.FPDFAction_GetType(action) == raw.PDFACTION_URI:
                room = ctypes.create_string_buffer(2000)
                raw.FPDFAction_GetURIPath(document, action, room, 2000)
                goal = room.value.decode()
            found.append((k, goal, tuple(round(v, 2) for v in (box.left, box.bottom, box.right, box.top))))
    return found


class Documents(unittest.TestCase):
    def test_what_acts_is_refused_in_words(self) -> None:
        for name, data in REFUSED.items():
            with self.subTest(name), self.assertRaisesRegex(FormatError, "scripts or actions"):
                look_at_pdf(data)

    def test_what_only_leads_somewhere_is_let_in(self) -> None:
        for name, data in LET_IN.items():
            with self.subTest(name):
                self.assertEqual(len(look_at_pdf(data).sizes_mm), 2)

    def test_only_plain_links_go_out_even_of_what_would_be_refused(self) -> None:
        for name, data in {**LET_IN, **REFUSED}.items():
            with self.subTest(name):
                out = taken_out(data)
                read = pypdfium2.PdfDocument(out)
                self.assertEqual(raw.FPDFDoc_GetJavaScriptActionCount(read), 0)
                self.assertEqual(raw.FPDFDoc_GetAttachmentCount(read), 0)
                self.assertEqual(read.get_formtype(), raw.FORMTYPE_NONE)
                self.assertEqual(len(read), 2)
                objects = pypdf.PdfReader(io.BytesIO(out))
                words = " ".join(repr(objects.get_object(k)) for k in sorted(objects.xref[0]))
                for word in WORDS:
                    self.assertNotIn(f"'{word}'", words)
                for _, goal, _ in links_of(out):
                    self.assertTrue(isinstance(goal, int) or goal.startswith("https://"), goal)

    def test_links_lie_where_their_page_lies(self) -> None:
        box = (50.0, 180.0, 150.0, 195.0)  # half as high, on the upper half
        self.assertEqual(links_of(taken_out(LET_IN["a link"])), [(0, "https://fen.example/moths?night=2", box)])
        for name in ("a link to a page", "a link to a page, as an action"):
            self.assertEqual(links_of(taken_out(LET_IN[name])), [(0, 1, box)], name)
        self.assertEqual(links_of(taken_out(LET_IN["a link that would run a script"])), [])

    def test_links_and_outline_are_read_as_they_are_shown(self) -> None:
        (link,) = read_pdf_links(LET_IN["a link"]).links
        self.assertEqual((link.page, link.address), (1, "https://fen.example/moths?night=2"))
        for shown, expected in zip(link.box, (50 / SIDE, 210 / SIDE, 150 / SIDE, 240 / SIDE), strict=True):
            self.assertAlmostEqual(shown, expected)
        turned = document(
            page="/Rotate 90 /Annots [" + NOTE.format("Link", "/A << /S /URI /URI (mailto:a@b.example) >>") + "]"
        )
        (link,) = read_pdf_links(turned).links
        for shown, expected in zip(link.box, (60 / SIDE, 50 / SIDE, 90 / SIDE, 150 / SIDE), strict=True):
            self.assertAlmostEqual(shown, expected, msg="a quarter clockwise brings the foot to the left")
        headings = read_pdf_links(LET_IN["an outline"]).outline
        self.assertEqual(headings, [Heading("Traps", 0, 1), Heading("Counts", 0, 2)], "one that goes round ends")

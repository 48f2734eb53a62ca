"""Pictures and documents under the ink: brought in, laid, turned with their page, taken out; hostile ones refused."""

import dataclasses
import io
import itertools
import os
import signal
import time
from typing import Any

import numpy as np
import pypdf
import pypdfium2
from PIL import Image
from pypdf.generic import DictionaryObject, NameObject, TextStringObject
from reportlab.pdfgen.canvas import Canvas

from gray_quill.core.ink.underlay import Print, carried_along, laid_out, turned_clockwise
from gray_quill.core.paper import paper_from_spec
from gray_quill.formats.png import read_png
from gray_quill.web.context import memory
from tests.web.api_case import STROKE, ApiCase

MM = 72 / 25.4
POINTS = (100 * MM, 140 * MM)


def document(pages: int = 2, size: tuple[float, float] = POINTS, rotate: int = 0) -> bytes:
    """A typed survey of so many pages: lines of text, and a bar at the foot that runs from black to white."""
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=size, invariant=1)
    for page in range(1, pages + 1):
        canvas.setFont("Helvetica-Bold", 14)
        for row in range(8):
            canvas.drawString(12 * MM, size[1] - (20 + 11 * row) * MM, f"Trap {row + 1}, survey page {page}")
        canvas.rect(10 * MM, 10 * MM, 30 * MM, 8 * MM, stroke=0, fill=1)
        canvas.showPage()
    canvas.save()
    if not rotate:
        return out.getvalue()
    writer = pypdf.PdfWriter(clone_from=io.BytesIO(out.getvalue()))
    for each in writer.pages:
        each.rotate(rotate)
    return saved(writer)


def linked_document() -> bytes:
    """Two pages by outline; the first has a link to an address, and one to the second."""
    out = io.BytesIO()
    canvas = Canvas(out, pagesize=POINTS, invariant=1)
    for page, title in enumerate(("Traps", "Counts"), 1):
        canvas.bookmarkPage(f"p{page}")
        canvas.addOutlineEntry(title, f"p{page}", 0)
        canvas.drawString(40, 300, title)
        if page == 1:
            canvas.linkURL("https://fen.example/night", (40, 290, 120, 310))
            canvas.linkAbsolute("on", "p2", (40, 200, 120, 220))
        canvas.showPage()
    canvas.save()
    return out.getvalue()


def saved(writer: pypdf.PdfWriter) -> bytes:
    out = io.BytesIO()
    writer.write(out)
    return out.getvalue()


def picture(form: str = "PNG", size: tuple[int, int] = (80, 60)) -> bytes:
    """Red at the left, blue at the right, with a white upper left corner."""
    pixels = np.zeros((size[1], size[0], 3), np.uint8)
    pixels[:, : size[0] // 2, 0] = pixels[:, size[0] // 2 :, 2] = 220
    pixels[: size[1] // 6, : size[0] // 8] = 255
    out = io.BytesIO()
    Image.fromarray(pixels).save(out, form, quality=95)
    return out.getvalue()


class PrintsApi(ApiCase):
    number = itertools.count()

    def setUp(self) -> None:
        super().setUp()
        self.sheet = f"printed-{next(self.number)}"
        of = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "dusk-wash"}
        self.ask("POST", "/api/sheets", {"id": self.sheet, "name": "Printed", "paper": "blank 100x140 white", **of})

    def bring(self, data: bytes, becomes: str = "print", status: int = 201, sheet: str = "") -> Any:
        reply = self.client.post(
            f"/api/sheets/{sheet or self.sheet}/originals?becomes={becomes}&name=Survey",
            data=data,
            content_type="application/octet-stream",
        )
        self.assertEqual(reply.status_code, status, reply.get_json())
        return reply.get_json()

    def page(self, sheet: str = "", scale: float = 4) -> np.ndarray:
        return read_png(self.client.get(f"/api/sheets/{sheet or self.sheet}/page.png?scale={scale}").data).astype(int)

    def prints(self) -> list[dict[str, Any]]:
        return list(self.ask("GET", f"/api/sheets/{self.sheet}").get_json()["sheet"]["prints"])

    def lay(self, **change: object) -> Any:
        (one,) = self.prints()
        carries = change.pop("carries", False)
        body = {"prints": [one | change], "carries": carries}
        reply = self.ask("PUT", f"/api/sheets/{self.sheet}/prints", body)
        self.assertEqual(reply.status_code, 200, reply.get_json())
        return reply.get_json()

    def wash(self, y: float, name: str = "wash", pen: str = "dusk-wash") -> None:
        stroke = STROKE | {"id": f"{self.sheet}-{name}", "pen_id": pen, "x_mm": [12, 40, 70], "y_mm": [y, y, y]}
        stroke["force"] = [0.9, 0.9, 0.9]
        self.ask("POST", f"/api/sheets/{self.sheet}/strokes", {"strokes": [stroke]})

    def out(self, form: str, dpi: float = 144) -> bytes:
        reply = self.client.get(f"/api/sheets/{self.sheet}/file?form={form}&dpi={dpi}")
        self.assertEqual(reply.status_code, 200)
        return bytes(reply.data)

    def test_a_document_becomes_a_sheet_with_its_pages_in_true_size(self) -> None:
        made = self.bring(document(3), "sheet")["pages"]
        self.assertEqual([(p["page"], p["prints"][0]["file_page"]) for p in made], [(1, 1), (2, 2), (3, 3)])
        paper = made[1]["paper"]
        self.assertEqual((round(paper["width_mm"]), round(paper["height_mm"])), (100, 140))
        shown = self.page(made[1]["id"])
        alone = pypdfium2.PdfDocument(document(3))[1].render(scale=3.99999 * 25.4 / 72).to_pil().convert("RGB")
        apart = np.abs(shown - np.asarray(alone, int)[: shown.shape[0], : shown.shape[1]])
        self.assertLess(apart.mean(), 1.0)
        halves = [
            self.client.get(f"/api/sheets/{made[1]['id']}/page.png?scale=4&{part}") for part in ("bottom=70", "top=70")
        ]
        joined = np.concatenate([read_png(half.data) for half in halves])
        np.testing.assert_array_equal(joined, shown, "parts of a page fit together")

    def test_links_and_outline_lead_to_pages_of_the_sheet_and_nowhere_else(self) -> None:
        first, second = (p["id"] for p in self.bring(linked_document(), "sheet")["pages"])
        found = self.ask("GET", f"/api/sheets/{first}/prints/links").get_json()
        self.assertEqual(
            [(x["address"], x["page_id"]) for x in found["links"]], [("https://fen.example/night", ""), ("", second)]
        )
        told = [(x["title"], x["page_id"], x["page"]) for x in found["outline"]]
        self.assertEqual(told, [("Traps", first, 1), ("Counts", second, 2)])
        self.assertEqual(self.ask("GET", f"/api/sheets/{second}/prints/links").get_json()["links"], [])
        taken = pypdf.PdfReader(io.BytesIO(self.client.get(f"/api/sheets/{first}/file?form=pdf").data))
        self.assertIn("https://fen.example/night", repr(taken.pages[0]["/Annots"][0].get_object()))

    def test_a_picture_is_cropped_turned_faded_and_greyed_as_it_says(self) -> None:
        self.bring(picture())
        fitted = self.page()
        self.assertEqual(fitted[280, 100].tolist(), [220, 0, 0])
        self.assertEqual(fitted[280, 300].tolist(), [0, 0, 220])
        self.assertEqual(fitted[20, 200].tolist(), [255, 255, 255], "beside it the paper shows")
        self.lay(crop_left=0.5)
        self.assertEqual(self.page()[280, 60].tolist(), [0, 0, 220])
        self.lay(crop_left=0, dim=0.5)
        self.assertEqual(self.page()[280, 100].tolist(), [238, 128, 128])
        self.lay(dim=0, grey=True)
        self.assertEqual(self.page()[280, 100].tolist(), [66, 66, 66])
        self.lay(grey=False)
        self.ask("POST", f"/api/sheets/{self.sheet}/prints/laid", {"id": self.prints()[0]["id"], "how": "turn"})
        turned = self.page()
        self.assertEqual(turned[280 - 60, 200].tolist(), [220, 0, 0], "left lies at the top after a quarter clockwise")
        self.ask("POST", f"/api/sheets/{self.sheet}/prints/laid", {"id": self.prints()[0]["id"], "how": "fill"})
        filled = self.page()
        self.assertEqual([filled[y, x].max() for y in (100, 555) for x in (200, 396)], [220] * 4, "no paper is left")

    def test_washes_over_print_are_read_and_panels_see_the_print(self) -> None:
        self.bring(document(1))
        self.wash(21)
        self.wash(120, "beside")
        read = self.ask("GET", f"/api/sheets/{self.sheet}/prints").get_json()["read"]
        self.assertEqual([r["name"] for r in read], ["Dusk wash 5"])
        self.assertGreater(read[0]["before"], 15)
        self.assertTrue(4.5 < read[0]["after"] < read[0]["before"])
        proof = {"sheet_id": self.sheet, "device_id": "paper-slate-10"}
        seen = self.ask("POST", "/api/panels/proof", proof).get_json()["image"]
        self.lay(dim=1)
        self.assertNotEqual(self.ask("POST", "/api/panels/proof", proof).get_json()["image"], seen)
        faded = self.ask("GET", f"/api/sheets/{self.sheet}/prints").get_json()["read"]
        self.assertEqual([r["after"] for r in faded], [None], "where no text is seen, nothing is said of it")

    def test_ink_that_is_tied_goes_with_its_picture(self) -> None:
        self.bring(picture())
        self.wash(70, pen="fen-fountain")
        self.wash(20, "off", pen="fen-fountain")
        before = self.page()
        (one,) = self.prints()
        self.lay(left_mm=one["left_mm"] + 5, top_mm=one["top_mm"] + 20, carries=True)
        moved = self.page()
        dark = lambda page, y: (page[4 * y - 12 : 4 * y + 12].sum(axis=2) < 150).sum()  # noqa: E731
        self.assertGreater(dark(moved, 90), 200)
        self.assertEqual(dark(moved, 20), dark(before, 20), "what lies beside it stays")
        self.lay(left_mm=one["left_mm"], top_mm=one["top_mm"], carries=True)
        self.assertLess(np.abs(self.page() - before).max(), 3)

    def test_out_keeps_the_text_and_equals_the_screen(self) -> None:
        for rotate, changes in (
            (0, {}),
            (90, {}),
            (0, {"dim": 0.4, "grey": True}),
            (0, {"crop_left": 0.2, "quarter_turns": 1}),
        ):
            with self.subTest(rotate=rotate, changes=changes):
                self.setUp()
                self.bring(document(1, rotate=rotate))
                if changes:
                    self.lay(**changes)
                self.wash(30)
                self.wash(60, "line", pen="fen-fountain")
                raster = read_png(self.out("png")).astype(float)
                data = self.out("pdf")
                page = pypdfium2.PdfDocument(data)[0]
                self.assertIn("Trap 3, survey page 1", page.get_textpage().get_text_range())
                shown = np.asarray(page.render(scale=2).to_pil().convert("RGB"), float)
                rows, columns = min(len(shown), len(raster)), min(shown.shape[1], raster.shape[1])
                apart = np.abs(shown[:rows, :columns] - raster[:rows, :columns]) / 255
                self.assertLess(apart.mean(), 0.012)
                self.assertLess((apart.max(axis=2) > 0.5).mean(), 0.006)

    def test_pictures_and_documents_go_with_a_turned_and_a_copied_page(self) -> None:
        self.bring(picture())
        was = self.page()
        self.ask("POST", f"/api/sheets/{self.sheet}/page/turn")
        np.testing.assert_allclose(self.page(), np.rot90(was, -1), atol=2)
        copy = f"{self.sheet}-copy"
        self.ask("POST", f"/api/sheets/{self.sheet}/pages", {"id": copy, "copy_ink": True})
        np.testing.assert_array_equal(self.page(copy), self.page())
        self.ask("PATCH", f"/api/sheets/{copy}", {"paper": "dotted 140x100 cream", "reach": "all"})
        self.assertEqual(len(self.prints()), 1, "another paper keeps what is printed on the page")

    def test_hostile_files_are_refused_soon_with_words_and_change_nothing(self) -> None:
        plain = document(1)
        locked, owned = (pypdf.PdfWriter(clone_from=io.BytesIO(plain)) for _ in range(2))
        locked.encrypt("secret")
        owned.encrypt("", "owner")
        acting = pypdf.PdfWriter(clone_from=io.BytesIO(plain))
        script = {NameObject("/S"): NameObject("/JavaScript"), NameObject("/JS"): TextStringObject("app.alert(1)")}
        acting.root_object[NameObject("/OpenAction")] = DictionaryObject(script)
        narrow, huge = io.BytesIO(), io.BytesIO()
        Image.new("1", (1, 60_000)).save(narrow, "PNG")
        Image.new("1", (30_000, 30_000)).save(huge, "PNG")
        cases: list[tuple[str, bytes, int, str]] = [
            ("5,000 pages", document(5000, (100, 100)), 413, "5000 pages"),
            ("20 m", document(1, (20_000 * MM, 300)), 400, "20000 x"),
            ("locked", saved(locked), 400, "password"),
            ("encrypted", saved(owned), 400, "encrypted"),
            ("scripts", saved(acting), 400, "scripts"),
            ("cut off", plain[: len(plain) // 2], 400, "damaged"),
            ("nothing", b"", 400, "neither"),
            ("text", b"trap 1, three moths", 400, "neither"),
            ("1 x 60,000", narrow.getvalue(), 413, "60000"),
            ("many pixels", huge.getvalue(), 413, "pixels"),
            ("a broken picture", picture()[:90], 400, "damaged"),
        ]
        self.bring(plain)
        before, rows = self.page(), self.prints()
        for name, data, status, words in cases:
            with self.subTest(name):
                begun = time.process_time()
                told = self.bring(data, status=status)["error"]["message"]
                self.assertIn(words, told)
                self.assertLess(time.process_time() - begun, 2.0)
        self.assertEqual(self.prints(), rows)
        np.testing.assert_array_equal(self.page(), before)
        listed = self.ask("PUT", f"/api/sheets/{self.sheet}/prints", {"prints": [rows[0] | {"file": "nowhere"}]})
        self.assertEqual(listed.status_code, 404)

    def test_a_reader_that_falls_takes_nothing_with_it(self) -> None:
        self.bring(document(1))
        before = self.page(scale=3)
        with self.app.app_context():
            reader = memory().originals.reader
        process = reader._process
        assert process is not None
        os.kill(process.pid, signal.SIGSEGV)
        process.wait()
        self.assertEqual(self.page(scale=5).shape, (700, 500, 3))
        np.testing.assert_array_equal(self.page(scale=3), before)


class Laying(ApiCase):
    def test_ways_to_lay_a_picture_keep_its_shape(self) -> None:
        paper = paper_from_spec("blank 100x140")
        for size, turns in itertools.product(((80.0, 60.0), (30.0, 200.0)), range(4)):
            one = Print(quarter_turns=turns)
            wide, high = size if turns % 2 == 0 else size[::-1]
            for how in ("fit", "true", "fill"):
                laid = laid_out(one, how, paper, size)
                x0, y0, x1, y1 = laid.kept
                seen = (size[0] * (x1 - x0), size[1] * (y1 - y0))
                seen = seen if turns % 2 == 0 else seen[::-1]
                self.assertAlmostEqual(laid.width_mm / laid.height_mm, seen[0] / seen[1], 6, f"{how} {turns}")
            fit = laid_out(one, "fit", paper, size)
            self.assertAlmostEqual(min(100 / fit.width_mm, 140 / fit.height_mm), 1)
            self.assertAlmostEqual(laid_out(one, "true", paper, size).width_mm, wide)
            self.assertEqual(laid_out(one, "fill", paper, size).box_mm, (0, 0, 100, 140))
            self.assertGreater(high, 0)

    def test_ink_is_carried_to_the_same_place_of_the_picture(self) -> None:
        before = Print(left_mm=10, top_mm=20, width_mm=60, height_mm=30, crop_left=0.1, crop_top=0.2)
        for now in (
            dataclasses.replace(before, left_mm=50.0),
            dataclasses.replace(before, width_mm=120.0, height_mm=60.0),
            turned_clockwise(before),
            dataclasses.replace(before, crop_right=0.5, width_mm=60 * 0.4 / 0.9),
        ):
            a, b, c, d, e, f, *_ = carried_along(before, now)
            back = np.array(carried_along(now, before)[:4]).reshape(2, 2) @ np.array([[a, b], [c, d]])
            np.testing.assert_allclose(back, np.eye(2), atol=1e-9)
            corner = np.array([a * 10 + c * 20 + e, b * 10 + d * 20 + f])  # the kept part's upper left corner
            box = now.box_mm
            expected = {0: box[:2], 1: (box[2], box[1])}[now.quarter_turns]
            np.testing.assert_allclose(corner, expected, atol=1e-9)

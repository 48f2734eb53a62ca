"""Sheets taken out: the pages that are asked for, named as asked, beside the screen; InkML that comes back."""

import io
import itertools
import re
import zipfile
from typing import Any

import numpy as np
import pypdfium2
from PIL import Image

from gray_quill.core.errors import InputError
from gray_quill.formats.png import read_png
from gray_quill.web.exports import chosen_pages
from tests.web.api_case import STROKE, ApiCase


class ExportsApi(ApiCase):
    number = itertools.count()

    def setUp(self) -> None:
        super().setUp()
        self.sheet = f"out-{next(self.number)}"
        of = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "fen-fountain"}
        self.ask("POST", "/api/sheets", {"id": self.sheet, "name": "Moths / dusk", "paper": "dotted 90x120", **of})
        self.pages = [self.sheet]
        for k in (2, 3):
            self.ask("POST", f"/api/sheets/{self.pages[-1]}/pages", {"id": f"{self.sheet}-{k}"})
            self.pages.append(f"{self.sheet}-{k}")
        for k, page in enumerate(self.pages):
            self.write(page, "a", [20, 50, 70 - 10 * k])

    def write(self, page: str, name: str, x: list[float], **more: object) -> str:
        stroke = STROKE | {"id": f"{page}-{name}", "x_mm": x, "y_mm": [30, 34, 31], "force": [0.8, 0.9, 0.7]} | more
        self.ask("POST", f"/api/sheets/{page}/strokes", {"strokes": [stroke]})
        return str(stroke["id"])

    def page(self, page: str) -> np.ndarray:
        return read_png(self.client.get(f"/api/sheets/{page}/page.png?scale=4").data)

    def out(self, **asked: object) -> tuple[dict[str, Any], bytes]:
        reply = self.ask("POST", f"/api/sheets/{self.sheet}/exports", asked)
        self.assertEqual(reply.status_code, 202, reply.get_json())
        job = self.finished(reply)
        told = self.ask("GET", f"/api/exports/{job}").get_json()
        file = self.client.get(f"/api/exports/{job}/file")
        self.assertEqual(told["bytes"], len(file.data))
        return told, bytes(file.data)

    def test_all_pages_are_one_pdf_each_as_it_is_seen(self) -> None:
        self.ask("PATCH", f"/api/sheets/{self.pages[1]}", {"paper": "ruled 7mm 120x90"})
        told, data = self.out(form="pdf", pages="all")
        document = pypdfium2.PdfDocument(data)
        self.assertEqual([round(p.get_size()[0] * 25.4 / 72) for p in document], [90, 120, 90])
        self.assertEqual((told["name"], [b["page"] for b in told["beside"]]), ("Moths - dusk.pdf", [1, 2, 3]))
        self.assertTrue(all(b["apart"] < 0.003 for b in told["beside"]), told["beside"])
        self.assertIn("Equals what you see", told["words"])

    def test_a_file_that_differs_says_by_how_much_and_why(self) -> None:
        self.write(self.sheet, "grain", [20, 60, 80], pen_id="alder-charcoal", y_mm=[60, 66, 70])
        told, _ = self.out(form="pdf")
        grain = told["beside"][0]["apart"]
        self.assertGreater(grain, self.out(form="pdf", pages="2")[0]["beside"][0]["apart"])
        if grain > 0.003:
            self.assertIn("grain", told["words"])
        self.assertEqual(self.out(form="png", dpi=150)[0]["beside"][0]["apart"], 0, "a picture is the screen's own")
        self.assertEqual(self.out(form="ora", dpi=100)[0]["beside"][0]["apart"], 0)

    def test_hidden_layers_go_out_hidden(self) -> None:
        layers = [{"id": "first", "name": "ink"}, {"id": "top", "name": "answers"}]
        self.ask("PUT", f"/api/sheets/{self.sheet}/layers", {"layers": layers, "on": "top"})
        self.write(self.sheet, "answer", [20, 60, 62], y_mm=[80, 86, 81])
        hidden = [layers[0], layers[1] | {"shown": False}]
        self.ask("PUT", f"/api/sheets/{self.sheet}/layers", {"layers": hidden, "on": "first"})
        told, data = self.out(form="ora", dpi=100)
        self.assertEqual(told["beside"][0]["apart"], 0, "what is hidden is not in the merged picture")
        stack = zipfile.ZipFile(io.BytesIO(data)).read("stack.xml").decode()
        (answers,) = re.findall(r'<layer name="answers"[^>]*>', stack)
        self.assertIn('visibility="hidden"', answers)
        name = re.findall(r'src="([^"]+)"', answers)[0]
        ink = np.asarray(Image.open(io.BytesIO(zipfile.ZipFile(io.BytesIO(data)).read(name))))
        self.assertGreater((ink[..., 3] > 128).sum(), 50)

    def test_covers_hold_in_every_file_and_picture_unless_lifted(self) -> None:
        cover = {"id": "over", "left_mm": 15, "top_mm": 20, "width_mm": 60, "height_mm": 20}
        bare = self.page(self.sheet)
        self.ask("PUT", f"/api/sheets/{self.sheet}/covers", {"covers": [cover]})
        under = np.s_[84:156, 64:296]  # of the page at 4 px a mm
        strip = np.array([0x8C, 0x7F, 0x6A])
        self.assertTrue((self.page(self.sheet)[under] == strip).all(), "a thumbnail, the mirror and the page beside")
        lifted = read_png(self.client.get(f"/api/sheets/{self.sheet}/page.png?scale=4&lifted=true").data)
        self.assertTrue((lifted == bare).all())
        for more in ({"form": "pdf"}, {"form": "pdf", "annotated": True}, {"form": "png", "dpi": 101.6}):
            for up in (False, True):
                with self.subTest(**more, up=up):
                    told, data = self.out(**more, lifted=up)
                    if more["form"] == "pdf":
                        page = pypdfium2.PdfDocument(data)[0]
                        shown = page.render(scale=4 * 25.4 / 72, may_draw_forms=False).to_numpy()[..., 2::-1]
                    else:
                        shown = read_png(data)
                    off = np.abs(shown[under].astype(int) - strip).max()
                    self.assertEqual(off > 60, up, off)
                    if not more.get("annotated"):
                        self.assertLess(told["beside"][0]["apart"], 0.003)
        for form in ("svg", "ora"):
            self.assertNotEqual(self.out(form=form)[1], self.out(form=form, lifted=True)[1])
        self.assertIn(b"#8c7f6a", self.out(form="svg")[1])

    def test_files_apart_are_named_as_asked_and_never_twice_alike(self) -> None:
        self.ask("PATCH", f"/api/sheets/{self.pages[2]}", {"bookmark": "counts"})
        told, data = self.out(form="svg", pages="1, 3", names="{sheet} {page} {bookmark}")
        self.assertEqual(told["files"], ["Moths - dusk 1 no bookmark.svg", "Moths - dusk 3 counts.svg"])
        self.assertEqual(zipfile.ZipFile(io.BytesIO(data)).namelist(), told["files"])
        self.assertEqual(self.out(form="png", pages="all", dpi=50)[0]["files"][1], "Moths - dusk, page 2.png")
        self.assertEqual(len(self.out(form="pdf", pages="2-3", apart=True)[0]["files"]), 2)
        for body, field in (
            ({"pages": "0-2"}, "pages"),
            ({"pages": "3-9"}, "pages"),
            ({"pages": "two"}, "pages"),
            ({"names": "{shoe}"}, "names"),
            ({"form": "pdf", "device_id": "paper-slate-10"}, "form"),
        ):
            refused = self.ask("POST", f"/api/sheets/{self.sheet}/exports", body)
            self.assertEqual((refused.status_code, refused.get_json()["error"]["field"]), (400, field), body)

    def test_a_panels_look_goes_out_in_its_own_greys(self) -> None:
        told, data = self.out(form="png", device_id="paper-slate-10")
        greys = np.unique(read_png(data))
        self.assertLessEqual(len(greys), 16)
        self.assertIn("meant to look otherwise", told["words"])

    def test_inkml_of_a_sheet_comes_back_with_pages_layers_placements_and_pens(self) -> None:
        page = self.pages[1]
        layers = [{"id": "first", "name": "rough"}, {"id": "top", "name": "lines & more"}]
        self.ask("PUT", f"/api/sheets/{page}/layers", {"layers": layers, "on": "top"})
        self.write(page, "b", [20, 60, 62], pen_id="survey-marker", y_mm=[70, 76, 71])
        moved = self.write(page, "c", [12, 40, 62], y_mm=[50, 56, 51])
        place = {"ids": [moved], "placement": [1.4, 0.3, -0.3, 1.4, 9, -20, 0, 0]}
        self.assertEqual(self.ask("POST", f"/api/sheets/{page}/strokes/place", place).status_code, 200)
        drawn = [self.page(p) for p in self.pages]
        _, data = self.out(form="inkml", pages="all")
        back = self.client.post(f"/api/sheets/{self.sheet}/file", data=data, content_type="application/inkml+xml")
        self.assertEqual(back.status_code, 201, back.get_json())
        came = self.ask("GET", f"/api/sheets/{back.get_json()['id']}/pages").get_json()["pages"]
        self.assertEqual([p["pages"] for p in came], [3, 3, 3])
        self.assertEqual([layer["name"] for layer in came[1]["layers"]], ["rough", "lines & more"])
        for now, was in zip(came, drawn, strict=True):
            apart = np.abs(self.page(now["id"]).astype(int) - was)
            self.assertLess(apart.mean(), 0.01)  # numbers of four decimals
            self.assertLess(apart.max(), 30)


class PagesNamed(ApiCase):
    def test_pages_are_named_by_numbers_and_ranges(self) -> None:
        self.assertEqual(chosen_pages("this", 2, 5), [2])
        self.assertEqual(chosen_pages("all", 2, 3), [1, 2, 3])
        self.assertEqual(chosen_pages("4, 1-2,2", 1, 5), [1, 2, 4])
        for asked in ("", "3-1", "1-6", "1;2", "-2"):
            self.assertRaises(InputError, chosen_pages, asked, 1, 5)

"""Endless paper, page numbers, covers, patterns as paper, cuts, ink as annotations: kept, drawn, taken out."""

import io
import itertools
from typing import Any

import numpy as np
import pypdf
import pypdfium2

from gray_quill.core.ink.cuts import STEP_MM, cuts
from gray_quill.formats.png import read_png
from tests.web.api_case import STROKE, ApiCase

DOT = b"""<svg xmlns="http://www.w3.org/2000/svg" width="7mm" height="7mm" viewBox="0 0 7 7">
<rect width="7" height="7" fill="#ffffff"/><circle cx="3.5" cy="3.5" r="1" fill="#204080"/></svg>"""


class LongPages(ApiCase):
    number = itertools.count()

    def setUp(self) -> None:
        super().setUp()
        self.sheet = f"long-{next(self.number)}"
        of = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "fen-fountain"}
        self.ask("POST", "/api/sheets", {"id": self.sheet, "name": "Moths", "paper": "dotted 90x120", **of})

    def paper(self, **change: object) -> Any:
        now = self.sheet_now()["paper"]
        return self.ask("PATCH", f"/api/sheets/{self.sheet}", {"paper": {**now, **change}}).get_json()

    def sheet_now(self) -> Any:
        return self.ask("GET", f"/api/sheets/{self.sheet}").get_json()["sheet"]

    def write(self, name: str, y_mm: float, x_mm: tuple[float, ...] = (20, 50, 70), slope_mm: float = 4) -> Any:
        y = [y_mm, y_mm + slope_mm, y_mm + 1]
        stroke = STROKE | {"id": f"{self.sheet}-{name}", "x_mm": list(x_mm), "y_mm": y, "force": [0.8, 0.9, 0.7]}
        return self.ask("POST", f"/api/sheets/{self.sheet}/strokes", {"strokes": [stroke]}).get_json()

    def page(self, query: str = "scale=4") -> np.ndarray:
        return read_png(self.client.get(f"/api/sheets/{self.sheet}/page.png?{query}").data)

    def out(self, **asked: object) -> tuple[dict[str, Any], bytes]:
        job = self.finished(self.ask("POST", f"/api/sheets/{self.sheet}/exports", asked))
        return (
            self.ask("GET", f"/api/exports/{job}").get_json(),
            bytes(self.client.get(f"/api/exports/{job}/file").data),
        )

    def test_endless_paper_grows_below_what_is_written_and_nothing_else_moves(self) -> None:
        self.paper(endless=True)
        before = self.write("a", 20)["sheet"]["paper"]["height_mm"]
        self.assertEqual(before, 120)
        head = self.page("scale=4&bottom=100")
        for k, y in enumerate((70, 150, 260, 400)):
            told = self.write(f"b{k}", y)["sheet"]
            self.assertGreaterEqual(told["paper"]["height_mm"] - y - 4, 60, "room to go on")
        seen = self.page("scale=4&bottom=100")
        np.testing.assert_array_equal(seen[: 60 * 4], head[: 60 * 4], "dots and ink stay where they were")
        older = {**self.sheet_now()["paper"], "height_mm": 120, "ruling": "blank"}
        told = self.ask("PATCH", f"/api/sheets/{self.sheet}", {"paper": older}).get_json()
        self.assertGreater(told["paper"]["height_mm"], 460, "a change from an older sight does not cut it off")
        stray = STROKE | {"id": f"{self.sheet}-stray", "y_mm": [4000, 4001, 4002], "pen_id": "nowhere"}
        answer = self.ask("POST", f"/api/sheets/{self.sheet}/strokes", {"strokes": [stray]}).get_json()
        self.assertEqual(answer["answers"][0]["state"], "refused")
        self.assertEqual(answer["sheet"]["paper"], told["paper"], "what is not kept needs no room")
        refused = self.ask("POST", f"/api/sheets/{self.sheet}/page/turn")
        self.assertEqual(refused.status_code, 400)
        written = self.ask("POST", f"/api/sheets/{self.sheet}/write", {"text": "moths at dusk " * 12, "seed": 2})
        self.assertEqual(written.status_code, 200, "there is room below, however much is written")
        self.assertGreater(written.get_json()["sheet"]["paper"]["height_mm"], told["paper"]["height_mm"])

    def test_a_page_that_is_not_endless_stays_as_it_is(self) -> None:
        self.assertEqual(self.write("a", 118)["sheet"]["paper"]["height_mm"], 120)

    def test_a_long_page_is_cut_where_no_ink_is_and_forced_cuts_are_named_first(self) -> None:
        self.paper(endless=True)
        for k in range(16):
            self.write(f"s{k}", 15 + 20 * k)
        clear = self.ask("GET", f"/api/sheets/{self.sheet}/cuts?page_mm=120").get_json()
        self.assertEqual(clear["forced"], 0)
        self.assertTrue(all(cut["crossed"] == 0 for cut in clear["cuts"]))
        told, data = self.out(form="pdf", cut_mm=120)
        document = pypdfium2.PdfDocument(data)
        heights = [page.get_size()[1] * 25.4 / 72 for page in document]
        ends = [0.0, *(cut["at_mm"] for cut in clear["cuts"]), self.sheet_now()["paper"]["height_mm"]]
        np.testing.assert_allclose(heights, np.diff(ends), atol=0.02)
        self.assertLessEqual(max(heights), 120.02)
        self.assertEqual(len(told["beside"]), min(6, len(heights)))
        self.assertTrue(all(one["apart"] < 0.003 for one in told["beside"]), told["beside"])
        self.write("through", 10, (80, 82, 84), slope_mm=290)
        forced = self.ask("GET", f"/api/sheets/{self.sheet}/cuts?page_mm=120").get_json()
        self.assertGreaterEqual(forced["forced"], 2, "a stroke from head to foot is crossed")
        whole, long = self.out(form="pdf")
        self.assertEqual(len(pypdfium2.PdfDocument(long)), 1)
        self.assertIn("Equals what you see", whole["words"])
        self.assertEqual(
            self.ask("POST", f"/api/sheets/{self.sheet}/exports", {"form": "png", "cut_mm": 120}).status_code, 400
        )

    def test_cuts_by_brute_force(self) -> None:
        """Against every place looked at one by one: none lower crosses fewer strokes."""
        rng = np.random.default_rng(5)
        for _ in range(40):
            tops = rng.uniform(0, 900, rng.integers(0, 80))
            spans = [(t, t + h) for t, h in zip(tops, rng.exponential(9, len(tops)), strict=True)]
            page = float(rng.uniform(60, 250))
            found = cuts(spans, 950.0, page)
            start = 0.0
            for cut in found:
                at = (
                    np.arange(int(np.ceil((start + page / 2) / STEP_MM)), int((start + page) / STEP_MM + 1e-6) + 1)
                    * STEP_MM
                )
                crossed = [sum(t - 0.3 < y < b + 0.3 for t, b in spans) for y in at]
                self.assertEqual(cut.crossed, min(crossed))
                self.assertAlmostEqual(
                    cut.at_mm, max(y for y, n in zip(at, crossed, strict=True) if n == min(crossed)), 5
                )
                start = cut.at_mm
            self.assertLessEqual(950.0 - start, page + STEP_MM)

    def test_page_numbers_stand_where_they_are_wished_in_every_form(self) -> None:
        plain = self.page()
        self.paper(numbered="foot")
        foot = self.page()
        rows, columns = np.nonzero((foot != plain).any(axis=2))
        self.assertGreater(len(rows), 8)
        self.assertGreater(rows.min() / 4, 120 - 8.5)
        self.assertTrue(abs(columns.mean() / 4 - 45) < 1.5, "in the middle")
        self.ask("POST", f"/api/sheets/{self.sheet}/pages", {"id": f"{self.sheet}-2"})
        first = self.page()
        self.sheet += "-2"
        self.assertTrue((self.page() != first).any(), "the second page says 2")
        self.paper(numbered="outer foot")
        differs = np.nonzero((self.page() != plain).any(axis=2))[1] / 4
        self.assertLess(differs.max(), 20, "an even page has it at its left")
        for form in ("pdf", "svg"):
            told, _ = self.out(form=form, pages="all")
            self.assertTrue(all(one["apart"] < 0.003 for one in told["beside"]), (form, told["beside"]))

    def bring(self, data: bytes) -> Any:
        where = f"/api/sheets/{self.sheet}/originals?name=dots"
        return self.client.post(where, data=data, content_type="application/octet-stream")

    def test_a_pattern_in_svg_becomes_paper_at_its_true_size(self) -> None:
        self.assertEqual(self.bring(DOT).status_code, 201)
        one = self.sheet_now()["prints"][0]
        laid = {**one, "tiled": True, "left_mm": 0, "top_mm": 0, "width_mm": 7, "height_mm": 7}
        self.ask("PUT", f"/api/sheets/{self.sheet}/prints", {"prints": [laid]})
        scale = 8.5
        pixels = self.page(f"scale={scale}").astype(int)
        blue = pixels[..., 0] < 128
        for x, y in itertools.product(np.arange(3.5, 90, 7), np.arange(3.5, 120, 7)):
            self.assertTrue(blue[int(y * scale), int(x * scale)], (x, y))
        count = blue.sum() / scale**2 / (np.pi * 12.86 * 17.14)
        self.assertAlmostEqual(count, 1, delta=0.06, msg="dots of 1 mm radius, every 7 mm, to the edges")
        left, right = self.page(f"scale={scale}&right=30"), self.page(f"scale={scale}&left=30")
        np.testing.assert_array_equal(np.concatenate((left, right), 1)[:, : pixels.shape[1]], pixels)
        told, _ = self.out(form="pdf")
        self.assertLess(told["beside"][0]["apart"], 0.02)
        kept = {"name": "blue dots", "paper": self.sheet_now()["paper"], "prints": [laid]}
        self.ask("PATCH", "/api/desk", {"papers": [kept]})
        tile = read_png(self.ask("GET", "/api/papers/own.png?name=blue%20dots").data)
        at = [int(mm * 3.2) for mm in (3.5, 10.5, 17.5)]
        self.assertTrue((tile[np.ix_(at, at)][..., 0] < 128).all(), "its tile shows the pattern")
        self.assertEqual(self.ask("GET", "/api/papers/own.png?name=none").status_code, 400)
        again = self.ask("GET", "/api/desk").get_json()["papers"][0]
        self.ask("POST", f"/api/sheets/{self.sheet}/pages", {"id": f"{self.sheet}-2"})
        self.ask(
            "PATCH", f"/api/sheets/{self.sheet}", {"paper": again["paper"], "prints": again["prints"], "reach": "all"}
        )
        first = self.page()
        self.sheet += "-2"
        np.testing.assert_array_equal(self.page(), first)

    def test_hostile_drawings_are_refused_and_nothing_changes(self) -> None:
        head = b'<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" '
        head += b'width="9mm" height="9mm">'
        nested = b"PHN2ZyB4bWxucz0iaHR0cDovL3d3dy53My5vcmcvMjAwMC9zdmciLz4="
        for name, data in {
            "a file beside it": head + b'<image href="/etc/hostname" width="9" height="9"/></svg>',
            "another place": head + b'<image xlink:href="http://moth.test/a.png"/></svg>',
            "a drawing in a link": head + b'<image href="data:image/svg+xml;base64,' + nested + b'"/></svg>',
            "entities": b'<!DOCTYPE svg [<!ENTITY a "aa">]>' + head + b"<text>&a;</text></svg>",
            "too large": b'<svg xmlns="http://www.w3.org/2000/svg" width="20000mm" height="9mm"/>',
            "no size at all": b'<svg xmlns="http://www.w3.org/2000/svg" width="0" height="0"/>',
            "broken": head + b"<rect",
            "a filter without end": head + b"<filter id='f'><feTurbulence numOctaves='1000000'/></filter></svg>",
            "thousands of uses": head + b"<g id='a'>" + b"<g/>" * 300 + b"</g>" + b"<use href='#a'/>" * 300 + b"</svg>",
        }.items():
            with self.subTest(name):
                self.assertIn(self.bring(data).status_code, (400, 413), name)
        self.assertEqual(self.sheet_now()["prints"], [])
        self.assertEqual(self.bring(DOT).status_code, 201, "who reads them lives on")

    def test_covers_are_kept_with_the_page_and_its_copies(self) -> None:
        where = f"/api/sheets/{self.sheet}/covers"
        cover = {"id": "c1", "left_mm": 10, "top_mm": 20, "width_mm": 30, "height_mm": 8}
        seen = self.sheet_now()["version"]
        told = self.ask("PUT", where, {"covers": [cover], "saw": seen}).get_json()
        self.assertEqual(told["covers"], [cover])
        self.assertEqual(self.ask("PUT", where, {"covers": [], "saw": seen}).status_code, 409)
        self.assertEqual(self.ask("PUT", where, {"covers": [cover, cover]}).status_code, 400)
        self.assertEqual(self.ask("PUT", where, {"covers": [{**cover, "width_mm": "wide"}]}).status_code, 400)
        self.ask("POST", f"/api/sheets/{self.sheet}/pages", {"id": f"{self.sheet}-2", "copy_ink": True})
        # what was done as one is taken back as one; a step in a step is none
        both = {"several": [{"covers": {"covers": [cover], "saw": None}}, {"away": ["a"], "back": ["b"]}]}
        for steps, status in (([both], 200), ([{"several": [both]}], 422), ([{"several": []}], 422)):
            body: dict[str, object] = {"past": steps, "future": [], "count": 1}
            self.assertEqual(self.ask("PUT", f"/api/sheets/{self.sheet}/steps", body).status_code, status)
        self.assertEqual(self.ask("GET", f"/api/sheets/{self.sheet}/steps").get_json()["past"], [both])
        self.sheet += "-2"
        self.assertEqual(self.sheet_now()["covers"], [cover])

    def test_ink_goes_out_as_annotations_that_look_as_the_page_does(self) -> None:
        self.write("a", 20)
        self.write("b", 40)
        wash = STROKE | {"id": f"{self.sheet}-w", "x_mm": [15, 75, 76], "y_mm": [21, 23, 23], "pen_id": "fern-wash"}
        self.assertEqual(self.ask("POST", f"/api/sheets/{self.sheet}/strokes", {"strokes": [wash]}).status_code, 200)
        told, data = self.out(form="pdf", annotated=True)
        self.assertIn("Equals what you see", told["words"])
        notes: Any = pypdf.PdfReader(io.BytesIO(data)).pages[0]["/Annots"]
        inks = [note.get_object() for note in notes]
        self.assertEqual([note["/Subtype"] for note in inks], ["/Ink"] * 3, "the wash lies under")
        line = np.array(inks[1]["/InkList"][0], float).reshape(-1, 2) * 25.4 / 72
        np.testing.assert_allclose(line[0], (20, 120 - 20), atol=0.3)
        bare = pypdf.PdfWriter(clone_from=io.BytesIO(data))
        bare.remove_annotations(subtypes="/Ink")  # what a reader that takes them away leaves
        out = io.BytesIO()
        bare.write(out)
        seen = pypdfium2.PdfDocument(out.getvalue())[0].render(scale=2).to_pil()
        self.assertGreater(np.asarray(seen.convert("L")).min(), 150, "no ink is left on the page itself")

    def test_svg_is_laid_beside_the_screen(self) -> None:
        self.write("a", 20)
        told, _ = self.out(form="svg")
        self.assertIn("Equals what you see", told["words"])
        self.assertLess(told["beside"][0]["apart"], 0.003)

"""Pages of a sheet over the API: what each has of its own, what they share, and that none of it costs ink."""

import itertools
from typing import Any

import numpy as np

from gray_quill.formats.png import read_png
from tests.web.api_case import STROKE, ApiCase


class PagesApi(ApiCase):
    number = itertools.count()

    def setUp(self) -> None:
        super().setUp()
        self.first = f"paged-{next(self.number)}"
        of = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "fen-fountain"}
        self.ask("POST", "/api/sheets", {"id": self.first, "name": "Paged", "paper": "blank 90x120", **of})
        self.write(self.first, "a", [20, 60, 70])

    def write(self, page: str, name: str, x: list[float], **more: object) -> Any:
        stroke = STROKE | {"id": f"{page}-{name}", "x_mm": x, "y_mm": [30, 34, 31]} | more
        return self.ask("POST", f"/api/sheets/{page}/strokes", {"strokes": [stroke]}).get_json()

    def page(self, page: str) -> np.ndarray:
        return read_png(self.client.get(f"/api/sheets/{page}/page.png?scale=3").data)

    def did(self, method: str, path: str, body: object = None, status: int = 200) -> Any:
        reply = self.ask(method, f"/api/sheets/{path}", body)
        self.assertEqual(reply.status_code, status, reply.get_json())
        return reply.get_json()

    def more(self, *names: str) -> list[str]:
        """Put pages of these names down, each after the one before; all page ids in order."""
        ids = [self.first, *(f"{self.first}-{name}" for name in names)]
        for before, page in itertools.pairwise(ids):
            self.did("POST", f"{before}/pages", {"id": page}, 201)
        return ids

    def test_a_page_has_its_own_ink_and_paper_and_shares_name_and_pen(self) -> None:
        first, second, third = self.more("b", "c")
        self.write(second, "a", [10, 50, 60])
        before = [self.page(p) for p in (first, second, third)]
        self.assertFalse(np.array_equal(before[0], before[1]))
        self.assertTrue((before[2] == before[2][0, 0]).all(), "an added page is empty")
        self.did("PATCH", second, {"name": "One name", "pen_id": "reed-ballpoint", "note": "of both"})
        told = self.did("GET", f"{third}/pages")["pages"]
        self.assertEqual(
            [(p["name"], p["pen_id"], p["note"]) for p in told], [("One name", "reed-ballpoint", "of both")] * 3
        )
        self.assertEqual([(p["page"], p["pages"], p["strokes"]) for p in told], [(1, 3, 1), (2, 3, 1), (3, 3, 0)])
        after = [self.page(p) for p in (first, second, third)]
        np.testing.assert_array_equal(after, before)

    def test_a_paper_is_for_this_page_from_here_on_or_all(self) -> None:
        ids = self.more("b", "c", "d")
        for reach, page, expected in (
            ("page", ids[1], ["blank", "dotted", "blank", "blank"]),
            ("on", ids[2], ["blank", "dotted", "squared", "squared"]),
            ("all", ids[3], ["staves"] * 4),
        ):
            ruling = next(
                r for r in ("dotted", "squared", "staves") if r in expected and (reach, r) != ("on", "dotted")
            )
            self.did("PATCH", page, {"paper": f"{ruling} 90x120", "reach": reach})
            told = self.did("GET", f"{page}/pages")["pages"]
            self.assertEqual([p["paper"]["ruling"] for p in told], expected, reach)

    def test_order_copies_and_the_bin_leave_every_page_as_it_was(self) -> None:
        first, second, third = self.more("b", "c")
        self.write(second, "a", [10, 50, 60])
        drawn = {p: self.page(p) for p in (first, second, third)}
        made = self.did("POST", f"{second}/pages", {"id": f"{second}-copy", "copy_ink": True}, 201)["pages"]
        self.assertEqual([p["id"] for p in made], [first, second, f"{second}-copy", third])
        np.testing.assert_array_equal(self.page(f"{second}-copy"), drawn[second])
        order = [third, f"{second}-copy", first, second]
        told = self.did("PUT", f"{first}/pages", {"ids": order})["pages"]
        self.assertEqual([p["id"] for p in told], order)
        self.assertEqual(self.did("PUT", f"{first}/pages", {"ids": order[1:]}, 400)["error"]["field"], "ids")
        self.did("PUT", f"{first}/page/bin", {"binned": True})
        gone = self.did("GET", f"{second}/pages")
        self.assertEqual([p["id"] for p in gone["binned"]], [first])
        self.assertEqual([p["page"] for p in gone["pages"]], [1, 2, 3])
        self.assertEqual(self.write(first, "late", [1, 2, 3])["error"]["code"], "binned")
        back = self.did("PUT", f"{first}/page/bin", {"binned": False})
        self.assertEqual([p["id"] for p in back["pages"]], order, "it comes back to its place")
        for page, pixels in drawn.items():
            np.testing.assert_array_equal(self.page(page), pixels)
        # what was written on a copy, or rubbed off it, is its own
        self.write(f"{second}-copy", "more", [5, 6, 9])
        np.testing.assert_array_equal(self.page(second), drawn[second])

    def test_the_last_page_stays_and_a_sheet_goes_whole(self) -> None:
        first, second = self.more("b")
        self.did("PUT", f"{second}/page/bin", {"binned": True})
        refused = self.did("PUT", f"{first}/page/bin", {"binned": True}, 400)
        self.assertIn("at least one page", refused["error"]["message"])
        self.did("PUT", f"{second}/page/bin", {"binned": False})
        self.did("PUT", f"{second}/bin", {"binned": True})
        listed = [s["id"] for s in self.ask("GET", "/api/bin/sheets").get_json()["sheets"]]
        self.assertIn(first, listed)
        self.assertNotIn(second, listed, "a sheet is in the bin once, however many pages it has")
        self.did("PUT", f"{first}/bin", {"binned": False})
        self.assertEqual(len(self.did("GET", f"{first}/pages")["pages"]), 2)

    def test_four_quarter_turns_are_none_and_one_turns_every_pixel(self) -> None:
        was = self.page(self.first)
        self.did("POST", f"{self.first}/page/turn")
        turned = self.page(self.first)
        np.testing.assert_array_less(np.abs(turned.astype(int) - np.rot90(was, -1)).max(), 40)
        self.assertLess(np.abs(turned.astype(int) - np.rot90(was, -1)).mean(), 0.02)
        self.did("POST", f"{self.first}/page/turn")
        upside = self.page(self.first)
        self.assertEqual(upside.shape, was.shape)
        self.assertFalse(np.array_equal(upside, was), "what was drawn before the turn is not shown after it")
        for _ in range(2):
            self.did("POST", f"{self.first}/page/turn")
        self.assertLess(np.abs(self.page(self.first).astype(int) - was).max(), 3)

    def test_marks_of_one_colour_are_listed_together_over_all_pages(self) -> None:
        first, second = self.more("b")
        wash = {"force": [0.5, 0.5, 0.5], "y_mm": [40, 40, 40]}
        self.write(first, "m1", [20, 40, 60], pen_id="fern-wash", **wash)
        self.write(first, "m2", [60.5, 70, 80], pen_id="fern-wash", **wash)
        self.write(first, "m3", [20, 40, 60], pen_id="dusk-wash", **(wash | {"y_mm": [80, 80, 80]}))
        self.write(second, "m4", [20, 40, 60], pen_id="fern-wash", **wash)
        marks = self.did("GET", f"{second}/marks")["marks"]
        told = [(m["page"], m["mark"]["name"].split()[0], m["mark"]["strokes"]) for m in marks]
        self.assertEqual(told, [(1, "Fern", 2), (2, "Fern", 1), (1, "Dusk", 1)])
        left, top, right, bottom = marks[0]["mark"]["box_mm"]
        self.assertTrue(left < 20 and right > 80 and top < 40 < bottom < 45, marks[0])

    def test_a_sheet_holds_a_stated_number_of_pages(self) -> None:
        self.assertEqual(self.did("POST", f"{self.first}/pages", {"id": self.first}, 409)["error"]["code"], "conflict")
        self.assertEqual(self.did("POST", "nowhere/pages", {"id": "x"}, 404)["error"]["code"], "not_found")
        self.did("PATCH", self.first, {"bookmark": "the outline"})
        self.assertEqual(self.did("GET", f"{self.first}/pages")["pages"][0]["bookmark"], "the outline")


class OwnPapers(ApiCase):
    def test_papers_of_ones_own_and_the_one_for_new_sheets_are_kept(self) -> None:
        paper = self.ask("GET", "/api/desk").get_json()["first_paper"] | {"spacing_mm": 6.5, "ruling": "ruled"}
        kept = {"papers": [{"name": "Moth log", "paper": paper, "prints": []}], "new_paper": paper}
        self.assertEqual(self.ask("PATCH", "/api/desk", kept).status_code, 200)
        desk = self.ask("GET", "/api/desk").get_json()
        self.assertEqual((desk["papers"], desk["new_paper"]), (kept["papers"], paper))
        self.ask("PATCH", "/api/desk", {"new_as_before": True})
        self.assertIsNone(self.ask("GET", "/api/desk").get_json()["new_paper"])
        for wrong in ({"spacing_mm": 0.1}, {"ruling": "plaid"}):
            body = {"papers": [{"name": "Odd", "paper": paper | wrong}]}
            self.assertEqual(self.ask("PATCH", "/api/desk", body).status_code, 400)
        self.assertEqual(len(self.ask("GET", "/api/desk").get_json()["papers"]), 1)

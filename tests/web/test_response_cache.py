"""Answers that are remembered are always those that would be made now: asked after every kind of change beside a server
that remembers nothing.
"""

import dataclasses
import threading
from typing import Any
from unittest import mock

from gray_quill.core.errors import NoInk
from gray_quill.core.hand.hand import Hand
from gray_quill.core.pen.recipe import write_recipe
from gray_quill.core.pen.shipped import SHIPPED_PENS
from gray_quill.web.app import create_app
from gray_quill.web.response_cache import Answer, Answers
from tests.web.api_case import STROKE, ApiCase

PENCIL = write_recipe(SHIPPED_PENS["moth-pencil-2b"])
SHEET = "/api/sheets/own"
SOURCE = {"sheet_id": "own"}
ASKED: tuple[tuple[str, str, Any], ...] = (
    ("GET", f"{SHEET}/page.png?scale=3", None),
    ("GET", f"{SHEET}/page.png?scale=3&left=10&top=10&right=60&bottom=40", None),
    ("GET", f"{SHEET}/readings?of=pen", None),
    ("GET", f"{SHEET}/readings?of=all", None),
    ("GET", f"{SHEET}/marks", None),
    ("GET", f"{SHEET}/cuts?page_mm=60", None),
    ("GET", "/api/cabinet/picture.png?kind=sheet&id=own", None),
    ("GET", "/api/cabinet/picture.png?kind=pen&id=fen-fountain", None),
    ("GET", "/api/cabinet/picture.png?kind=hand&id=own", None),
    ("GET", "/api/pens/fen-fountain/revisions/1/swatch.png", None),
    ("POST", "/api/pen/readings", {"recipe": PENCIL, "source": SOURCE}),
    ("POST", "/api/pen/heat", {"recipe": PENCIL, "source": SOURCE}),
    ("POST", "/api/panels/proof", {"sheet_id": "own", "device_id": "paper-slate-10"}),
    ("POST", "/api/wash/grid", {"wash": PENCIL, "ink": PENCIL, "source": SOURCE, "papers": ["#ffffff"], "passes": 1}),
)


class Remembered(ApiCase):
    def setUp(self) -> None:
        self.setUpClass()  # a desk of its own for each
        super().setUp()
        of = {"hand_id": "right-firm", "device_id": "tablet-11", "pen_id": "fen-fountain"}
        self.made("POST", "/api/sheets", {"id": "own", "name": "Own", "paper": "dotted A6", **of})
        self.made("POST", "/api/hands", {"id": "own", "hand": dataclasses.asdict(Hand("own"))})
        self.write("a", 30)
        self.write("b", 50, pen_id="dusk-wash")
        self.write("c", 70, pen_id="reed-ballpoint")

    def made(self, method: str, path: str, body: Any) -> Any:
        reply = self.ask(method, path, body)
        self.assertLess(reply.status_code, 300, f"{path}: {reply.get_json()}")
        return reply.get_json()

    def write(self, name: str, y: float, **more: Any) -> None:
        stroke = STROKE | {"id": name, "x_mm": [15, 40, 60], "y_mm": [y, y + 4, y]} | more
        self.made("POST", f"{SHEET}/strokes", {"strokes": [stroke]})

    def test_after_every_change_they_are_as_made_anew(self) -> None:
        layers = [{"id": "first", "name": "lines"}, {"id": "top", "name": "top", "shown": False}]
        changes: list[tuple[str, str, str, Any]] = [
            ("ink", "PUT", f"{SHEET}/strokes/bin", {"ids": ["a"], "binned": True}),
            ("ink back", "PUT", f"{SHEET}/strokes/bin", {"ids": ["a"], "binned": False}),
            (
                "pens",
                "PUT",
                f"{SHEET}/strokes/pens",
                {"inks": [{"ids": ["a"], "pen_id": "reed-ballpoint", "revision": 1}]},
            ),
            ("place", "POST", f"{SHEET}/strokes/place", {"ids": ["a"], "placement": [1, 0, 0, 1, 5, 9, 0, 0]}),
            ("rub", "POST", f"{SHEET}/rub", {"way": [[30, 20], [30, 60]], "radius_mm": 2}),
            ("layers", "PUT", f"{SHEET}/layers", {"layers": layers, "on": "first", "moved": {"top": ["b"]}}),
            ("paper", "PATCH", SHEET, {"paper": "ruled A6 cream"}),
            ("pen", "PATCH", SHEET, {"pen_id": "dusk-wash"}),
            ("revision", "POST", "/api/pens/fen-fountain/revisions", {"recipe": PENCIL}),
            ("hand", "PUT", "/api/hands/own", {"hand": dataclasses.asdict(Hand("own", tremor_mm=0.4))}),
            ("turn", "POST", f"{SHEET}/page/turn", None),
        ]
        seen: dict[str, set[bytes]] = {path: set() for _, path, _ in ASKED}
        for what, method, path, body in [("nothing", "GET", SHEET, None), *changes]:
            self.made(method, path, body)
            forgetful = create_app(self.folder)
            forgetful.extensions["answers"] = Answers(0)
            for way, asked, sent in ASKED:
                with self.subTest(f"{what}: {asked}"):
                    told = self.client.open(asked, method=way, json=sent)
                    anew = forgetful.test_client().open(asked, method=way, json=sent)
                    self.assertEqual(told.status_code, 200, told.data[:300])
                    self.assertEqual((told.data, dict(told.headers)), (anew.data, dict(anew.headers)))
                    seen[asked].add(told.data)
        unmoved = [path for path, bodies in seen.items() if len(bodies) == 1]
        self.assertEqual(unmoved, ["/api/pens/fen-fountain/revisions/1/swatch.png"], "all others can be wrong")

    def test_asked_again_nothing_is_made_and_an_unmet_change_does_not_matter(self) -> None:
        first = [self.client.open(path, method=way, json=sent).data for way, path, sent in ASKED]
        self.made("PATCH", "/api/desk", {"surface": "night"})
        with mock.patch.object(self.app.extensions["turns"], "turn", side_effect=AssertionError("made again")):
            again = [self.client.open(path, method=way, json=sent).data for way, path, sent in ASKED]
        self.assertEqual(first, again)

    def test_a_change_while_an_answer_is_made_is_not_missed(self) -> None:
        path, memory = ASKED[0][1], self.app.extensions["ink_memory"]
        drawn = memory.page

        def slow(*given: Any) -> Any:
            pixels = drawn(*given)
            other = threading.Thread(target=lambda: self.write("d", 90))
            other.start()
            other.join()
            return pixels

        with mock.patch.object(memory, "page", slow):
            before = self.client.get(path).data
        self.assertNotEqual(self.client.get(path).data, before)

    def test_the_oldest_are_forgotten_first(self) -> None:
        paths = [f"{SHEET}/page.png?scale={scale}" for scale in (5, 6, 7)]
        most = sum(len(self.client.get(path).data) for path in paths[1:]) + 10_000  # two, and what they were made from
        self.app.extensions["answers"] = Answers(most)
        for path in paths:
            self.client.get(path)
        made = {}
        with mock.patch.object(self.app.extensions["ink_memory"], "page", side_effect=NoInk("made again")):
            made = {path: self.client.get(path).status_code != 200 for path in paths}
        self.assertEqual(made, dict(zip(paths, (True, False, False), strict=True)))

    def test_long_addresses_count(self) -> None:
        kept = Answers(1_000_000)
        answer = Answer(b"", (), 200, (), b"", 0)
        for k in range(200):
            kept.keep(("GET", f"/api/desk?{k}" + "x" * 30_000, "", "", ""), answer)
        self.assertLessEqual(len(kept._kept), 32)
